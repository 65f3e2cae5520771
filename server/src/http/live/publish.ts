// What happens at the site, sent to its viewers.

import { log } from '../../base/log';
import { answerOf, seenAnswer } from '../cameras/answer';
import { eventItems, trackItems } from '../events/answer';
import { sieveOfADay } from '../events/sieve';
import type { Services } from '../services';
import type { Live } from '.';
import type { LiveMessage } from './messages';

/** The sieve is counted no oftener than this. */
const sieveEveryMs = 3000;

export function notifyLive(services: Services, live: Live): void {
  const { bus, follow, recent, clock, record, site, schedule, cameras, problems } = services;
  /** What must be read first; no one waits for it, and if it is gone by then nothing is sent. */
  const sayOnce = (read: () => Promise<LiveMessage | undefined>) => {
    if (!live.isHeard()) return;
    read()
      .then((message) => message && live.say(message))
      .catch((thrown: Error) => log.warn({ error: thrown.message }, 'not sent to live viewers'));
  };
  const itemOf = async (id: string): Promise<LiveMessage | undefined> => {
    const event = await record.events.find(id);
    // Events of a walk test are in no list; viewers of such an event are still notified.
    if (event) return { kind: 'item', item: (await eventItems(services, [event]))[0]! };
    const track = await record.tracks.find(id);
    // A track of which an event came stands in no list by itself.
    return !track || track.hasEvent ? undefined : { kind: 'item', item: (await trackItems(services, [track]))[0]! };
  };
  let sieveIsDue: NodeJS.Timeout | undefined;
  const countSieve = () => {
    sieveIsDue ??= setTimeout(() => {
      sieveIsDue = undefined;
      sayOnce(async () => ({ kind: 'sieve', sieve: await sieveOfADay(services) }));
    }, sieveEveryMs).unref();
  };
  const camera = (id: string) => site.file.cameras.some((c) => c.id === id) && live.say({ kind: 'camera', camera: answerOf(services, id) });

  bus.on('watched', 'Live views', ({ picture: { camera: id, at } }) => {
    const now = recent.latest(id)?.at ?? at;
    live.say({ kind: 'seen', camera: id, at, tracks: follow.open(id, now).map(seenAnswer(now)) });
  });
  bus.on('stored', 'Live views', ({ id }) => {
    sayOnce(() => itemOf(id));
    countSieve();
  });
  bus.on('event', 'Live views', ({ id }) => {
    sayOnce(() => itemOf(id));
    countSieve();
  });
  bus.on('walk', 'Live views', (now) => live.say({ kind: 'walk', now: now ?? null }));
  bus.on('said', 'Live views', ({ camera: id }) => camera(id));
  bus.on('arrived', 'Live views', ({ camera: id }) => {
    camera(id);
    live.say({ kind: 'arrived', camera: id });
  });
  bus.on('site', 'Live views', (change) => live.say(change.kind === 'site' ? { kind: 'site' } : { kind: 'mode', mode: change.change }));
  schedule.every('*/5 * * * * *', 'Live views', () => {
    const how = site.file.cameras.map((c) => ({ id: c.id, health: cameras.health(c.id) ?? null }));
    live.say({ kind: 'time', now: clock.now(), problems: [...problems()], cameras: how });
  });
}
