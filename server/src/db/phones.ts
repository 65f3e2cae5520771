// Registered phones, each of one person.

import { randomUUID } from 'node:crypto';
import type { Transaction } from 'sequelize';
import type { Instant } from '@nibber/core/time';
import { Problem } from '@nibber/core/problem';
import type { Database } from './database';
import type { Doer } from '../base/events';
import type { Logbook } from './logbook';
import type { PhoneRow } from './rows';

export type Phones = {
  /** Those that are registered. */
  all(transaction?: Transaction): Promise<PhoneRow[]>;
  find(id: string): Promise<PhoneRow | undefined>;
  /** @throws Problem 'conflict' where the person has `most` already; the same endpoint again is the same phone */
  signUp(phone: Omit<PhoneRow, 'id' | 'goneAt'>, by: Doer, max: number): Promise<string>;
  signOff(phone: PhoneRow, by: Doer, at: Instant): Promise<void>;
  /** The push service says that there is no such phone any more. */
  gone(id: string, at: Instant): Promise<void>;
};

export function openPhones({ tables: { phones }, write }: Database, logbook: Logbook): Phones {
  return {
    all: async (transaction) => (await phones.findAll({ where: { goneAt: null }, transaction })).map((p) => p.get({ plain: true })),
    find: async (id) => (await phones.findByPk(id))?.get({ plain: true }),
    signUp: (phone, by, max) =>
      write(async (transaction) => {
        const { person, endpoint } = phone;
        const known = await phones.findOne({ where: { endpoint }, transaction });
        const others = (await phones.findAll({ where: { person, goneAt: null }, transaction })).filter((p) => p.id !== known?.id);
        if (others.length >= max)
          throw new Problem(
            'conflict',
            `${by.name} already has ${others.length} phones.`,
            `Unregister one of them first: ${others.map((p) => p.label).join(', ')}.`,
          );
        const id = known?.id ?? randomUUID();
        await phones.upsert({ ...phone, id, goneAt: null }, { transaction });
        if (!known) await logbook.note(transaction, phone.createdAt, by, `registered the phone ${phone.label}`);
        return id;
      }),
    signOff: (phone, by, at) =>
      write(async (transaction) => {
        await phones.update({ goneAt: at }, { where: { id: phone.id }, transaction });
        await logbook.note(transaction, at, by, `unregistered the phone ${phone.label}`);
      }),
    gone: async (id, at) => void (await write((transaction) => phones.update({ goneAt: at }, { where: { id }, transaction }))),
  };
}
