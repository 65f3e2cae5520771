// The pull points of a device (ONVIF Core, event handling): states are sent once when a pull point is created, and again when they change.

import { randomUUID } from 'node:crypto';
import { writeOnvifEvent } from '@nibber/core/formats';

export type DeviceState = { readonly kind: 'motion' | 'too-dark'; readonly source: string; readonly isActive: boolean };

export type EventsNeeds = {
  readonly now: () => number;
  readonly address: (id: string) => string;
  readonly states: () => Promise<readonly DeviceState[]>;
};

type Point = { readonly known: Map<string, boolean>; endsAt: number };

const lookEveryMs = 500;
const lastsMs = 60_000;
const itemNames = { motion: ['Source', 'State'], 'too-dark': ['Source', 'State'] } as const;

/** `path` is that of the request; undefined where there is no such point. */
export function pullPoints({ now, address, states }: EventsNeeds) {
  const points = new Map<string, Point>();
  let isOver = false;
  const find = (path: string) => {
    const point = points.get(/pull-([\w-]+)$/.exec(path)?.[1] ?? '');
    return point && point.endsAt > Date.now() ? point : undefined;
  };
  const times = (point: Point) =>
    `<tev:CurrentTime>${new Date(now()).toISOString()}</tev:CurrentTime><tev:TerminationTime>${new Date(now() + point.endsAt - Date.now()).toISOString()}</tev:TerminationTime>`;
  const news = async (point: Point) =>
    (await states()).flatMap(({ kind, source, isActive }) => {
      const key = `${kind} ${source}`;
      const before = point.known.get(key);
      if (before === isActive) return [];
      point.known.set(key, isActive);
      const [sourceName, stateName] = itemNames[kind];
      return writeOnvifEvent({
        at: now(),
        kind,
        topic: '',
        operation: before === undefined ? 'Initialized' : 'Changed',
        source: { [sourceName]: source },
        data: { [stateName]: String(isActive) },
        isActive,
      });
    });
  return {
    open(): string {
      const id = randomUUID();
      points.set(id, { known: new Map(), endsAt: Date.now() + lastsMs });
      return `<tev:CreatePullPointSubscriptionResponse><tev:SubscriptionReference><wsa:Address>${address(id)}</wsa:Address></tev:SubscriptionReference><wsnt:CurrentTime>${new Date(now()).toISOString()}</wsnt:CurrentTime><wsnt:TerminationTime>${new Date(now() + lastsMs).toISOString()}</wsnt:TerminationTime></tev:CreatePullPointSubscriptionResponse>`;
    },
    /** Waits for news as long as it is asked to; keeps the point alive. */
    pull(path: string, body: string): Promise<string> | undefined {
      const point = find(path);
      if (!point) return undefined;
      const seconds = Number(/PT(\d+)S/.exec(body)?.[1] ?? 1);
      const until = Date.now() + seconds * 1000;
      const look = async (): Promise<string> => {
        point.endsAt = Date.now() + lastsMs;
        const messages = await news(point);
        if (messages.length > 0 || Date.now() >= until || isOver)
          return `<tev:PullMessagesResponse>${times(point)}${messages.join('')}</tev:PullMessagesResponse>`;
        await new Promise((r) => setTimeout(r, lookEveryMs).unref());
        return look();
      };
      return look();
    },
    close(path: string): string | undefined {
      if (!find(path)) return undefined;
      points.delete(/pull-([\w-]+)$/.exec(path)![1]!);
      return '<wsnt:UnsubscribeResponse/>';
    },
    end: () => void (isOver = true),
  };
}
