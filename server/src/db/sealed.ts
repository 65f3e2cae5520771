// Secrets at rest: AES-256-GCM, each under its own name, with a key that is a file beside the database and never in it.

import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { Transaction } from 'sequelize';
import { Problem } from '@nibber/core/problem';
import type { Record } from './index';

export type Sealed = {
  /** Keeps a value under a name, in place of what was there. */
  put(name: string, value: unknown, transaction: Transaction): Promise<void>;
  drop(name: string, transaction: Transaction): Promise<void>;
  /** @throws Problem 'unavailable' where the key is not the one it was closed with */
  get<T>(name: string): Promise<T | undefined>;
  /** A value of this data folder, made when first asked for. `before`: the setting in which earlier versions kept it in the open. */
  made<T>(name: string, make: () => T, before?: { readonly setting: string; read(text: string): T }): Promise<T>;
};

const keyBytes = 32;
const ivBytes = 12;
const tagBytes = 16;

/** @param keyFile made, readable by its owner alone, when it is not there yet */
export function openSealed(record: Pick<Record, 'tables' | 'write' | 'settings' | 'sequelize'>, keyFile: string): Sealed {
  const key = keyOf(keyFile);
  const { sealed } = record.tables;
  const put = async (name: string, value: unknown, transaction: Transaction) =>
    void (await sealed.upsert({ name, box: close(key, name, JSON.stringify(value)) }, { transaction }));
  const get = async <T>(name: string) => {
    const row = await sealed.findByPk(name);
    return row ? (JSON.parse(open(key, name, row.box)) as T) : undefined;
  };
  return {
    put,
    drop: async (name, transaction) => void (await sealed.destroy({ where: { name }, transaction })),
    get,
    async made<T>(name: string, make: () => T, before?: { readonly setting: string; read(text: string): T }) {
      const known = await get<T>(name);
      if (known !== undefined) return known;
      const text = before && (await record.settings.get(before.setting));
      const value = text === undefined ? make() : before!.read(text);
      await record.write(async (transaction) => {
        await put(name, value, transaction);
        if (before) await record.settings.remove(before.setting, transaction);
      });
      // What was deleted stands on in the file's free pages until it is written again.
      if (text !== undefined) for (const command of ['VACUUM', 'PRAGMA wal_checkpoint(TRUNCATE)']) await record.sequelize.query(command);
      return value;
    },
  };
}

/** So many bytes that no one else knows, as text. */
export const randomSecret = (): string => randomBytes(32).toString('base64url');

function keyOf(file: string): Buffer {
  if (!existsSync(file)) writeFileSync(file, randomBytes(keyBytes).toString('base64url'), { mode: 0o600, flag: 'wx' });
  const key = Buffer.from(readFileSync(file, 'utf8').trim(), 'base64url');
  if (key.length !== keyBytes)
    throw new Problem(
      'unavailable',
      `${path.basename(file)} contains no key of ${keyBytes} bytes.`,
      'Restore the key file of this data folder.',
    );
  return key;
}

/** The name is bound in, so that one secret cannot be passed off as another. */
function close(key: Buffer, name: string, text: string): string {
  const iv = randomBytes(ivBytes);
  const cipher = createCipheriv('aes-256-gcm', key, iv).setAAD(Buffer.from(name));
  const inside = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
  return Buffer.concat([iv, cipher.getAuthTag(), inside]).toString('base64url');
}

function open(key: Buffer, name: string, box: string): string {
  const bytes = Buffer.from(box, 'base64url');
  const [iv, tag, inside] = [bytes.subarray(0, ivBytes), bytes.subarray(ivBytes, ivBytes + tagBytes), bytes.subarray(ivBytes + tagBytes)];
  try {
    const decipher = createDecipheriv('aes-256-gcm', key, iv, { authTagLength: tagBytes }).setAAD(Buffer.from(name)).setAuthTag(tag);
    return decipher.update(inside, undefined, 'utf8') + decipher.final('utf8');
  } catch {
    throw new Problem(
      'unavailable',
      `The secret ${name} cannot be decrypted with the key of this data folder.`,
      'Restore its key file, or enter the secret again.',
    );
  }
}
