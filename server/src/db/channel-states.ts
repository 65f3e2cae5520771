// How each channel did when it was used last.

import type { Transaction } from 'sequelize';
import type { Instant } from '@nibber/core/time';
import type { Database } from './database';
import type { ChannelStateRow } from './rows';

export type ChannelStates = {
  all(): Promise<ChannelStateRow[]>;
  accepted(key: string, at: Instant, transaction: Transaction): Promise<void>;
  refused(key: string, at: Instant, why: string, transaction: Transaction): Promise<void>;
};

export function openChannelStates({ tables: { channelStates } }: Database): ChannelStates {
  const note = async (key: string, values: Partial<ChannelStateRow>, transaction: Transaction) => {
    const [changed] = await channelStates.update(values, { where: { key }, transaction });
    if (changed === 0) await channelStates.create({ key, acceptedAt: null, refusedAt: null, why: null, ...values }, { transaction });
  };
  return {
    all: async () => (await channelStates.findAll()).map((s) => s.get({ plain: true })),
    accepted: (key, at, transaction) => note(key, { acceptedAt: at }, transaction),
    refused: (key, at, why, transaction) => note(key, { refusedAt: at, why }, transaction),
  };
}
