// No file of what ships imports itself by way of others.

import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import ts from 'typescript';
import { filesUnder, packages, root } from './sources';

const endings = ['.ts', '.tsx', '/index.ts'];

/** The file that an import of `from` means; undefined for a package from outside. */
function meant(from: string, name: string): string | undefined {
  const [, place, rest] = /^@nibber\/(\w+)\/(.*)$/.exec(name) ?? [];
  if (!place && !name.startsWith('.')) return undefined;
  const target = place ? `${place}/src/${rest}` : path.posix.join(path.posix.dirname(from), name);
  return endings.map((ending) => target + ending).find((file) => existsSync(path.join(root, file)));
}

const files = packages.flatMap(filesUnder);
const imports = new Map(
  files.map((file) => {
    const { importedFiles } = ts.preProcessFile(readFileSync(path.join(root, file), 'utf8'));
    return [file, importedFiles.flatMap(({ fileName }) => meant(file, fileName) ?? [])] as const;
  }),
);

/** The way from a file back to itself; undefined where there is none. */
function cycleFrom(file: string, way: readonly string[], done: Set<string>): readonly string[] | undefined {
  if (way.includes(file)) return [...way.slice(way.indexOf(file)), file];
  if (done.has(file)) return undefined;
  for (const next of imports.get(file) ?? []) {
    const cycle = cycleFrom(next, [...way, file], done);
    if (cycle) return cycle;
  }
  done.add(file);
  return undefined;
}

test('imports are found', () => {
  expect(imports.get('core/src/sieve/words.ts')).toContain('core/src/words/index.ts');
  expect(imports.get('server/src/runtime/index.ts')).toContain('server/src/base/config.ts');
});

test('no file imports itself by way of others', () => {
  const done = new Set<string>();
  const cycles = files.flatMap((file) => cycleFrom(file, [], done)?.join(' → ') ?? []);
  expect([...new Set(cycles)]).toEqual([]);
});
