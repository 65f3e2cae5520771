// What can be done from a notification, also while the application is closed and no one is signed in there: a token for one action on one alert
// by one person, which ends and is good once. It is no session: it can do that one thing.

import { createHmac, timingSafeEqual } from 'node:crypto';

/** What a notification can do by itself, each with a token that is good once, for this alert. */
export const noticeActions = ['quiet', 'noise'] as const;
export type NoticeAction = (typeof noticeActions)[number];

export type ActionClaim = { readonly alert: string; readonly person: string; readonly action: NoticeAction; readonly expires: number };

export type ActionTokens = {
  make(claim: Omit<ActionClaim, 'expires'>): string;
  /** What a token allows; undefined for one that was not made here, or is over. That it is used once is kept in the record. */
  read(token: string): ActionClaim | undefined;
};

const lastsMs = 24 * 3600_000;

export function makeActionTokens(secret: Buffer, machine: () => number): ActionTokens {
  // A purpose of its own: what signs links signs no actions.
  const sign = (claim: string) => createHmac('sha256', secret).update(`action ${claim}`).digest();
  return {
    make(claim) {
      const text = Buffer.from(JSON.stringify([claim.alert, claim.person, claim.action, machine() + lastsMs])).toString('base64url');
      return `${text}.${sign(text).toString('base64url')}`;
    },
    read(token) {
      const [text = '', signature = ''] = token.split('.');
      const [given, right] = [Buffer.from(signature, 'base64url'), sign(text)];
      if (given.length !== right.length || !timingSafeEqual(given, right)) return undefined;
      const [alert, person, action, expires] = JSON.parse(Buffer.from(text, 'base64url').toString()) as [
        string,
        string,
        NoticeAction,
        number,
      ];
      return expires > machine() && noticeActions.includes(action) ? { alert, person, action, expires } : undefined;
    },
  };
}
