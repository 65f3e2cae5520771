// What channels are let in by elsewhere: passwords, keys, what signs. Sealed; it never leaves the server but to where it is used.

import type { Transaction } from 'sequelize';
import type { Sealed } from '../../record/sealed';

export type ChannelSecrets = {
  /** @param of `mail`, `text`, or a receiver's id */
  of(of: string): Promise<string | undefined>;
  give(of: string, secret: string, transaction: Transaction): Promise<void>;
  drop(of: string, transaction: Transaction): Promise<void>;
};

export const secretName = (of: string): string => `channel ${of}`;

export const openChannelSecrets = (sealed: Sealed): ChannelSecrets => ({
  of: (of) => sealed.get<string>(secretName(of)),
  give: (of, secret, transaction) => sealed.put(secretName(of), secret, transaction),
  drop: (of, transaction) => sealed.drop(secretName(of), transaction),
});
