// Pictures and clips as files, named by their content. Nothing that came from outside is part of a name. Who holds which is media.ts's.

import { createHash } from 'node:crypto';
import { constants, existsSync, mkdirSync, statSync, unlinkSync } from 'node:fs';
import { open, readdir, readFile, rename, stat, unlink } from 'node:fs/promises';
import path from 'node:path';
import type { Haste } from './database';

export type FileKind = 'jpg' | 'mp4';
const abandonedMs = 10 * 60_000;
const nameForm = /^[0-9a-f]{40}\.(jpg|mp4)$/;

export type Files = {
  nameOf(bytes: Uint8Array, kind: FileKind): string;
  /** Keeps bytes; they are on disk when this resolves. @returns the name */
  keep(bytes: Uint8Array, kind: FileKind): Promise<string>;
  /** Synchronous, so that nothing comes between the check whether it is needed and this. */
  remove(name: string): void;
  /** @throws Error where there is none of that name */
  read(name: string): Promise<Buffer>;
  /** The file of a name; undefined for a name that is none of ours. */
  file(name: string): string | undefined;
  /** Its length, bytes; undefined where there is none of that name. */
  bytes(name: string): number | undefined;
  /** Every file, by what its name begins with. */
  shelves(): AsyncIterable<{ readonly begin: string; readonly names: readonly string[] }>;
  /** How long ago it was written, ms; undefined where there is none of that name. */
  ageMs(name: string): Promise<number | undefined>;
};

export async function openFiles(dataFolder: string, haste: Haste = 'safe'): Promise<Files> {
  const folder = path.join(dataFolder, 'pictures');
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  // What was being written when the program was last killed; what is new may be another program's, which runs beside this one.
  for (const name of await readdir(folder)) {
    const file = path.join(folder, name);
    if (name.endsWith('.part') && Date.now() - (await stat(file)).mtimeMs > abandonedMs) await unlink(file);
  }
  const nameOf = (bytes: Uint8Array, kind: FileKind) => `${createHash('sha256').update(bytes).digest('hex').slice(0, 40)}.${kind}`;
  const fileOf = (name: string) => path.join(folder, name.slice(0, 2), name);
  return {
    nameOf,
    async keep(bytes, kind) {
      const name = nameOf(bytes, kind);
      const file = fileOf(name);
      if (existsSync(file)) return name;
      mkdirSync(path.dirname(file), { recursive: true, mode: 0o700 });
      const part = path.join(folder, `${name}.${process.hrtime.bigint()}.part`);
      const handle = await open(part, constants.O_WRONLY | constants.O_CREAT | constants.O_EXCL, 0o600);
      try {
        await handle.writeFile(bytes);
        if (haste === 'safe') await handle.sync();
      } finally {
        await handle.close();
      }
      await rename(part, file);
      return name;
    },
    remove(name) {
      if (existsSync(fileOf(name))) unlinkSync(fileOf(name));
    },
    read: (name) => readFile(fileOf(name)),
    file: (name) => (nameForm.test(name) && existsSync(fileOf(name)) ? fileOf(name) : undefined),
    bytes: (name) => (existsSync(fileOf(name)) ? statSync(fileOf(name)).size : undefined),
    async *shelves() {
      for (const shelf of await readdir(folder, { withFileTypes: true }))
        if (shelf.isDirectory())
          yield { begin: shelf.name, names: (await readdir(path.join(folder, shelf.name))).filter((n) => nameForm.test(n)) };
    },
    ageMs: async (name) => {
      const found = await stat(fileOf(name)).catch(() => undefined);
      return found && Date.now() - found.mtimeMs;
    },
  };
}
