// The channels by which people and other programs are notified: each is one file with this interface. A new one is a file and a line in
// `runtime/index.ts`.

import type { Transaction } from 'sequelize';
import type { Channel as ChannelName } from '@nibber/core/channels';
import type { ClassName } from '@nibber/core/boxes';
import type { NoticeAction } from '../../base/actions';

/** What is said, the same by every channel. */
export type Notice = {
  /** The alert; a phone shows it once, and fills it in when it comes again. */
  readonly id: string;
  readonly kind: 'alert' | 'fill-in';
  readonly title: string;
  readonly body: string;
  /** ISO 8601, with the wall time of the site in `when`. */
  readonly at: string;
  readonly when: string;
  /** A signed link, and the same cut to what a notification has room for. */
  readonly picture: string | null;
  readonly small: string | null;
  readonly open: string;
  /** The camera, live. */
  readonly live: string | null;
  /** What it belongs to; one that joins an open thread, or fills in, makes no sound. */
  readonly thread: string | null;
  readonly joins: boolean;
  /** How many of its thread they were notified of, including this one. */
  readonly count: number;
  readonly silent: boolean;
  /** How many alerts of theirs no one looked at with their eyes. */
  readonly badge: number;
  readonly actions: readonly { readonly action: NoticeAction; readonly words: string; readonly token: string }[];
  /** For other programs. */
  readonly of: {
    readonly event: string;
    readonly rule: string | null;
    readonly camera: string | null;
    readonly area: string;
    readonly class: ClassName | null;
    readonly type: string | null;
    readonly description: string | null;
  };
};

/** Gone: the target no longer exists. `said`: what the other side answered. */
export type Answer =
  | { readonly kind: 'accepted'; readonly said?: string }
  | { readonly kind: 'gone'; readonly why: string }
  | { readonly kind: 'failed'; readonly why: string };

/** What is reached by one channel, at one moment. */
export type Reach = {
  /** The targets of a person, or of another program; none where they are not reached. */
  of(to: string): readonly string[];
  /** Why one without a target is not reached. */
  why(to: string): string;
};

export type Channel = {
  readonly name: ChannelName;
  /** What a late description does: it replaces the alert; or the alert waits for it this long (ms) and is sent once. */
  readonly fillsIn: true | number;
  reach(transaction?: Transaction): Promise<Reach>;
  /** Whose a target is; undefined where it is gone. */
  recipientOf(target: string): Promise<string | undefined>;
  send(target: string, notice: Notice): Promise<Answer>;
  close?(): Promise<void>;
};

/** As much of a foreign answer as is shown. */
export const maxAnswerBytes = 400;
export const shownAnswer = (text: string): string => text.replace(/\s+/g, ' ').trim().slice(0, 200);
