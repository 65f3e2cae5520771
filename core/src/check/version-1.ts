// The names of version 1 of the site file. It is read by renaming what it calls otherwise, in place, so that comments and order stay.

import { isMap, isScalar, isSeq, type Document, type Scalar } from 'yaml';

type Names = { readonly [before: string]: string };

const prompt: Names = { longest: 'maxCharacters', moments: 'closeUps' };
const range: Names = { least: 'min', most: 'max' };

/** Keys by the place they are at, in version 1's names; `*` stands for one entry of a list, or one key. */
const keys: { readonly [place: string]: Names } = {
  '': { hours: 'schedules', switching: 'modeSchedules', describing: 'ai' },
  'people/*': { takes: 'alertPreferences', sees: 'access', sets: 'cameraGroups' },
  channels: { mostAMinute: 'maxPerMinute' },
  'channels/*': { restSeconds: 'cooldownSeconds' },
  describing: { asks: 'prompts' },
  'describing/asks/*': prompt,
  'cameras/*': {
    shown: 'orientation',
    described: 'allowAiService',
    can: 'capabilities',
    reports: 'builtInDetection',
    restSeconds: 'cooldownSeconds',
  },
  'cameras/*/reports': { leastScore: 'minScore', mostScore: 'maxScore' },
  'rules/*': { does: 'behaviour', hours: 'schedule', restSeconds: 'cooldownSeconds', tell: 'notify' },
  'rules/*/does': { zoneAt: 'zoneByCamera', either: 'bothDirections' },
  'rules/*/size': range,
  'rules/*/size/metres': range,
  'rules/*/question': { tellIf: 'alertIf', otherwise: 'onTimeout' },
  'rules/*/message': { asks: 'prompt' },
  'rules/*/message/asks': prompt,
  'rules/*/tell/*': { by: 'channel' },
  'readings/*': range,
  'readings/*/target': range,
  'readings/*/times': { hours: 'schedule' },
  'reminders/*': { tell: 'notify' },
  'reminders/*/tell/*': { by: 'channel' },
};

/** Values by the place of their key. */
const values: { readonly [place: string]: Names } = {
  'rules/*/presence': { somebody: 'someone', nobody: 'no one' },
  'rules/*/question/otherwise': { tell: 'send', 'keep back': 'hold back' },
};

const find = (table: { readonly [place: string]: Names }, place: readonly string[]): Names | undefined =>
  Object.entries(table).find(([pattern]) => {
    const parts = pattern === '' ? [] : pattern.split('/');
    return parts.length === place.length && parts.every((part, i) => part === '*' || part === place[i]);
  })?.[1];

/** A word of the text that is replaced: from, to, and by what. */
export type Renamed = readonly [from: number, to: number, by: string];

/** Makes version 2 of a document of version 1; any other stays as it is. @returns where its text is to be changed for that */
export function upgrade(document: Document): readonly Renamed[] {
  const root = document.contents;
  const renamed: Renamed[] = [];
  if (!isMap(root)) return renamed;
  const version: unknown = root.get('nibber', true);
  if (!isScalar(version) || version.value !== 1) return renamed;
  put(version, 2, renamed);
  rename(root, [], renamed);
  return renamed;
}

function put(scalar: Scalar, value: string | number, renamed: Renamed[]): void {
  const quote = scalar.type === 'QUOTE_DOUBLE' ? '"' : scalar.type === 'QUOTE_SINGLE' ? "'" : '';
  if (scalar.range) renamed.push([scalar.range[0], scalar.range[1], `${quote}${value}${quote}`]);
  scalar.value = value;
}

function rename(node: unknown, place: readonly string[], renamed: Renamed[]): void {
  if (isSeq(node)) return node.items.forEach((item) => rename(item, [...place, '*'], renamed));
  if (!isMap(node)) return;
  const names = find(keys, place);
  for (const { key, value } of node.items) {
    if (!isScalar(key)) continue;
    const before = String(key.value);
    const at = [...place, before];
    const after = isScalar(value) && find(values, at)?.[String(value.value)];
    if (after) put(value as Scalar, after, renamed);
    rename(value, at, renamed);
    // A name that is there already is not hidden: the schema refuses the other one.
    const name = names && Object.hasOwn(names, before) ? names[before]! : undefined;
    if (name !== undefined && !node.has(name)) put(key, name, renamed);
  }
}
