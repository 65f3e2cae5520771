// What stops a row or a file from being written: the disk, which is waited for, or the data itself, which no waiting fixes.

import { Problem } from '@nibber/core/problem';

const diskCodes = new Set(['ENOSPC', 'EDQUOT', 'EIO', 'EROFS', 'EACCES', 'EPERM', 'EMFILE', 'ENFILE', 'ENOMEM', 'EBUSY']);
/** SQLite result codes about the file or another process that holds it, not about the data. */
const sqliteCodes = /^SQLITE_(FULL|IOERR|READONLY|CANTOPEN|BUSY|LOCKED|NOMEM|PROTOCOL)/;

/** What stops it, for people; undefined where it is not the disk. */
export function diskProblem(thrown: unknown): Problem | undefined {
  if (!isOfDisk(thrown)) return undefined;
  const found = codeOf(thrown);
  if (/^(SQLITE_FULL|ENOSPC|EDQUOT)$/.test(found))
    return new Problem('unavailable', 'The server’s disk is full. Nothing was saved.', 'Free up space on the server, then try again.');
  if (/^(SQLITE_BUSY|SQLITE_LOCKED)/.test(found))
    return new Problem('unavailable', 'Another program is using the database. Nothing was saved.', 'Try again in a few seconds.');
  return new Problem(
    'unavailable',
    'The server cannot write to its disk. Nothing was saved.',
    'Check the disk and the permissions of the data folder, then try again.',
  );
}

function codeOf(thrown: unknown): string {
  const { code, parent, name } = (thrown ?? {}) as { code?: string; parent?: { code?: string }; name?: string };
  return parent?.code ?? code ?? (name === 'SequelizeTimeoutError' ? 'SQLITE_BUSY' : '');
}

/** Whether it is the disk (or the database's file) that does not take what is written; it may take it later. */
export function isOfDisk(thrown: unknown): boolean {
  const found = codeOf(thrown);
  return diskCodes.has(found) || sqliteCodes.test(found);
}
