// Server-sent events to viewers: each gets what they may see.

import { createSession, type Session } from 'better-sse';
import type { Request, Response } from 'express';
import type { PersonAccess } from '@nibber/core/people';
import { asSeen, type LiveMessage } from './messages';

export type Live = {
  say(message: LiveMessage): void;
  /** @param sight what the viewer may see, asked again with every message; undefined once that is nothing */
  join(request: Request, response: Response, visible: () => PersonAccess | undefined): Promise<void>;
  /** Whether anyone listens. */
  isHeard(): boolean;
  close(): void;
};

export function openLive(): Live {
  const open = new Map<Response, { readonly session: Session; readonly visible: () => PersonAccess | undefined } | undefined>();
  return {
    say(message) {
      for (const combinedInto of open.values()) {
        const visible = combinedInto?.visible();
        const seen = visible && asSeen(message, visible);
        if (seen && combinedInto?.session.isConnected) combinedInto.session.push(seen, seen.kind);
      }
    },
    async join(request, response, visible) {
      open.set(response, undefined);
      response.on('close', () => open.delete(response));
      const session = await createSession(request, response, { keepAlive: 15_000 });
      if (open.has(response)) open.set(response, { session, visible });
    },
    isHeard: () => open.size > 0,
    close: () => [...open.keys()].forEach((r) => r.destroy()),
  };
}
