// The data folder is its owner's alone: 0700, files 0600. Folders of earlier versions, or copied with wider rights, are fixed at start.

import { chmodSync, mkdirSync, readdirSync, statSync } from 'node:fs';
import path from 'node:path';

const others = 0o077;

/** Makes the folder where it is not there; what this program writes from now on is readable by its owner alone. */
export function closeFolder(folder: string): void {
  process.umask(others);
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  // What is gone by the time it is looked at (the database's own, while another lets go of it) is open to no one.
  const isWide = (file: string) => ((statSync(file, { throwIfNoEntry: false })?.mode ?? 0) & others) !== 0;
  if (isWide(folder) || readdirSync(folder).some((name) => isWide(path.join(folder, name)))) fix(folder);
}

function fix(folder: string): void {
  chmodSync(folder, 0o700);
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const file = path.join(folder, entry.name);
    // What a link points to is not ours to close.
    if (entry.isDirectory()) fix(file);
    else if (entry.isFile()) closeFile(file);
  }
}

function closeFile(file: string): void {
  try {
    chmodSync(file, 0o600);
  } catch (thrown) {
    if ((thrown as NodeJS.ErrnoException).code !== 'ENOENT') throw thrown;
  }
}
