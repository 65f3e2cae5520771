// The program's own words, as JSON lines on standard error; standard output belongs to the commands. No secret stands in them.

import pino from 'pino';
import { cleaned } from './without-secrets';

export const log = pino(
  {
    level: process.env.NIBBER_LOG ?? 'info',
    base: null,
    hooks: {
      logMethod(args, method) {
        method.apply(this, args.map((a) => cleaned(a)) as Parameters<typeof method>);
      },
    },
  },
  pino.destination(2),
);
