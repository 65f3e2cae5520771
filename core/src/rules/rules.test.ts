import { behaviourOf, filledIn, lacksOf, othersLike, suggestionsOf, unknownIn, withZone, zoneOf, type RuleSite } from '.';
import { checkSite } from '../check';
import { compileSite, type Rule, type SiteFile } from '../site';
import { siteWith } from '../testing';

const file = siteWith().file;
const [comesIn] = file.rules as [Rule];
const place: RuleSite = { cameras: file.cameras, modes: file.modes!, schedules: file.schedules!, known: [] };
const lacks = (change: Partial<Rule>) => lacksOf({ ...comesIn, ...change } as Rule, place).map((l) => [l.part, l.words]);

test.each<[string, Partial<Rule>, [string, string][]]>([
  ['a whole one', {}, []],
  ['nothing that it is about', { classes: [] }, [['classes', 'Choose what it should detect.']]],
  ['no camera', { cameras: [] }, [['cameras', 'Choose a camera.']]],
  ['no end of the way', { behaviour: { kind: 'goes', from: 'lane' } }, [['to', 'Choose the end zone.']]],
  ['a way to where it began', { behaviour: { kind: 'goes', from: 'lane', to: 'lane' } }, [['to', 'Start and end zone are the same.']]],
  [
    'a zone of another camera',
    { cameras: ['gate', 'side'] },
    [
      ['from', 'Side has no zone lane.'],
      ['to', 'Side has no zone yard.'],
    ],
  ],
  ['an ignored part as a zone', { behaviour: { kind: 'stays', zone: 'hedge' } }, [['zone', 'Gate has no zone hedge.']]],
  ['no line', { behaviour: { kind: 'crosses' } }, [['line', 'Choose a line.']]],
  ['a line that is not there', { behaviour: { kind: 'crosses', line: 'ditch' } }, [['line', 'Gate has no line ditch.']]],
  ['no number', { behaviour: { kind: 'count' } }, [['number', 'Enter a number.']]],
  ['metres without an aim', { behaviour: { kind: 'approaches', metres: 5 } }, [['metres', 'It uses metres, but Gate has no aim.']]],
  ['nothing known', { behaviour: { kind: 'returns' } }, [['returning', 'Nothing is known by its plate.']]],
  [
    'no mode, nobody to tell',
    { modes: [], notify: [] },
    [
      ['modes', 'Choose a mode.'],
      ['notify', 'Choose who is notified.'],
    ],
  ],
])('%s', (_what, change, expected) => expect(lacks(change)).toEqual(expected));

/** The site with one rule more, as it would be saved. */
const withRule = (rule: Rule): SiteFile => ({ ...file, rules: [...file.rules!, rule] });

test('zones that no rule names, cameras that none looks at, and hours that nothing uses are suggested; each can be saved as it is', () => {
  const more: SiteFile = structuredClone(file);
  more.cameras[0]!.zones!.push({
    id: 'racks',
    name: 'Racks',
    purpose: 'watch',
    polygon: [
      [0, 0],
      [0.2, 0],
      [0.2, 0.3],
    ],
  });
  more.schedules!.push({ id: 'night', name: 'At night', weekly: { mon: ['22:00-06:00'] } });
  const found = suggestionsOf({ ...place, cameras: more.cameras, schedules: more.schedules! }, more.rules!);
  expect(found.map((s) => s.words)).toEqual(['No rule uses Racks of Gate.', 'No rule uses Side.', 'Nothing uses At night yet.']);
  expect(found[0]!.rule).toMatchObject({ cameras: ['gate'], behaviour: { kind: 'stays', zone: 'racks' }, modes: ['shut'] });
  for (const { rule } of found) {
    expect(lacksOf(rule, { ...place, cameras: more.cameras })).toEqual([]);
    expect(checkSite({ ...more, rules: [...more.rules!, rule] })).toMatchObject({ ok: true });
  }
});

test('another like it has a name and a different id, and all else alike', () => {
  const second = othersLike(comesIn, file.rules!);
  const third = othersLike(second, [...file.rules!, second]);
  expect([second.name, second.id, third.name]).toEqual(['Someone comes in 2', 'someone-comes-in-2', 'Someone comes in 3']);
  expect({ ...second, id: comesIn.id, name: comesIn.name }).toEqual(comesIn);
  expect(checkSite(withRule(second))).toMatchObject({ ok: true });
});

