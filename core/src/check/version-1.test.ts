import { inspect } from 'node:util';
import fc from 'fast-check';
import { compileSite, type SiteFile } from '../site';
import { editSite, linesOf, readSite, upgradeSite } from '.';

/** A site in both versions at once: `‹before|after›` is a name of version 1, and what version 2 calls it. Blocks of it can be left out. */
const head = `‹nibber: 1|nibber: 2›
site: { name: Example yard, timezone: Europe/Lisbon, latitude: 38.7, longitude: -9.1 }
areas:
  - { id: yard, name: Yard }
modes:
  - { id: open, name: Open, armed: false }
  - { id: shut, name: Shut, armed: true }
‹hours|schedules›:
  - { id: closed, name: Outside opening hours, weekly: { mon: ["18:00-08:00"] } }
people:
  - id: jo
    name: Jo
    role: member
    ‹takes|alertPreferences›: { comes-in: mail }
    ‹sees|access›: { areas: [yard], cameras: [] }
    ‹sets|cameraGroups›: [{ name: Outside, cameras: [gate] }]
cameras:
  - id: gate
    name: Gate
    area: yard
    source: { kind: streamed, low: "http://127.0.0.1:9001/low.mjpg" }
    ‹shown|orientation›: { turnDegrees: 90 }
    ‹described|allowAiService›: false
    ‹can|capabilities›: [infrared]
    ‹reports|builtInDetection›: { classes: [person], ‹leastScore|minScore›: 0.3, ‹mostScore|maxScore›: 0.9 }
    ‹restSeconds|cooldownSeconds›: 10
    zones:
      - { id: lane, name: Lane, purpose: watch, polygon: [[0, 0], [1, 0], [1, 0.5], [0, 0.5]] }
      - { id: yard, name: Yard, purpose: watch, polygon: [[0, 0.5], [1, 0.5], [1, 1], [0, 1]] }
`;
const blocks = [
  `‹switching|modeSchedules›:
  - { id: nights, areas: [yard], weekly: { mon: ["18:00 shut"] } }
`,
  `channels:
  ‹mostAMinute|maxPerMinute›: 4
  push: { ‹restSeconds|cooldownSeconds›: 60 }
`,
  `‹describing|ai›:
  services: [{ id: here, name: Here, url: "http://127.0.0.1:9/v1", model: some }]
  ‹asks|prompts›:
    vehicle: { ‹longest|maxCharacters›: 90, ‹moments|closeUps›: 2 } # what a van says
`,
  `rules:
  - id: comes-in
    name: Someone comes in
    cameras: [gate]
    classes: [person]
    size: { ‹least|min›: 0.1, ‹most|max›: 0.9 }
    # between the lane and the yard
    ‹does|behaviour›: { kind: goes, from: lane, to: yard, ‹either|bothDirections›: true }
    ‹hours|schedule›: closed
    presence: ‹nobody|no one›
    ‹restSeconds|cooldownSeconds›: 300
    question: { words: "Is it the post?", ‹tellIf|alertIf›: no, seconds: 8, ‹otherwise|onTimeout›: ‹keep back|hold back› }
    message: { description: true, ‹asks|prompt›: { ‹longest|maxCharacters›: 80, ‹moments|closeUps›: 3 } }
    ‹tell|notify›:
      - { to: jo, ‹by|channel›: push }
  - id: stays
    name: "Somebody stays: a while"
    cameras: [gate]
    classes: [person]
    presence: "‹somebody|someone›"
    "‹does|behaviour›": { kind: appears, zone: lane, '‹zoneAt|zoneByCamera›': { gate: yard } }
    question: { words: "Is it the post?", seconds: 8, ‹otherwise|onTimeout›: ‹tell|send› }
    size: { metres: { ‹least|min›: 1, ‹most|max›: 2.5 } }
`,
  `readings:
  - id: canoes
    name: Canoes
    camera: gate
    by: { question: "How many canoes?", kind: number }
    ‹least|min›: 0
    ‹most|max›: 40
    target: { ‹least|min›: 3, ‹most|max›: 30 }
    times: { everyMinutes: 60, ‹hours|schedule›: closed }
reminders:
  - { id: few, name: Few, reading: canoes, is: { under: 3 }, ‹tell|notify›: [{ to: jo, ‹by|channel›: mail }] }
`,
];

