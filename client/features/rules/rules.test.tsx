import { fireEvent, screen } from '@testing-library/react-native';
import { useState } from 'react';
import type { Rule } from '@nibber/core/site';
import type { Week, RehearsalAsked } from '../../state/rehearsal';
import { draw, rule, site, yard } from '../../testing/draw';
import { figureAt } from './parts/Amounts';
import { PartSheet } from './PartSheet';
import { Sentence } from './Sentence';
import type { PartName } from './wording';

const weekWith = (result: Week['result']): RehearsalAsked => {
  const week: Week = { result, days: [], work: undefined, failure: undefined, isStopped: false };
  return { now: () => week, listen: () => () => {}, stop: () => {}, goOn: () => {} };
};
/** Nothing was asked of the last days. */
const noRehearsal = { week: weekWith(undefined), isNew: false };

test('each underlined part can be touched', async () => {
  const touched: PartName[] = [];
  await draw(<Sentence rule={rule} site={site} cameras={[yard]} touch={(part) => touched.push(part)} />).drawn;
  for (const part of ['classes', 'behaviour', 'from', 'to', 'modes', 'schedule', 'notify', 'message', 'cooldown'])
    await fireEvent.press(screen.getByTestId(`part-${part}`));
  expect(touched).toEqual(['classes', 'behaviour', 'from', 'to', 'modes', 'schedule', 'notify', 'message', 'cooldown']);
});

test('who may not change it reads it all the same', async () => {
  await draw(<Sentence rule={rule} site={site} cameras={[yard]} touch={undefined} />).drawn;
  expect(screen.getByTestId('part-cooldown').props.onPress).toBeUndefined();
});

/** Opens the choices for a part, touches one, and gives the rule that comes of it. */
async function chosen(part: PartName, choice: string, from: Rule = rule): Promise<{ rule: Rule | undefined; closed: boolean }> {
  let [next, closed]: [Rule | undefined, boolean] = [undefined, false];
  await draw(
    <PartSheet
      part={part}
      rule={from}
      site={site}
      cameras={[yard]}
      change={(r) => (next = r)}
      {...noRehearsal}
      close={() => (closed = true)}
    />,
  ).drawn;
  await fireEvent.press(screen.getByTestId(`choice-${choice}`));
  return { rule: next, closed };
}

test.each<[PartName, string, Partial<Rule>]>([
  ['classes', 'dog', { classes: ['person', 'dog'] }],
  ['modes', 'open', { modes: ['closed', 'open'] }],
  ['schedule', 'opening', { schedule: 'opening' }],
  ['message', 'picture', { message: { picture: true, description: false } }],
  ['cooldown', '600', { cooldownSeconds: 600 }],
])('%s: %s', async (part, choice, change) => {
  expect((await chosen(part, choice)).rule).toEqual({ ...rule, ...change });
});

test('at any time takes the hours out of the rule', async () => {
  const { schedule: _, ...without } = rule;
  expect((await chosen('schedule', '*time')).rule).toEqual(without);
});

test('the last class and the last mode cannot be taken out', async () => {
  expect((await chosen('classes', 'person')).rule).toBeUndefined();
  expect((await chosen('modes', 'closed')).rule).toBeUndefined();
});

test('choosing the other end’s zone turns the way round', async () => {
  expect((await chosen('from', 'yard')).rule!.behaviour).toEqual({ kind: 'goes', from: 'yard', to: 'lane' });
});

test('zones of privacy are no place for a rule; one choice closes the sheet, several do not', async () => {
  expect((await chosen('cooldown', '0')).closed).toBe(true);
  expect(screen.queryByTestId('choice-next-door')).toBeNull();
  expect((await chosen('classes', 'dog')).closed).toBe(false);
});

test.each<[PartName, string, Partial<Rule>]>([
  ['behaviour', 'stays', { behaviour: { kind: 'stays', zone: 'yard', seconds: 5 } }],
  ['cameras', 'gate', { cameras: ['yard', 'gate'] }],
  ['presence', 'no one', { presence: 'no one' }],
  ['urgent', 'yes', { urgent: true }],
  ['anchor', '0.5', { anchor: { overlap: 0.5 } }],
])('%s: %s', async (part, choice, change) => {
  let next: Rule | undefined;
  const cameras = [yard, { ...yard, id: 'gate', name: 'Gate' }];
  await draw(
    <PartSheet part={part} rule={rule} site={site} cameras={cameras} change={(r) => (next = r)} {...noRehearsal} close={() => {}} />,
  ).drawn;
  await fireEvent.press(screen.getByTestId(`choice-${choice}`));
  expect(next).toEqual({ ...rule, ...change });
});

