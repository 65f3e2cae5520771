// What looks like someone trying to get in: refusals are logged one by one, and said where there are unusually many (ASVS 7.2.2, 11.1.7, 11.1.8).

import type { Clock } from '../../base/clock';
import type { Record } from '../../db';
import { problemsOf, type Station } from '../../base/station';
import { log } from '../../base/log';

export type Refused = {
  /** Wrong passwords and codes; what someone who is signed in may not do; addresses that open nothing. */
  readonly kind: 'sign-in' | 'permission' | 'address';
  /** Where it came from. */
  readonly from: string;
  readonly who: string | undefined;
  readonly path: string;
  readonly code: string;
};

export type Watching = Station & { refused(refused: Refused): void };

const windowMs = 10 * 60_000;
/** So many in that time are more than people mistype. */
const unusual = 30;
const noteEveryMs = 3_600_000;
const maxHeld = 1000;

const words: { readonly [K in Refused['kind']]: string } = {
  'sign-in': 'wrong passwords or codes',
  permission: 'forbidden requests',
  address: 'addresses that belong to no camera or invitation',
};

export function startWatching({ clock, record }: { readonly clock: Clock; readonly record: Pick<Record, 'logbook'> }): Watching {
  let recent: (Pick<Refused, 'kind' | 'from'> & { readonly at: number })[] = [];
  const notedAt = new Map<Refused['kind'], number>();
  const unusualNow = () => {
    const since = clock.machine() - windowMs;
    recent = recent.filter((r) => r.at > since);
    return (Object.keys(words) as Refused['kind'][]).flatMap((kind) => {
      const own = recent.filter((r) => r.kind === kind);
      const from = [...new Set(own.map((r) => r.from))];
      return own.length < unusual
        ? []
        : [
            {
              kind,
              words: `${own.length}${own.length === maxHeld ? ' or more' : ''} ${words[kind]} within 10 minutes, from ${from.slice(0, 3).join(', ')}${from.length > 3 ? ' and others' : ''}.`,
            },
          ];
    });
  };
  return {
    name: 'watching',
    refused({ kind, from, who, path, code }) {
      log.warn({ kind, from, who, path, code }, 'refused');
      recent.push({ kind, from, at: clock.machine() });
      if (recent.length > maxHeld) recent.shift();
      for (const found of unusualNow()) {
        if (clock.machine() - (notedAt.get(found.kind) ?? -Infinity) < noteEveryMs) continue;
        notedAt.set(found.kind, clock.machine());
        record.logbook
          .noteDeed(clock.now(), { name: 'Nibber' }, `refused unusually many requests: ${found.words}`)
          .catch((thrown: Error) => log.warn({ error: thrown.message }, 'not noted'));
      }
    },
    problems: () =>
      problemsOf(
        'notice',
        ...unusualNow().map((found) => `${found.words} Check the logbook. Change passwords if you do not know the source.`),
      ),
    close: async () => {},
  };
}
