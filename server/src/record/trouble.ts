// What stops a row or a file from being written: the disk, which is waited for, or the thing itself, which no waiting mends.

const diskCodes = new Set(['ENOSPC', 'EDQUOT', 'EIO', 'EROFS', 'EACCES', 'EPERM', 'EMFILE', 'ENFILE', 'ENOMEM', 'EBUSY']);
/** Result codes of SQLite that speak of the file or of whoever else holds it, not of what is written. */
const sqliteCodes = /^SQLITE_(FULL|IOERR|READONLY|CANTOPEN|BUSY|LOCKED|NOMEM|PROTOCOL)/;

/** Whether it is the disk (or the database's file) that does not take what is written; it may take it later. */
export function isOfDisk(thrown: unknown): boolean {
  const { code, parent, name } = (thrown ?? {}) as { code?: string; parent?: { code?: string }; name?: string };
  const found = parent?.code ?? code ?? '';
  return diskCodes.has(found) || sqliteCodes.test(found) || name === 'SequelizeTimeoutError';
}
