// Server-sent events to whoever looks on.

import { createChannel, createSession } from 'better-sse';
import type { Request, Response } from 'express';
import type { LiveMessage } from './messages';

export type Live = {
  say(message: LiveMessage): void;
  join(request: Request, response: Response): Promise<void>;
  /** Whether anybody listens. */
  isHeard(): boolean;
  close(): void;
};

export function openLive(): Live {
  const channel = createChannel();
  const open = new Set<Response>();
  return {
    say: (message) => channel.broadcast(message, message.kind),
    async join(request, response) {
      open.add(response);
      response.on('close', () => open.delete(response));
      channel.register(await createSession(request, response, { keepAlive: 15_000 }));
    },
    isHeard: () => open.size > 0,
    close: () => open.forEach((r) => r.destroy()),
  };
}
