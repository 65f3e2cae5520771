// The program's own words, as JSON lines on standard error; standard output belongs to the commands.

import pino from 'pino';

export const log = pino({ level: process.env.NIBBER_LOG ?? 'info', base: null }, pino.destination(2));
