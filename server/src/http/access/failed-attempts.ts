// Tries to sign in, and the waits that grow with those that fail: for a name from one place, for a place, and for a name from everywhere.
// A browser that has signed in before is known by its own cookie, so that no one is kept out by what strangers try.

import { createHmac, timingSafeEqual } from 'node:crypto';
import { Problem } from '@nibber/core/problem';

/** Whoever tries: the account's name as typed, where from, and whether the browser is known to this account. */
export type AttemptSource = { readonly name: string; readonly address: string; readonly isKnown: boolean };

export type FailedAttempts = {
  /** Counts a try as failed until it is said to be right. @throws Problem 'too-many-tries' with how long to wait */
  begin(trier: AttemptSource): void;
  right(trier: AttemptSource): void;
};

/** Failures that cost nothing, and the longest wait after more, ms. The wait doubles with each. */
const limits = {
  /** One name from one address, or from one known browser. */
  pair: { free: 4, longest: 15 * 60_000 },
  address: { free: 20, longest: 5 * 60_000 },
  /** From addresses and browsers that have never been right: short, since anyone can bring it about. */
  name: { free: 20, longest: 30_000 },
} as const;
type Scope = keyof typeof limits;
const forgottenMs = 3600_000;
const maxHeld = 20_000;

export function countFailedAttempts(now: () => number): FailedAttempts {
  const held = new Map<string, { fails: number; last: number }>();
  const keysOf = ({ name, address, isKnown }: AttemptSource): [Scope, string][] => {
    const who = name.trim().toLowerCase();
    return isKnown
      ? [['pair', `known ${who}`]]
      : [
          ['pair', `pair ${address} ${who}`],
          ['address', `address ${address}`],
          ['name', `name ${who}`],
        ];
  };
  const waitOf = ([scope, key]: [Scope, string]): number => {
    const known = held.get(key);
    const { free, longest } = limits[scope];
    if (!known || known.fails < free) return 0;
    return known.last + Math.min(longest, 1000 * 2 ** Math.min(20, known.fails - free)) - now();
  };
  return {
    begin(trier) {
      const keys = keysOf(trier);
      const wait = Math.max(...keys.map(waitOf));
      if (wait > 0) {
        const seconds = Math.ceil(wait / 1000);
        throw new Problem(
          'too-many-tries',
          'Too many attempts to sign in.',
          `Wait ${seconds < 120 ? `${seconds} s` : `${Math.ceil(seconds / 60)} min`}, then try again.`,
        );
      }
      for (const [, key] of keys) {
        const known = held.get(key);
        const fails = known && now() - known.last < forgottenMs ? known.fails : 0;
        held.delete(key);
        held.set(key, { fails: fails + 1, last: now() });
      }
      // The oldest are forgotten first: a flood of invented names must not cost memory.
      for (const key of held.keys()) {
        if (held.size <= maxHeld) break;
        held.delete(key);
      }
    },
    right(trier) {
      for (const [scope, key] of keysOf(trier)) {
        if (scope === 'pair') held.delete(key);
        else {
          const known = held.get(key);
          if (known) held.set(key, { ...known, fails: Math.max(0, known.fails - 1) });
        }
      }
    },
  };
}

/** The mark of a browser that has signed in as a person: it lets no one in, and only takes part in counting tries. */
export const browserMark = (secret: Buffer, person: string): string =>
  `${Buffer.from(person).toString('base64url')}.${createHmac('sha256', secret).update(`browser ${person}`).digest('base64url')}`;

export function isMarked(secret: Buffer, person: string | undefined, mark: string | undefined): boolean {
  if (!person || !mark) return false;
  const [given, right] = [Buffer.from(mark), Buffer.from(browserMark(secret, person))];
  return given.length === right.length && timingSafeEqual(given, right);
}
