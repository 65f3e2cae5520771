// The files of the whole repository, for tests of how it is written.

import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import ts from 'typescript';

export const root = path.join(__dirname, '../../..');
/** The packages whose code ships. */
export const packages = [
  'client/app',
  'client/features',
  'client/picture',
  'client/state',
  'client/ui',
  'client/worker',
  'core/src',
  'demo/src',
  'server/src',
  'standins/src',
] as const;

/** The TypeScript files of a folder without tests and what only they use, as paths from the root. */
export const filesUnder = (folder: string): string[] =>
  readdirSync(path.join(root, folder), { withFileTypes: true }).flatMap((e) => {
    const file = `${folder}/${e.name}`;
    if (e.isDirectory()) return e.name === 'testing' ? [] : filesUnder(file);
    return /\.tsx?$/.test(e.name) && !/(\.test\.tsx?|\.d\.ts)$/.test(e.name) ? [file] : [];
  });

export function parsed(file: string): ts.SourceFile {
  const kind = file.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS;
  return ts.createSourceFile(file, readFileSync(path.join(root, file), 'utf8'), ts.ScriptTarget.Latest, true, kind);
}
