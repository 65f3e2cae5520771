// Headers as people write them: one a line, `Name: value`.

export const linesOf = (headers: { readonly [name: string]: unknown } | undefined): string =>
  Object.entries(headers ?? {})
    .map(([name, value]) => `${name}: ${value as string}`)
    .join('\n');

export const headersOf = (text: string): Record<string, string> =>
  Object.fromEntries(
    text
      .split('\n')
      .map((line) => /^\s*([^:\s]+)\s*:\s*(.*?)\s*$/.exec(line))
      .flatMap((m) => (m ? [[m[1]!, m[2]!]] : [])),
  );
