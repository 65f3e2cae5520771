// Server-sent events to viewers: each gets what they may see.

import { createSession, type Session } from 'better-sse';
import type { Response } from 'express';
import type { PersonAccess } from '@nibber/core/people';
import { asSeen, type LiveMessage } from './messages';
import type { Viewers } from './viewers';

export type Live = Viewers & {
  say(message: LiveMessage): void;
  close(): void;
};

export function openLive(): Live {
  const open = new Map<Response, { readonly session: Session; readonly visible: () => PersonAccess | undefined } | undefined>();
  return {
    say(message) {
      for (const viewer of open.values()) {
        const visible = viewer?.visible();
        const seen = visible && asSeen(message, visible);
        if (seen && viewer?.session.isConnected) viewer.session.push(seen, seen.kind);
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
