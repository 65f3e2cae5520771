// Options of the form `--name value`, and switches `--name`; bad use ends the program with one line on standard error.

import path from 'node:path';

export function readOptions<K extends string, S extends string = never>(
  known: readonly K[],
  switches: readonly S[] = [],
  argv: readonly string[] = process.argv.slice(2),
): Partial<{ [N in K]: string } & { [N in S]: true }> {
  const options: { [name: string]: string | true } = {};
  for (let i = 0; i < argv.length; i++) {
    const name = argv[i]!.replace(/^--/, '') as K;
    if (argv[i]!.startsWith('--') && (switches as readonly string[]).includes(name)) {
      options[name] = true;
      continue;
    }
    if (!argv[i]!.startsWith('--') || !known.includes(name))
      fail(`${argv[i]} is unknown; allowed: ${[...known, ...switches].map((k) => `--${k}`).join(', ')}`);
    const value = argv[++i];
    if (value === undefined) fail(`--${name} needs a value`);
    options[name] = value;
  }
  return options as Partial<{ [N in K]: string } & { [N in S]: true }>;
}

export function fail(words: string): never {
  process.stderr.write(`${words}\n`);
  process.exit(1);
}

/** A path as the one who typed it means it: npm runs scripts in the project's own folder. */
export const asTyped = (file: string): string => path.resolve(process.env.INIT_CWD ?? '.', file);

export const needed = (value: string | undefined, name: string): string => value ?? fail(`--${name} is needed`);
