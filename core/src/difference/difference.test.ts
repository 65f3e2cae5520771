import fc from 'fast-check';
import { siteChanges, updateYaml } from '.';
import { readSite } from '../check';
import type { SiteFile } from '../site';
import { siteWith, yardText } from '../testing';

const words = (change: (f: SiteFile) => void) => siteChanges(siteWith().file, siteWith(change).file).map((c) => c.words);

test.each<[string, (f: SiteFile) => void, string[]]>([
  ['nothing', () => {}, []],
  ['the order of rules and cameras', (f) => f.cameras.reverse(), []],
  ['a value', (f) => (f.rules![0]!.confidence = 0.6), ['Rule Someone comes in: confidence 0.5 → 0.6']],
  [
    'a value that was not there',
    (f) => (f.rules![0]!.message = { description: true }),
    ['Rule Someone comes in: message {"description":true} added'],
  ],
  ['a value inside a value', (f) => (f.rules![0]!.behaviour.to = 'hedge'), ['Rule Someone comes in: behaviour to yard → hedge']],
  ['a list of words', (f) => (f.rules![0]!.modes = ['open', 'shut']), ['Rule Someone comes in: modes shut → open, shut']],
  ['a rule less', (f) => (f.rules = []), ['Rule Someone comes in removed']],
  [
    'a zone moved',
    (f) => (f.cameras[0]!.zones![0]!.polygon[0] = [0.1, 0.4]),
    ['Camera Gate, zone Lane: polygon [[0,0.4],[1,0.4],[1,0.55],[0,0.55]] → [[0.1,0.4],[1,0.4],[1,0.55],[0,0.55]]'],
  ],
  ['a camera more', (f) => f.cameras.push({ ...f.cameras[1]!, id: 'new', name: 'New' }), ['Camera New added']],
  ['a name of the site', (f) => (f.site.name = 'Other'), ['site name Example yard → Other']],
  ['a setting of a mode', (f) => (f.modes![1]!.exitDelaySeconds = 60), ['Mode Shut: exit delay seconds 60 added']],
])('%s', (_name, change, expected) => {
  expect(words(change)).toEqual(expected);
});

const commented = yardText
  .replace('areas:', '# where it is\nareas:')
  .replace('    confidence: 0.5', '    confidence: 0.5 # tried for a week')
  .replace('  - id: side', '  # the narrow one\n  - id: side');

test('a site written upon its text keeps comments and order, and means what it should', () => {
  const { file } = siteWith((f) => {
    f.rules![0]!.confidence = 0.7;
    f.cameras.reverse();
    f.rules!.push({ id: 'more', name: 'More', cameras: ['side'], classes: ['pet'], behaviour: { kind: 'appears' } });
  });
  const text = updateYaml(commented, file);
  expect(text).toContain('# where it is');
  expect(text).toContain('confidence: 0.7 # tried for a week');
  expect(text).toContain('# the narrow one');
  expect(readSite(text)).toEqual({ ok: true, site: file });
});

test('what is written again unchanged is the same text', () => {
  const once = updateYaml(commented, siteWith().file);
  expect(updateYaml(once, siteWith().file)).toBe(once);
  expect(readSite(once)).toEqual(readSite(commented));
});

test('whatever is changed, the text means the site, and there is no difference left', () => {
  const change = fc.record({
    confidence: fc.double({ min: 0, max: 1, noNaN: true }),
    name: fc.string({ minLength: 1, maxLength: 30 }),
    rest: fc.option(fc.nat(600), { nil: undefined }),
    drop: fc.boolean(),
    x: fc.double({ min: 0, max: 1, noNaN: true }),
  });
  fc.assert(
    fc.property(change, ({ confidence, name, rest, drop, x }) => {
      const { file } = siteWith((f) => {
        const rule = f.rules![0]!;
        rule.confidence = confidence;
        rule.name = name;
        if (rest === undefined) delete rule.cooldownSeconds;
        else rule.cooldownSeconds = rest;
        if (drop) f.cameras.splice(1, 1);
        f.cameras[0]!.lines![0]!.points[0] = [x, 0.5];
      });
      const read = readSite(updateYaml(commented, file));
      expect(read.ok && siteChanges(file, read.site)).toEqual([]);
    }),
    { numRuns: 100 },
  );
});
