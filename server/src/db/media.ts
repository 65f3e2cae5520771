// Who holds which file: an event its picture and clip, a delivery its picture. What no one holds any more is deleted, and nothing else.

import { Op, QueryTypes, type Transaction, type WhereOptions } from 'sequelize';
import type { Held as HeldByAge, RetentionKind } from '@nibber/core/retention';
import { dayMs, type Instant } from '@nibber/core/time';
import type { StoredFile } from '../base/picture';
import type { Database } from './database';
import type { FileKind, Files } from './files';
import type { MediaHolder, MediaRow } from './rows';

/** Writes a file; it is on disk when this resolves. */
export type StoreFile = (bytes: Uint8Array, kind: FileKind) => Promise<StoredFile>;

/** Of a holder, by role. */
export type Held = { readonly [role: string]: { readonly name: string; readonly takenAt: Instant | null } | undefined };

export type Holding = Omit<MediaRow, 'id' | 'name' | 'bytes'> & { readonly file: StoredFile };

export type Media = {
  /** What is kept within `work` is safe until that is over; by then it is held, or no one's. */
  using<T>(work: (keep: StoreFile) => Promise<T>): Promise<T>;
  /** Notes who holds which, in place of what was held in those roles. */
  hold(transaction: Transaction, ...holdings: readonly Holding[]): Promise<void>;
  /** What is held in these roles stays, as the one before, when something else takes its place. */
  keepBefore(transaction: Transaction, holder: MediaHolder, id: string, roles: readonly string[]): Promise<void>;
  of(holder: MediaHolder, ids: readonly string[], transaction?: Transaction): Promise<ReadonlyMap<string, Held>>;
  /**
   * No one of these holds anything from then on; files that no other holds are deleted once that is written.
   * @param role only in this role, or in any but one
   * @returns the bytes of those files
   */
  letGo(transaction: Transaction, holder: MediaHolder, ids: readonly string[], role?: string | { readonly not: string }): Promise<number>;
  /** Of all that is held, bytes on the disk. */
  bytes(): Promise<number>;
  /** What is held on the disk, by what it is held for. */
  held(): Promise<readonly { readonly holder: MediaHolder; readonly role: string; readonly files: number; readonly bytes: number }[]>;
  /** Bytes of pictures and clips, by kind and by how many days old they are. */
  byAge(now: Instant): Promise<HeldByAge[]>;
  /** The cameras that a file is a picture of. */
  camerasOf(name: string): Promise<string[]>;
  read(name: string): Promise<Buffer>;
  file(name: string): string | undefined;
  /**
   * Deletes files that no one holds, as of a program that was killed; counts bytes that were not counted.
   * @param stop ends it between two folders @returns how many went
   */
  tidy(stop: AbortSignal): Promise<number>;
};

/** Another program may be writing beside this one, and hold what it wrote a moment later. */
const orphanMs = 10 * 60_000;
const atOnce = 400;

const columns = ['name', 'bytes', 'role', 'holder', 'holderId', 'camera', 'takenAt'] as const;
/** Adds those whose place is free, and says which. `WHERE true` keeps ON CONFLICT from being read as a join's. */
const insertFree = (rows: number) =>
  `WITH asked(${columns.join(', ')}) AS (VALUES ${Array.from({ length: rows }, () => `(${columns.map(() => '?').join(', ')})`).join(', ')})
   INSERT INTO media (${columns.join(', ')}) SELECT * FROM asked WHERE true
   ON CONFLICT (holder, holderId, role) DO NOTHING RETURNING holderId, role`;