const inVersion = (version: 1 | 2, text: string) => text.replace(/‹([^|›]*)\|([^›]*)›/g, version === 1 ? '$1' : '$2');
/** The metres of a rule need an aim, which is the same in both versions. */
const whole = [
  head.replace(
    '    zones:\n',
    '    aim: { heightMetres: 3, tiltDegrees: 12, lens: { horizontalDegrees: 60 }, pictureWidth: 640, pictureHeight: 360 }\n    zones:\n',
  ),
  ...blocks,
].join('');

function siteOf(text: string): SiteFile {
  const read = readSite(text);
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return read.site;
}

test('every name of version 1 is read as what version 2 calls it, and compiles to the same site', () => {
  const [before, after] = [siteOf(inVersion(1, whole)), siteOf(inVersion(2, whole))];
  expect(before).toEqual(after);
  const shown = (site: SiteFile) => inspect(compileSite(site), { depth: null });
  expect(shown(before)).toBe(shown(after));
});

test('the text becomes what one would have written in version 2: whatever is in it, with its comments, its order and its way of writing', () => {
  const comment = fc.stringMatching(/^[a-z0-9 :"'#{}-]{0,12}$/);
  fc.assert(
    fc.property(fc.subarray(blocks), fc.array(fc.tuple(fc.nat(60), comment), { maxLength: 8 }), (some, comments) => {
      const lines = [whole.slice(0, whole.length - blocks.join('').length), ...some].join('').split('\n');
      for (const [at, words] of comments) if (lines[at]) lines[at] += ` # hours: ${words}`;
      const text = lines.join('\n');
      expect(upgradeSite(inVersion(1, text))).toBe(inVersion(2, text));
      expect(upgradeSite(inVersion(2, text))).toBe(inVersion(2, text));
      expect(siteOf(inVersion(1, text))).toEqual(siteOf(inVersion(2, text)));
    }),
    { numRuns: 200 },
  );
});

test('JSON of version 1 stays JSON', () => {
  const site = siteOf(inVersion(2, whole));
  const before = JSON.stringify({
    ...site,
    nibber: 1,
    rules: [],
    hours: site.schedules,
    schedules: undefined,
    ai: undefined,
    channels: undefined,
    modeSchedules: undefined,
    readings: undefined,
    reminders: undefined,
    people: [],
    cameras: [],
  });
  expect(JSON.parse(upgradeSite(before))).toMatchObject({ nibber: 2, schedules: site.schedules });
});

test('what is wrong with a file of version 1 is said by the new names, at the line where it stands', () => {
  const text = inVersion(1, head).replace('weekly: { mon: ["18:00-08:00"] }', 'weekly: { mon: ["25:00-26:00"] }');
  const read = readSite(text);
  expect(read).toMatchObject({ ok: false, problems: [{ path: 'schedules/0/weekly/mon/0' }] });
  expect(linesOf(text, read.ok ? [] : read.problems)).toEqual([text.split('\n').findIndex((l) => l.includes('25:00')) + 1]);
});

test('an edit of a file of version 1 gives one of version 2', () => {
  const edited = editSite(inVersion(1, whole), [[['rules', 'comes-in', 'schedule'], undefined]]);
  const site = siteOf(edited);
  expect([site.nibber, site.rules![0]!.schedule, site.rules![0]!.cooldownSeconds]).toEqual([2, undefined, 300]);
  expect(edited).toContain('# between the lane and the yard');
});

test.each([
  ['a name of version 2 in a file of version 1 beside the old one', '\nschedules: []\n', 'hours is unknown'],
  ['a version that is to come', null, 'is 3'],
])('%s is refused', (_what, more, wrong) => {
  const text = more === null ? inVersion(2, head).replace('nibber: 2', 'nibber: 3') : inVersion(1, head) + more.trimStart();
  const read = readSite(text);
  expect(read.ok ? [] : read.problems.map((p) => p.wrong)).toContain(wrong);
});
