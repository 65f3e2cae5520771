// Pictures and clips as files, named by their content. Nothing that came from outside is part of a name.

import { createHash } from 'node:crypto';
import { constants, existsSync, mkdirSync } from 'node:fs';
import { open, readdir, readFile, rename, stat, unlink } from 'node:fs/promises';
import path from 'node:path';

export type PictureKind = 'jpg' | 'mp4';
const abandonedMs = 10 * 60_000;
const nameForm = /^[0-9a-f]{40}\.(jpg|mp4)$/;

export type PictureStore = {
  /** Keeps bytes; they are on disk when this resolves. @returns the name */
  keep(bytes: Uint8Array, kind: PictureKind): Promise<string>;
  remove(name: string): Promise<void>;
  /** @throws Error where there is none of that name */
  read(name: string): Promise<Buffer>;
  /** The file of a name; undefined for a name that is none of ours. */
  file(name: string): string | undefined;
};

export async function openPictures(dataFolder: string): Promise<PictureStore> {
  const folder = path.join(dataFolder, 'pictures');
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  // What was being written when the program was last killed; what is new may be another program's, which runs beside this one.
  for (const name of await readdir(folder)) {
    const file = path.join(folder, name);
    if (name.endsWith('.part') && Date.now() - (await stat(file)).mtimeMs > abandonedMs) await unlink(file);
  }
  const fileOf = (name: string) => path.join(folder, name.slice(0, 2), name);
  return {
    async keep(bytes, kind) {
      const name = `${createHash('sha256').update(bytes).digest('hex').slice(0, 40)}.${kind}`;
      const file = fileOf(name);
      if (existsSync(file)) return name;
      mkdirSync(path.dirname(file), { recursive: true, mode: 0o700 });
      const part = path.join(folder, `${name}.${process.hrtime.bigint()}.part`);
      const handle = await open(part, constants.O_WRONLY | constants.O_CREAT | constants.O_EXCL, 0o600);
      try {
        await handle.writeFile(bytes);
        await handle.sync();
      } finally {
        await handle.close();
      }
      await rename(part, file);
      return name;
    },
    remove: (name) => unlink(fileOf(name)).catch(() => {}),
    read: (name) => readFile(fileOf(name)),
    file: (name) => (nameForm.test(name) && existsSync(fileOf(name)) ? fileOf(name) : undefined),
  };
}
