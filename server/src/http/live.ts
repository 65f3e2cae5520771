// Server-sent events: what is seen now, events, alerts, modes, health.

import { createChannel, createSession } from 'better-sse';
import type { Request, Response } from 'express';
import type { TrackView } from '@nibber/core/sieve';
import type { WalkNow } from '../follow/walk-test';
import type { AreaMode } from '../record/site';

export type LiveMessage =
  | {
      readonly kind: 'seen';
      readonly camera: string;
      readonly at: number;
      readonly tracks: readonly (Pick<TrackView, 'key' | 'class' | 'type' | 'score' | 'box'> & { readonly unseenMs: number })[];
    }
  | { readonly kind: 'event' | 'track'; readonly id: string }
  | { readonly kind: 'mode'; readonly mode: AreaMode }
  | { readonly kind: 'site' }
  /** A device has said something of itself. */
  | { readonly kind: 'said' }
  /** A paired camera has sent something. */
  | { readonly kind: 'arrived'; readonly camera: string }
  /** How far a walk test has come; null when none is going on any more. */
  | { readonly kind: 'walk'; readonly now: WalkNow | null }
  | { readonly kind: 'time'; readonly now: number; readonly troubles: readonly string[] };

export type Live = { say(message: LiveMessage): void; join(request: Request, response: Response): Promise<void>; close(): void };

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
    close: () => open.forEach((r) => r.destroy()),
  };
}
