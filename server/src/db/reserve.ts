// Some room on the disk that is kept back, so that someone can still sign in and free more of it when the rest is full.

import { closeSync, fsyncSync, openSync, rmSync, statfsSync, statSync, writeSync } from 'node:fs';
import path from 'node:path';

export type Reserve = {
  /** Gives the room free. @returns whether there was some */
  release(): boolean;
  /** Keeps it back again, where there is room for it several times over. */
  fill(): void;
};

const bytes = 4 * 1024 * 1024;
/** What must be free before room is kept back. */
const plentyBytes = 4 * bytes;

export function openReserve(folder: string): Reserve {
  const file = path.join(folder, 'reserve');
  const length = () => statSync(file, { throwIfNoEntry: false })?.size ?? 0;
  const fill = () => {
    if (length() >= bytes) return;
    try {
      const { bavail, bsize } = statfsSync(folder);
      if (bavail * bsize < plentyBytes) return;
      const open = openSync(file, 'w', 0o600);
      try {
        // Written, not only made long: a file with holes keeps nothing back.
        for (let i = 0, piece = Buffer.alloc(65_536, 1); i < bytes; i += piece.length) writeSync(open, piece);
        fsyncSync(open);
      } finally {
        closeSync(open);
      }
    } catch {
      // It is tried again by and by.
      rmSync(file, { force: true });
    }
  };
  fill();
  return {
    fill,
    release() {
      const isThere = length() > 0;
      rmSync(file, { force: true });
      return isThere;
    },
  };
}
