// Questions to a record, read by the words that they share with what can be answered; and rows told again. It knows no more than what it is given.

type Properties = { readonly [name: string]: { readonly enum?: readonly (string | null)[] } };

const dayMs = 86_400_000;

/** Undefined where it is not asked for a search. */
export function searchFor(words: string, properties: Properties): object | undefined {
  const question = /Somebody asks the record of cameras: "((?:[^"\\]|\\.)*)"/.exec(words)?.[1]?.toLowerCase();
  if (question === undefined) return undefined;
  const among = (name: string) => (properties[name]?.enum ?? []).filter((v): v is string => v !== null);
  const says = (text: string) => new RegExp(`\\b${text.toLowerCase().replace('-', ' ')}s?\\b`).test(question);
  const people = /\b(somebody|anybody|people|who)\b/.test(question) ? 'person' : undefined;
  const cameras = among('camera');
  const today = /It is \w+ (\d{4}-\d{2}-\d{2})T/.exec(words)?.[1];
  const day = (back: number) => today && new Date(Date.parse(today) - back * dayMs).toISOString().slice(0, 10);
  const back = /\byesterday\b/.test(question) ? 1 : /\btoday\b/.test(question) ? 0 : undefined;
  return {
    wanted: /\bhow many\b/.test(question)
      ? 'count'
      : /\bwhen\b/.test(question)
        ? 'last'
        : /^(did|was|has|is)\b/.test(question)
          ? 'whether'
          : 'which',
    kind: among('kind').find(says) ?? people ?? null,
    camera: cameras.find(says) ?? cameras.find((c) => c.split(' ').some(says)) ?? null,
    area: null,
    from: back === undefined ? null : `${day(back)}T00:00`,
    to: back === undefined ? null : `${day(back - 1)}T00:00`,
    words: null,
  };
}

/** Undefined where it is given no rows. */
export function tellOf(words: string): string | undefined {
  const rows = /\nRows:\n([\s\S]*)$/.exec(words)?.[1]?.split('\n');
  if (!rows?.[0]) return undefined;
  const [when, camera, what] = rows[0].split(' | ');
  return `${rows.length === 1 ? 'One row' : `${rows.length} rows`}: the first of them is a ${what} at ${camera}, ${when}.`;
}