test('each of several cameras has its own zones to choose from', async () => {
  const other = { ...yard, id: 'gate', name: 'Gate', zones: yard.zones.filter((z) => z.id === 'lane') };
  let next: Rule | undefined;
  const from: Rule = { ...rule, cameras: ['yard', 'gate'], behaviour: { kind: 'stays', zone: 'lane' } };
  await draw(
    <PartSheet part="zone" rule={from} site={site} cameras={[yard, other]} change={(r) => (next = r)} {...noRehearsal} close={() => {}} />,
  ).drawn;
  expect(screen.queryByTestId('zone-gate-Yard')).toBeNull();
  await fireEvent.press(screen.getByTestId('zone-yard-Yard'));
  expect(next!.behaviour).toEqual({ kind: 'stays', zoneByCamera: { yard: 'yard', gate: 'lane' } });
});

test('a known thing is excluded by what it is known by, and included again', async () => {
  const known = [
    { id: 'van', name: 'Our van', plate: 'AB1' },
    { id: 'shape', name: 'A shape' },
  ];
  const all: Rule[] = [];
  await draw(
    <PartSheet
      part="except"
      rule={rule}
      site={{ ...site, known }}
      cameras={[yard]}
      change={(r) => all.push(r)}
      {...noRehearsal}
      close={() => {}}
    />,
  ).drawn;
  expect(screen.queryByTestId('exclude-known-shape')).toBeNull();
  await fireEvent.press(screen.getByTestId('exclude-known-van'));
  expect(all.at(-1)!.looks).toEqual({ exclude: { plate: 'AB1' } });
});

test('of what is known some are chosen; by another field none of them stays', async () => {
  const known = [
    { id: 'van', name: 'Our van', plate: 'AB1', fields: { make: 'Marsh' } },
    { id: 'ferry', name: 'The ferry', plate: 'F1' },
  ];
  const from: Rule = { ...rule, behaviour: { kind: 'returns', by: 'plate', known: true, who: ['van'] } };
  const all: Rule[] = [];
  await draw(
    <PartSheet
      part="returning"
      rule={from}
      site={{ ...site, known }}
      cameras={[yard]}
      change={(r) => all.push(r)}
      {...noRehearsal}
      close={() => {}}
    />,
  ).drawn;
  await fireEvent.press(screen.getByTestId('who-ferry'));
  expect(all.at(-1)!.behaviour.who).toEqual(['van', 'ferry']);
  await fireEvent.press(screen.getByTestId('returning-unknown:make'));
  expect(all.at(-1)!.behaviour).toEqual({ kind: 'returns', by: 'make', known: false });
});

/** A rule that follows its changes, as on its page. */
function Following({ part, from, notified }: { part: PartName; from: Rule; notified: (rule: Rule) => void }) {
  const [now, setNow] = useState(from);
  const change = (next: Rule) => (setNow(next), notified(next));
  return <PartSheet part={part} rule={now} site={site} cameras={[yard]} change={change} {...noRehearsal} close={() => {}} />;
}
async function following(part: PartName, from: Rule = rule) {
  const all: Rule[] = [];
  await draw(<Following part={part} from={from} notified={(r) => all.push(r)} />).drawn;
  return {
    last: () => all.at(-1),
    type: (id: string, text: string) => fireEvent.changeText(screen.getByTestId(id), text),
    press: (id: string) => fireEvent.press(screen.getByTestId(id)),
  };
}

test('how sure is dragged or stepped over what was really seen', async () => {
  const sureness = Array.from({ length: 20 }, (_, i) => (i === 9 ? 4 : i === 15 ? 6 : 0));
  const result = { days: [], gained: [], lost: [], gainedInAll: 0, lostInAll: 0, never: [], since: 1, sureness };
  const from = { ...rule, confidence: 0.45 };
  let next: Rule | undefined;
  await draw(
    <PartSheet
      part="confidence"
      rule={from}
      site={site}
      cameras={[yard]}
      change={(r) => (next = r)}
      {...noRehearsal}
      week={weekWith(result)}
      close={() => {}}
    />,
  ).drawn;
  expect(screen.getByText(/^10 of 10 matching detections/)).toBeTruthy();
  await fireEvent.press(screen.getByLabelText('Minimum: more'));
  expect(next!.confidence).toBe(0.5);
});

test('how long is seconds and pictures together; what is no number changes nothing', async () => {
  const { last, type } = await following('for');
  await type('for-seconds', '2,5');
  await type('for-frames', '10');
  expect(last()!.behaviour).toEqual({ ...rule.behaviour, seconds: 2.5, frames: 10 });
  await type('for-frames', 'ten');
  expect(screen.getByText('A number from 1 to 10000.')).toBeTruthy();
  expect(last()!.behaviour.frames).toBe(10);
  await type('for-frames', '');
  expect(last()!.behaviour).toEqual({ ...rule.behaviour, seconds: 2.5 });
});

