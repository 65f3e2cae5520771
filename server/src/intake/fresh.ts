// A still that is not older than the question. A camera that sleeps hands out its last picture at once and a new one some seconds later.

import type { Login } from '../net/login';
import { fetchStill } from './camera';
import { pause } from '../base/pause';

export type FreshStill = { readonly jpeg: Buffer; readonly takenAt: number; readonly isFresh: boolean };

const patienceMs = 20_000;
const askEveryMs = 1000;
/** Last-Modified has whole seconds, and clocks differ a little. */
const slackMs = 3000;

/**
 * @param askedAt the site's time now
 * @returns the newest there was in twenty seconds; `isFresh` says whether it is newer than the question
 * @throws what `problemOf` explains
 */
export async function freshStill(url: string, login: Login | undefined, askedAt: number): Promise<FreshStill> {
  const end = Date.now() + patienceMs;
  for (;;) {
    const { jpeg, takenAt } = await fetchStill(url, login);
    // One that says no time is taken at its word: it was made when it was asked for.
    const at = takenAt ?? askedAt;
    const isFresh = at >= askedAt - slackMs;
    if (isFresh || Date.now() >= end) return { jpeg, takenAt: at, isFresh };
    await pause(askEveryMs);
  }
}
