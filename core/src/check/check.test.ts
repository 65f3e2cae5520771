import { checkSite, editSite, readSite } from '.';
import { yardText } from '../testing';
import type { SiteFile } from '../site';

const file = () => {
  const read = readSite(yardText);
  return structuredClone((read as { site: SiteFile }).site);
};
const faults = (change: (f: SiteFile) => void) => {
  const changed = file();
  change(changed);
  const result = checkSite(changed);
  return result.ok ? [] : result.faults.map((f) => `${f.path}: ${f.wrong}`);
};

test('a sound file has no fault, as YAML and as JSON', () => {
  expect(readSite(yardText).ok).toBe(true);
  expect(readSite(JSON.stringify(file())).ok).toBe(true);
});

test.each<[string, (f: SiteFile) => void, string]>([
  ['an unknown zone', (f) => (f.rules![0]!.does.to = 'pond'), 'rules/0/does/to: pond is no watched zone of gate'],
  ['an ignored part as a zone', (f) => (f.rules![0]!.does.to = 'hedge'), 'rules/0/does/to: hedge is no watched zone of gate'],
  ['an unknown camera', (f) => (f.rules![0]!.cameras = ['attic']), 'rules/0/cameras/0: attic is no camera'],
  ['an unknown mode', (f) => (f.rules![0]!.modes = ['night']), 'rules/0/modes/0: night is no mode'],
  ['unknown hours', (f) => (f.rules![0]!.hours = 'lunch'), 'rules/0/hours: lunch is no hours'],
  ['an unknown person', (f) => (f.rules![0]!.tell = [{ to: 'nobody', by: 'push' }]), 'rules/0/tell/0/to: nobody is no person or role'],
  ['a zone that crosses itself', (f) => (f.cameras[0]!.zones![0]!.polygon = [[0, 0], [1, 1], [1, 0], [0, 1]]), 'cameras/0/zones/0/polygon: edge 1 meets edge 3'],
  ['an id used twice', (f) => (f.cameras[1]!.id = 'gate'), 'cameras/1/id: gate is used twice'],
  ['a wrong time zone', (f) => (f.site.timezone = 'Europe/Atlantis'), 'site/timezone: "Europe/Atlantis" is no time zone'],
  ['a wrong span', (f) => (f.hours![0]!.weekly!.mon = ['25:00-26:00']), 'hours/0/weekly/mon/0: 25:00-26:00 is no span'],
  ['a day that does not exist', (f) => (f.hours![0]!.exceptions = [{ date: '2026-02-30', spans: [] }]), 'hours/0/exceptions/0/date: 2026-02-30 is no day'],
  ['a source of another class', (f) => ((f.cameras[0]!.source as { kind: string }).kind = 'paired'), 'cameras/0/source/kind: is "paired"'],
  ['a behaviour that is not known yet', (f) => ((f.rules![0]!.does as { kind: string }).kind = 'crosses'), 'rules/0/does/kind: is "crosses"'],
  ['a misspelt key', (f) => ((f.rules![0] as unknown as { restSecond: number }).restSecond = 5), 'rules/0: restSecond is not known here'],
])('%s is named with its place', (_name, change, words) => {
  expect(faults(change)).toContain(words);
}); // prettier-ignore

test('broken YAML is named by line, and aliases cannot make a small file huge', () => {
  const broken = readSite('nibber: 1\nsite: { name: "x\n');
  expect(broken.ok ? '' : broken.faults[0]!.path).toMatch(/^line \d+, column \d+$/);
  const bomb = [
    'a: &a [x,x,x,x,x,x,x,x,x]',
    ...'bcdefgh'.split('').map((c, i) => `${c}: &${c} [${new Array(9).fill(`*${'abcdefgh'[i]}`).join(',')}]`),
  ].join('\n');
  const read = readSite(bomb);
  expect(read.ok ? '' : read.faults[0]!.wrong).toMatch(/alias/i);
});

test('editing one place keeps the comments of all others', () => {
  const text = yardText.replace('areas:', '# the areas\nareas:').replace('rules:', '# told of\nrules:');
  const edited = editSite(text, ['cameras', 0, 'zones', 0, 'polygon'], [[0, 0], [1, 0], [1, 1]]); // prettier-ignore
  expect(edited).toContain('# the areas');
  expect(edited).toContain('# told of');
  const read = readSite(edited);
  expect(read.ok && read.site.cameras[0]!.zones![0]!.polygon).toEqual([[0, 0], [1, 0], [1, 1]]); // prettier-ignore
  expect(read.ok && read.site.rules).toEqual(file().rules);
});
