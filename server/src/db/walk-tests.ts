// Walk tests, with what each has shown.

import type { Transaction } from 'sequelize';
import type { Instant } from '@nibber/core/time';
import type { Database } from './database';
import type { StoredFile } from '../base/picture';
import type { Media } from './media';
import type { WalkTestRow } from './rows';

export type WalkTests = {
  keep(test: WalkTestRow): Promise<void>;
  /** Holds the picture of one of its items. */
  holdPicture(test: string, item: number, picture: StoredFile, camera: string, takenAt: Instant): Promise<void>;
  find(id: string): Promise<WalkTestRow | undefined>;
  /** Newest first. */
  newest(max: number): Promise<WalkTestRow[]>;
};

/** The role in which a test holds the picture of an item. */
export const itemRole = (item: number): string => `item ${item}`;

export function openWalkTests({ tables: { walkTests }, write }: Database, media: Media): WalkTests {
  return {
    keep: async (test) => void (await write((transaction) => walkTests.upsert(test, { transaction }))),
    holdPicture: (test, item, picture, camera, takenAt) =>
      write((transaction: Transaction) =>
        media.hold(transaction, { holder: 'walk test', holderId: test, role: itemRole(item), camera, takenAt, file: picture }),
      ),
    find: async (id) => (await walkTests.findByPk(id))?.get({ plain: true }),
    newest: async (max) => (await walkTests.findAll({ order: [['startedAt', 'DESC']], limit: max })).map((t) => t.get({ plain: true })),
  };
}
