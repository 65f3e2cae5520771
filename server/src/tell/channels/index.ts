// The channels by which people are told: each is one file behind this face. A new one is a file and a line in `place/index.ts`.

import type { Transaction } from 'sequelize';
import type { Channel as ChannelName } from '@nibber/core/recipients';

/** What is said, the same by every channel. */
export type Notice = {
  /** The alert; whoever shows it does so once, and fills it in when it comes again. */
  readonly id: string;
  readonly kind: 'alert' | 'fill-in';
  readonly title: string;
  readonly body: string;
  /** ISO 8601, with the wall time of the place in `when`. */
  readonly at: string;
  readonly when: string;
  readonly picture: string | null;
  readonly open: string;
  /** What it belongs to; one that joins an open thread, or fills in, makes no sound. */
  readonly thread: string | null;
  readonly silent: boolean;
};

/** Gone: there is nothing there any more that could be told. */
export type Answer =
  { readonly kind: 'accepted' } | { readonly kind: 'gone'; readonly why: string } | { readonly kind: 'failed'; readonly why: string };

/** What is reached of people by one channel, at one moment. */
export type Reach = {
  /** A person's targets; none where she is not reached. */
  of(person: string): readonly string[];
  /** Why somebody without a target is not reached. */
  readonly why: string;
};

export type Channel = {
  readonly name: ChannelName;
  reach(transaction?: Transaction): Promise<Reach>;
  /** Whose a target is; undefined where it is gone. */
  personOf(target: string): Promise<string | undefined>;
  send(target: string, notice: Notice): Promise<Answer>;
};
