// Small values of this data folder, by name.

import type { Transaction } from 'sequelize';
import type { Database } from './database';

export type Settings = {
  get(key: string): Promise<string | undefined>;
  set(key: string, value: string): Promise<void>;
  remove(key: string, transaction: Transaction): Promise<void>;
  /** Whether the disk can be written to; checked now and then, however often it is asked. */
  isWritable(): Promise<boolean>;
};

const checkEveryMs = 20_000;

export function openSettings({ tables: { settings }, write }: Database): Settings {
  let checked: { at: number; answer: Promise<boolean> } | undefined;
  const set = (key: string, value: string) => write(async (transaction) => void (await settings.upsert({ key, value }, { transaction })));
  return {
    get: async (key) => (await settings.findByPk(key))?.value,
    set,
    remove: async (key, transaction) => void (await settings.destroy({ where: { key }, transaction })),
    isWritable() {
      const now = performance.now();
      if (!checked || now - checked.at > checkEveryMs)
        checked = {
          at: now,
          answer: set('last health check', 'ok').then(
            () => true,
            () => false,
          ),
        };
      return checked.answer;
    },
  };
}