test.each(['appears', 'stays', 'count', 'empty'] as const)('turned into %s it keeps where it was, and can be saved', (kind) => {
  const rule = { ...comesIn, id: 'other', behaviour: behaviourOf(kind, comesIn.behaviour) };
  expect(rule.behaviour).toMatchObject({ kind, zone: 'yard' });
  expect(lacksOf(rule, place)).toEqual([]);
  expect(checkSite(withRule(rule))).toMatchObject({ ok: true });
});

test('turned back and forth it keeps its way', () => {
  expect(behaviourOf('goes', comesIn.behaviour)).toEqual({ kind: 'goes', from: 'lane', to: 'yard' });
  expect(behaviourOf('stays', { kind: 'appears', zone: 'yard' })).toEqual({ kind: 'stays', zone: 'yard', seconds: 5 });
  expect(behaviourOf('count', { kind: 'stays', zone: 'yard', seconds: 9 })).toEqual({ kind: 'count', zone: 'yard', seconds: 9, over: 1 });
});

test('placeholders are filled in; what an event does not have is left out; an unknown one is a fault', () => {
  const values = { zone: 'Racks', time: '22:04', count: undefined };
  expect(filledIn('The dog waits at {zone}, {time}', values)).toBe('The dog waits at Racks, 22:04');
  expect(filledIn('{count} people at {zone} .', values)).toBe('people at Racks.');
  expect(filledIn('{zone}'.repeat(3), { zone: '{time}' })).toBe('{time}{time}{time}');
  expect(unknownIn('{zone} {who} {}')).toEqual(['who', '']);
  const wrong = checkSite(withRule({ ...comesIn, id: 'other', message: { text: 'Look: {who}' } }));
  expect(wrong).toMatchObject({ ok: false, problems: [{ path: 'rules/1/message/text', wrong: '{who} is not a placeholder' }] });
});

test('a zone is named by camera where they differ, and once where they do not', () => {
  const behaviour = { kind: 'appears' as const, zone: 'door' };
  const two = withZone(behaviour, ['porch', 'jetty'], 'jetty', 'steps');
  expect(two).toEqual({ kind: 'appears', zoneByCamera: { porch: 'door', jetty: 'steps' } });
  expect([zoneOf(two, 'porch'), zoneOf(two, 'jetty')]).toEqual(['door', 'steps']);
  expect(withZone(two, ['porch', 'jetty'], 'jetty', 'door')).toEqual(behaviour);
  // The whole picture of one of them.
  const part = withZone(behaviour, ['porch', 'jetty'], 'jetty', undefined);
  expect([zoneOf(part, 'porch'), zoneOf(part, 'jetty')]).toEqual(['door', undefined]);
});

test('a rule is judged by the zone of each camera; one that a camera has not is a fault at its place', () => {
  const rule = (zoneByCamera: Record<string, string>) =>
    ({ id: 'r', name: 'R', cameras: ['gate', 'side'], classes: ['person'], behaviour: { kind: 'appears', zoneByCamera } }) as Rule;
  const site = (zoneByCamera: Record<string, string>) =>
    checkSite({
      ...siteWith(
        (f) =>
          void (f.cameras[1]!.zones = [
            {
              id: 'path',
              name: 'Path',
              purpose: 'watch',
              polygon: [
                [0, 0.5],
                [1, 0.5],
                [1, 1],
              ],
            },
          ]),
      ).file,
      rules: [rule(zoneByCamera)],
    });
  const good = site({ gate: 'yard', side: 'path' });
  expect(good).toMatchObject({ ok: true });
  const compiled = compileSite((good as { site: SiteFile }).site);
  const zoneByCamera = (camera: string) => (compiled.cameras.get(camera)!.rules[0]!.behaviour as { zone: { id: string } }).zone.id;
  expect([zoneByCamera('gate'), zoneByCamera('side')]).toEqual(['yard', 'path']);
  expect(site({ gate: 'yard', side: 'yard' })).toMatchObject({ ok: false, problems: [{ path: 'rules/0/behaviour/zoneByCamera/side' }] });
  expect(site({ gate: 'yard', side: 'path', attic: 'yard' })).toMatchObject({
    ok: false,
    problems: [{ path: 'rules/0/behaviour/zoneByCamera/attic' }],
  });
});