test('more than and fewer than are one or the other', async () => {
  const { last, press, type } = await following('number', { ...rule, behaviour: { kind: 'count', over: 6 } });
  await press('number-under');
  expect(last()!.behaviour).toEqual({ kind: 'count', under: 6 });
  await type('number', '3');
  expect(last()!.behaviour).toEqual({ kind: 'count', under: 3 });
});

test('a size is put in and taken out whole', async () => {
  const { last, type } = await following('size');
  await type('size-least', '30');
  expect(last()!.size).toEqual({ min: 0.3 });
  await type('size-least', '');
  expect(last()).toEqual(rule);
});

test('looks that are left out: a white truck, and none again', async () => {
  const { last, press } = await following('except', { ...rule, classes: ['vehicle'] });
  await press('exclude-types-truck');
  await press('exclude-colours-white');
  expect(last()!.looks).toEqual({ exclude: { types: ['truck'], colours: ['white'] } });
  expect(screen.queryByTestId('exclude-upper-red')).toBeNull();
  await press('exclude-types-truck');
  await press('exclude-colours-white');
  expect(last()!.looks).toBeUndefined();
});

test('everyone is every role, and one by one', async () => {
  const { last, press } = await following('notify');
  await press('notify-everyone');
  expect(last()!.notify!.map((t) => t.to)).toEqual(['owner', 'member', 'installer']);
  await press('notify-member');
  expect(last()!.notify!.map((t) => t.to)).toEqual(['owner', 'installer']);
  await press('notify-rowan');
  expect(last()!.notify!.map((t) => t.to)).toEqual(['owner', 'installer', 'rowan']);
});

test('own words are shown as they will read; an unknown placeholder is said', async () => {
  const { last, press, type } = await following('message');
  await type('message-text', 'Look:');
  await press('fill-in-zone');
  expect(last()!.message).toEqual({ picture: true, description: true, text: 'Look: {zone}' });
  expect(screen.getByText('Look: Yard')).toBeTruthy();
  await type('message-text', '{who} is here');
  expect(screen.getByText('{who} is not a known placeholder.')).toBeTruthy();
  await type('message-text', '');
  expect(last()!.message).toEqual({ picture: true, description: true });
});

// Worked by hand for the landing's mounting: 3 m high, 12° down, so that the middle of the picture meets the ground at 14.11 m. At a distance d of the
// feet along the ground a head 1.75 m up is seen under atan((3 − 1.75) / d): at 14.11 m 5.06° below the level instead of 12°.
test('a grown person is drawn as high as the aim says where the finger points; without an aim as high as is asked for', () => {
  const aim = { heightMetres: 3, tiltDegrees: 12, lens: { horizontalDegrees: 58.5 }, pictureWidth: 1920, pictureHeight: 1080 };
  const there = figureAt(aim, [0.5, 0.5], undefined)!;
  const halfHeight = Math.tan((58.5 * Math.PI) / 360) * (9 / 16);
  const expected = Math.tan(((12 - 5.06) * Math.PI) / 180) / (2 * halfHeight);
  expect(there).toMatchObject({ isPerson: true, high: expect.closeTo(expected, 3) });
  expect(figureAt(aim, [0.5, 0.01], undefined)).toBeUndefined();
  expect(figureAt(undefined, [0.5, 0.8], 0.3)).toMatchObject({ isPerson: false, high: 0.3 });
});

test('a rule asks what is asked of every thing of its class, until it asks something of its own', async () => {
  const prompt = { sentence: false, fields: [{ name: 'carrying', kind: 'text' as const }] };
  const all: Rule[] = [];
  const props = {
    site: { ...site, prompts: { person: prompt } },
    cameras: [yard],
    change: (r: Rule) => all.push(r),
    ...noRehearsal,
    close: () => {},
  };
  const { drawn } = draw(<PartSheet part="message" rule={rule} {...props} />);
  await drawn;
  await screen.findByText('Defaults for every person: carrying.');
  expect(screen.queryByTestId('prompt-fields')).toBeNull();
  await fireEvent.press(screen.getByTestId('prompt-own'));
  expect(all.at(-1)!.message!.prompt).toEqual(prompt);
  await draw(<PartSheet part="message" rule={all.at(-1)!} {...props} />).drawn;
  await fireEvent.press(screen.getByTestId('prompt-of-class'));
  expect(all.at(-1)!.message!.prompt).toBeUndefined();
});
