// What passes between the stations of a site: each kind of event with its type, published at once to all listeners, in the order in which they
// were added.

import type { Looks } from '@nibber/core/boxes';
import type { TrackView } from '@nibber/core/sieve';
import type { Instant } from '@nibber/core/time';
import type { RecentFrame } from '@nibber/core/tuning';
import type { SiteChange, Stored, WalkNow } from './events';
import type { Failures } from './failures';
import type { Delivered, SafePicture, Watched } from './picture';

export type BusEvents = {
  /** A picture that may be kept and shown. `cells`: what differed from the background. */
  picture: { readonly picture: SafePicture; readonly cells: RecentFrame | undefined };
  /** A picture was looked at. */
  watched: Watched;
  delivered: Delivered;
  /** What of a camera's open tracks was seen at an instant. */
  sighted: { readonly camera: string; readonly at: Instant; readonly tracks: readonly TrackView[] };
  /** A paired camera's delivery has gone through. */
  arrived: { readonly camera: string };
  /** Every picture up to an instant has been looked at. */
  reached: Instant;
  /** Something is on disk. */
  stored: Stored;
  /** An event has changed: its alerts, its description. */
  event: { readonly id: string };
  /** What an AI service knew of a thing that may still be there, by its track. */
  learnt: { readonly track: string; readonly looks: Looks };
  /** How far a walk test has come; undefined when it is over. */
  walk: WalkNow | undefined;
  /** A device has said something of itself. */
  said: { readonly camera: string };
  /** What a camera saw must not be seen any more. */
  forgotten: { readonly camera: string };
  /** The site, or how an area is armed. */
  site: SiteChange;
};

export type Bus = {
  /** @param station whose failure it is when the listener throws */
  on<K extends keyof BusEvents>(kind: K, station: string, listener: (event: BusEvents[K]) => void): void;
  /** Calls every listener; one that throws is reported, and holds up no other. */
  publish<K extends keyof BusEvents>(kind: K, event: BusEvents[K]): void;
};

type Listener<K extends keyof BusEvents> = { readonly station: string; readonly listener: (event: BusEvents[K]) => void };

export function openBus({ report }: Pick<Failures, 'report'>): Bus {
  const listeners: { [K in keyof BusEvents]?: Listener<K>[] } = {};
  return {
    on(kind, station, listener) {
      ((listeners[kind] ??= []) as unknown[]).push({ station, listener });
    },
    publish(kind, event) {
      for (const { station, listener } of listeners[kind] ?? [])
        try {
          listener(event);
        } catch (thrown) {
          report(station, thrown);
        }
    },
  };
}
