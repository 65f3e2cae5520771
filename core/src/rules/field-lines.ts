// The fields of a question as people write them, one a line: `colour`, `kind: car, van, truck`, `ladder?`, `people #`, `plate`.

import type { AskedField } from '../site';

const maxFields = 12;
const longestName = 30;

export function fieldLines(fields: readonly AskedField[]): string {
  return fields
    .map(({ name, kind, of = [] }) => {
      if (kind === 'one of') return `${name}: ${of.join(', ')}`;
      return kind === 'yes or no'
        ? `${name}?`
        : kind === 'number'
          ? `${name} #`
          : kind === 'plate' && name !== 'plate'
            ? `${name} (plate)`
            : name;
    })
    .join('\n');
}

/** @returns the fields, and what is wrong with the first line that cannot be meant */
export function fieldsOfLines(text: string): { readonly fields: AskedField[]; readonly wrong: string | undefined } {
  const fields: AskedField[] = [];
  let wrong: string | undefined;
  for (const line of text
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean)) {
    const [head = '', tail] = line.split(/:(.*)/s).map((p) => p.trim());
    const plate = /^(.*?)\s*\(plate\)$/i.exec(head);
    const bare = (plate?.[1] ?? head).replace(/[?#]$/, '').trim();
    if (!/^[\p{L}][\p{L}\p{N} _-]*$/u.test(bare) || bare.length > longestName)
      wrong ??= `“${line.slice(0, 40)}” does not start with a name of up to ${longestName} letters.`;
    else if (bare.toLowerCase() === 'sentence' || fields.some((f) => f.name.toLowerCase() === bare.toLowerCase()))
      wrong ??= `“${bare}” appears twice.`;
    else if (fields.length >= maxFields) wrong ??= `At most ${maxFields} fields are allowed.`;
    else if (tail !== undefined) {
      const of = [
        ...new Set(
          tail
            .split(',')
            .map((o) => o.trim().slice(0, 80))
            .filter(Boolean),
        ),
      ];
      if (of.length < 2) wrong ??= `After “${bare}:” enter at least two options, separated by commas.`;
      else fields.push({ name: bare, kind: 'one of', of });
    } else {
      const kind =
        plate || bare.toLowerCase() === 'plate' ? 'plate' : head.endsWith('?') ? 'yes or no' : head.endsWith('#') ? 'number' : 'text';
      fields.push({ name: bare, kind });
    }
  }
  return { fields, wrong };
}