export function openMedia({ tables: { media }, sequelize, write }: Database, files: Files): Media {
  /** In use by how many: kept, and perhaps not held yet. */
  const pending = new Map<string, number>();
  const settle = (name: string) => {
    const left = (pending.get(name) ?? 0) - 1;
    if (left > 0) pending.set(name, left);
    else pending.delete(name);
  };
  const removeUnheld = async (names: readonly string[], transaction: Transaction) => {
    const held = new Set(
      (await media.findAll({ attributes: ['name'], where: { name: [...names] }, transaction, raw: true })).map((m) => m.name),
    );
    const free = names.filter((name) => !held.has(name));
    transaction.afterCommit(() => free.forEach((name) => !pending.has(name) && files.remove(name)));
    return free;
  };
  return {
    async using(work) {
      const used: string[] = [];
      try {
        return await work(async (bytes, kind) => {
          const name = files.nameOf(bytes, kind);
          // Registered first: a concurrent release of the same bytes then leaves the file.
          pending.set(name, (pending.get(name) ?? 0) + 1);
          used.push(name);
          await files.keep(bytes, kind);
          return { name, bytes: bytes.length };
        });
      } finally {
        used.forEach(settle);
      }
    },
    async hold(transaction, ...holdings) {
      const rows = holdings.map(({ file, ...holding }) => ({ ...holding, ...file }));
      // Nearly always nothing was held there: one statement for all of it, in what others wait for.
      const values = rows.map((row) => columns.map((c) => row[c]));
      const added = await sequelize.query<{ holderId: string; role: string }>(insertFree(rows.length), {
        replacements: values.flat(),
        type: QueryTypes.SELECT,
        transaction,
      });
      for (const row of rows) {
        const { holder, holderId, role } = row;
        if (added.some((a) => a.holderId === holderId && a.role === role)) continue;
        const before = await media.findOne({ where: { holder, holderId, role }, transaction, raw: true });
        await media.update(row, { where: { holder, holderId, role }, transaction });
        if (before && before.name !== row.name) await removeUnheld([before.name], transaction);
      }
    },
    async keepBefore(transaction, holder, id, roles) {
      for (const { name, bytes, camera, takenAt, role: held } of await media.findAll({
        where: { holder, holderId: id, role: [...roles] },
        transaction,
        raw: true,
      })) {
        const role = `${held} before`;
        const earlier = await media.findOne({ where: { holder, holderId: id, role }, transaction, raw: true });
        await media.destroy({ where: { holder, holderId: id, role }, transaction });
        await media.create({ name, bytes, camera, takenAt, holder, holderId: id, role }, { transaction });
        if (earlier && earlier.name !== name) await removeUnheld([earlier.name], transaction);
      }
    },
    async of(holder, ids, transaction) {
      const found = new Map<string, { [role: string]: { name: string; takenAt: Instant | null } }>();
      for (const m of await media.findAll({ where: { holder, holderId: [...ids] }, transaction, raw: true })) {
        const held = found.get(m.holderId) ?? {};
        held[m.role] = { name: m.name, takenAt: m.takenAt };
        found.set(m.holderId, held);
      }
      return found;
    },
    async letGo(transaction, holder, ids, role) {
      const inRole = role === undefined ? {} : { role: typeof role === 'string' ? role : { [Op.ne]: role.not } };
      let bytes = 0;
      for (let i = 0; i < ids.length; i += atOnce) {
        const where: WhereOptions<MediaRow> = { holder, holderId: ids.slice(i, i + atOnce), ...inRole };
        const gone = await media.findAll({ attributes: ['name', 'bytes'], where, transaction, raw: true });
        await media.destroy({ where, transaction });
        const sizes = new Map(gone.map((m) => [m.name, m.bytes ?? 0]));
        for (const name of await removeUnheld([...sizes.keys()], transaction)) bytes += sizes.get(name)!;
      }
      return bytes;
    },
    async bytes() {
      const [row] = await sequelize.query<{ bytes: number | null }>(
        `SELECT SUM(bytes) AS bytes FROM (SELECT bytes FROM media GROUP BY name)`,
        {
          type: QueryTypes.SELECT,
        },
      );
      return row?.bytes ?? 0;
    },
    held: () =>
      // The same bytes may be held several times and lie on the disk once: they count for the holder that comes first.
      sequelize.query(
        `SELECT holder, role, COUNT(*) AS files, SUM(COALESCE(bytes, 0)) AS bytes
         FROM (SELECT MIN(holder || ' ' || role), holder, role, bytes FROM media GROUP BY name) GROUP BY holder, role ORDER BY bytes DESC`,
        { type: QueryTypes.SELECT },
      ),
    async byAge(now) {
      // The same bytes may be held several times and lie on the disk once.
      const rows = await sequelize.query<{ kind: RetentionKind; age: number; bytes: number }>(
        `SELECT kind, age, SUM(bytes) AS bytes FROM (
           SELECT CASE WHEN holder = 'delivery' THEN 'deliveries' WHEN holder = 'reading' THEN 'readings' WHEN role = 'clip' THEN 'clips'
             WHEN holder = 'track' THEN 'filteredOut' ELSE 'pictures' END AS kind,
             MAX(0, (:now - MAX(takenAt)) / ${dayMs}) AS age, bytes
           FROM media WHERE takenAt IS NOT NULL AND bytes IS NOT NULL AND holder IN ('event', 'track', 'delivery', 'reading') GROUP BY name)
         GROUP BY kind, age`,
        { replacements: { now }, type: QueryTypes.SELECT },
      );
      const kinds = new Map<RetentionKind, number[]>();
      for (const { kind, age, bytes } of rows) {
        const ages = kinds.get(kind) ?? [];
        while (ages.length <= age) ages.push(0);
        ages[age] = bytes;
        kinds.set(kind, ages);
      }
      return [...kinds].map(([kind, ages]) => ({ kind, byAge: ages }));
    },
    camerasOf: async (name) => [...new Set((await media.findAll({ where: { name }, raw: true })).flatMap((m) => m.camera ?? []))],
    read: (name) => files.read(name),
    file: (name) => files.file(name),
    async tidy(stop) {
      for (const { id, name } of await media.findAll({ where: { bytes: null }, limit: 10_000, raw: true })) {
        if (stop.aborted) return 0;
        await write((transaction) => media.update({ bytes: files.bytes(name) ?? 0 }, { where: { id }, transaction }));
      }
      let gone = 0;
      // Folder and table in step: the names of a folder begin alike, and one query says which of them are held.
      for await (const { begin, names } of files.shelves()) {
        if (stop.aborted) return gone;
        const where = { name: { [Op.gte]: begin, [Op.lt]: `${begin}g` } };
        const held = new Set((await media.findAll({ attributes: ['name'], where, group: ['name'], raw: true })).map((m) => m.name));
        for (const name of names.filter((n) => !held.has(n))) {
          if (((await files.ageMs(name)) ?? 0) < orphanMs) continue;
          await write(async (transaction) => {
            if ((await media.count({ where: { name }, transaction })) > 0 || pending.has(name)) return;
            files.remove(name);
            gone++;
          });
        }
      }
      return gone;
    },
  };
}
