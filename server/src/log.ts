import pino from 'pino';

export const log = pino({ level: process.env.NIBBER_LOG ?? 'info', base: null });
