// What a place is set up as, by hand: hours painted, typed, read from a calendar; drafts that outlive a reload and another's changes.

import { writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Key } from 'selenium-webdriver';
import { openWorld, sendUntil, signIn, waitFor, type World } from './world';

let world: World;
beforeAll(async () => {
  world = await openWorld();
  await signIn(world);
});
afterAll(() => world?.end());

type Plan = { weekly: { [day: string]: string[] }; exceptions?: { date: string; name?: string; spans: string[]; calendar?: string }[] };
type ScheduleNow = { plan: Plan & { id: string }; on: boolean };
const opening = async () =>
  (await world.api<{ schedules: ScheduleNow[] }>('/api/schedules')).schedules.find((h) => h.plan.id === 'opening')!.plan;
const go = (address: string) => world.browser.driver.get(world.place.url + address);

/** Paints from one hour of a day to another of another, as a finger does. */
async function paint(from: readonly [day: number, hour: number], to: readonly [day: number, hour: number]): Promise<void> {
  const week = await world.browser.find('week-grid');
  await world.browser.driver.executeScript('arguments[0].scrollIntoView({ block: "center" })', week);
  const { width, height } = await week.getRect();
  const place = ([day, hour]: readonly [number, number]) => ({
    origin: week,
    x: Math.round((hour / 24 - 0.5) * width),
    y: Math.round(((day + 0.5) / 7 - 0.5) * height),
  });
  const between = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2] as const;
  await world.browser.driver.actions().move(place(from)).press().move(place(between)).move(place(to)).release().perform();
}

test('hours are painted by a finger, and by keys; undone; saved as they were painted', async () => {
  const { browser } = world;
  await go('/site/schedules');
  await browser.reads('51 h a week');
  await browser.press('schedule-opening');
  await browser.reads('Used by the schedule Outside opening hours.');
  await paint([1, 12], [1, 16]);
  await browser.reads('Tuesday 12:00 to 16:00: on');
  await browser.reads('55 h a week');
  // Painted out again on two days, and that undone as one.
  await paint([5, 12], [6, 15]);
  await browser.reads('Saturday to Sunday 12:00 to 15:00: off');
  await browser.reads('49 h a week');
  await browser.press('schedule-undo');
  await browser.reads('55 h a week');
  // The keys begin on Monday at nine: to a quarter past, put on, and taken along to the half hour.
  const week = await browser.find('week-grid');
  await week.sendKeys(' ', Key.ARROW_RIGHT);
  await browser.reads('55 h 15 min a week');
  await browser.driver.actions().keyDown(Key.SHIFT).sendKeys(Key.ARROW_RIGHT).keyUp(Key.SHIFT).perform();
  await browser.reads('55 h 30 min a week');
  await browser.press('save-schedule');
  await browser.reads('Opening hours saved.');
  expect((await opening()).weekly).toMatchObject({ mon: ['09:00-18:00'], tue: ['12:00-16:00'], sat: ['09:30-18:00'] });
});

test('exact times are typed and copied to other days; a wrong one is said where it stands', async () => {
  const { browser } = world;
  await browser.press('day-0');
  const spans = await browser.find('day-spans');
  await spans.sendKeys(Key.chord(Key.CONTROL, 'a'), '09:40-25:00');
  await browser.reads('is not a time range');
  await spans.sendKeys(Key.chord(Key.CONTROL, 'a'), '09:40-17:55, 22:00-01:00');
  await browser.press('copy-to-5');
  await browser.press('day-done');
  await browser.press('save-schedule');
  await waitFor(async () => ((await opening()).weekly.sat?.[0] === '09:40-17:55' ? true : undefined));
  expect((await opening()).weekly).toMatchObject({ mon: ['09:40-17:55', '22:00-01:00'], sat: ['09:40-17:55', '22:00-01:00'] });
});

test('a calendar file brings its days in, outlives a reload before it is saved, and is refused where it is none', async () => {
  const { browser } = world;
  const file = path.join(tmpdir(), 'nibber-regattas.ics');
  const lines = [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//example//EN',
    'X-WR-CALNAME:Regatta days',
    'BEGIN:VEVENT',
    'UID:r@example.org',
    'SUMMARY:Regatta',
    'DTSTART;TZID=Europe/London:20260613T080000',
    'DTEND;TZID=Europe/London:20260613T200000',
    'RRULE:FREQ=WEEKLY;COUNT=3',
    'END:VEVENT',
    'END:VCALENDAR',
  ];
  writeFileSync(file, 'no calendar at all');
  await browser.press('from-calendar');
  await browser.press('calendar-open');
  await browser.chooseFile('choose-calendar', file);
  await browser.reads('This is not a calendar');
  // The browser notes every answer that is no success.
  expect(await browser.consoleErrors()).toHaveLength(1);
  writeFileSync(file, lines.join('\r\n'));
  await browser.chooseFile('choose-calendar', file);
  await browser.reads('Days: 3 new.');
  await browser.press('use-calendar');
  await browser.reads('Saturday 20 June 2026');
  await browser.driver.navigate().refresh();
  await browser.reads('Saturday 20 June 2026');
  expect((await opening()).exceptions ?? []).toEqual([]);
  await browser.press('save-schedule');
  await waitFor(async () => ((await opening()).exceptions?.length === 3 ? true : undefined));
  expect((await opening()).exceptions![0]).toEqual({
    date: '2026-06-13',
    name: 'Regatta',
    spans: ['08:00-20:00'],
    calendar: 'Regatta days',
  });
});

test('what another changed meanwhile is said; the draft is still there, and either is kept', async () => {
  const { browser } = world;
  await paint([1, 19], [1, 20]);
  await browser.reads('Tuesday 19:00 to 20:00: on');
  const other = await opening();
  await world.api('/api/schedules/opening', 'PUT', { ...other, name: 'Opening times' });
  await browser.reads('has been changed by someone else since you started editing');
  await browser.press('draft-go-on');
  await browser.press('save-schedule');
  await waitFor(async () => ((await opening()).weekly.tue?.includes('19:00-20:00') ? true : undefined));
});

test('new hours are made, and removed with an undo; what is used cannot be removed', async () => {
  const { browser } = world;
  await go('/site/schedules');
  await browser.press('new-schedule');
  await browser.type('new-schedule-name', 'Quiet at night');
  await browser.press('begin-schedule');
  await browser.press('begin-from');
  await browser.press('template-nights');
  await browser.reads('56 h a week');
  await browser.press('save-schedule');
  await browser.reads('Not used yet.');
  await browser.press('remove-schedule');
  await browser.reads('Quiet at night removed.');
  const ids = async () => (await world.api<{ schedules: ScheduleNow[] }>('/api/schedules')).schedules.map((h) => h.plan.id);
  expect(await ids()).not.toContain('quiet-at-night');
  await (await browser.driver.findElement({ xpath: '//*[text()="Undo"]' })).click();
  await waitFor(async () => ((await ids()).includes('quiet-at-night') ? true : undefined));
  await browser.press('schedule-opening');
  expect(await (await browser.find('remove-schedule')).isEnabled()).toBe(false);
  expect(await browser.consoleErrors()).toEqual([]);
});

/** Puts this in place of the site file's first line. */
async function typeFirstLine(text: string): Promise<void> {
  const { driver } = world.browser;
  await world.browser.find('site-text');
  await driver.wait(() =>
    driver.executeScript('return !!document.querySelector("[data-testid=site-text]").shadowRoot?.querySelector(".cm-content")'),
  );
  await driver.executeScript('document.querySelector("[data-testid=site-text]").shadowRoot.querySelector(".cm-content").focus()');
  const hand = driver.actions().keyDown(Key.CONTROL).sendKeys(Key.HOME).keyUp(Key.CONTROL);
  await hand.sendKeys(Key.ENTER, Key.ARROW_UP).sendKeys(text).perform();
}

test('the site file is edited, refused at its line, applied after its difference was seen, and gone back to', async () => {
  const { browser } = world;
  const file = async () => (await world.api<{ text: string; version: number }>('/api/site/file')).text;
  const before = await file();
  await go('/site/file');
  await browser.reads('(current)');
  await typeFirstLine('known: [{ id: van, nme: Our van }]');
  await browser.reads(/\d problems/);
  await browser.reads('Line 1: known/0');
  expect(await (await browser.find('save-site-text')).isEnabled()).toBe(false);
  await browser.driver
    .actions()
    .sendKeys(...Array.from({ length: 'nme: Our van }]'.length }, () => Key.BACK_SPACE), 'name: Our van }]')
    .perform();
  await browser.reads('Known person or vehicle Our van added');
  // It outlives a reload, and nothing has changed yet.
  await browser.driver.navigate().refresh();
  await browser.reads('Known person or vehicle Our van added');
  expect(await file()).toBe(before);
  await browser.press('save-site-text');
  await browser.reads('The site file was saved.');
  expect(await file()).toContain('Our van');
  const { version } = await world.api<{ version: number }>('/api/site/file');
  await browser.press('site-versions');
  await browser.press(`version-${version - 1}`);
  await browser.reads('Known person or vehicle Our van removed');
  await browser.press('save-site-text');
  await waitFor(async () => ((await file()) === before ? true : undefined));
  expect(await browser.consoleErrors()).toEqual([]);
});

test('a rule is made from nothing by touch: what it lacks is said, its draft outlives a reload, and it is saved', async () => {
  const { browser } = world;
  await go('/rules');
  await browser.press('new-rule');
  await browser.press('new-rule-empty');
  await browser.reads('Choose what it should detect.');
  expect(await (await browser.find('save-rule')).isEnabled()).toBe(false);
  const name = await browser.find('rule-name');
  await name.sendKeys(Key.chord(Key.CONTROL, 'a'), 'Somebody waits');
  await browser.press('fix-classes');
  await browser.press('choice-person');
  await browser.press('part-done');
  await browser.press('fix-cameras');
  await browser.press('choice-yard');
  await browser.press('part-done');
  await browser.press('part-behaviour');
  await browser.press('choice-stays');
  await browser.press('part-for');
  const seconds = await browser.find('for-seconds');
  await seconds.sendKeys(Key.chord(Key.CONTROL, 'a'), '2');
  await browser.press('part-done');
  await browser.press('part-zone');
  await browser.press('choice-yard');
  await browser.press('part-modes');
  await browser.press('choice-open');
  await browser.press('part-done');
  await browser.driver.navigate().refresh();
  await browser.press('part-notify');
  await browser.press('notify-everyone');
  await browser.press('part-done');
  await browser.press('part-message');
  await browser.type('message-text', 'Somebody waits at');
  await browser.press('fill-in-zone');
  await browser.reads('Somebody waits at Yard');
  await browser.press('part-done');
  await browser.press('add-urgent');
  await browser.press('choice-yes');
  await browser.reads(
    'When a person stays in Yard for 2 s while Closed, at any time, notify everyone with “Somebody waits at {zone}” and a picture, every time, urgent.',
  );
  await browser.press('save-rule');
  await browser.reads('Somebody waits saved.');
  const rules = await world.api<{ name: string }[]>('/api/rules');
  expect(rules.find((r) => r.name === 'Somebody waits')).toMatchObject({
    modes: ['closed'],
    behaviour: { kind: 'stays', zone: 'yard', seconds: 2 },
    urgent: true,
  });
});

test('it is seen to fire, with its own words on the phone, and to stay quiet for who keeps to the lane', async () => {
  await world.api('/api/areas/landing/mode', 'PUT', { mode: 'closed' });
  const notified = await sendUntil(world, 'ada', 'across-yard', async () =>
    (await world.pocket()).notifications.find((n) => n.title === 'Somebody waits'),
  );
  expect(notified.body).toBe('Somebody waits at Yard');
  type Stopped = { items: { id: string; kind: string; why?: string }[] };
  const passed = async () => (await world.api<Stopped>('/api/events?show=stopped&class=person&camera=yard')).items;
  const known = (await passed()).map((t) => t.id);
  const quiet = await sendUntil(world, 'cy', 'along-lane', async () => (await passed()).find((t) => !known.includes(t.id)));
  expect(quiet.why).toMatch(/Lane|never in Yard/);
});

test('another like it marks what differs, and a rule is removed with an undo', async () => {
  const { browser } = world;
  await go('/rules/new-rule');
  await browser.press('another-like-it');
  await browser.reads('New rule');
  await browser.press('part-cooldown');
  await browser.press('choice-1200');
  const rest = await browser.find('part-cooldown');
  expect(await rest.getAttribute('aria-label')).toBe('Change: 20 min, changed');
  await browser.press('save-rule');
  await browser.reads('Somebody waits 2 saved.');
  await browser.press('edit-somebody-waits-2');
  await browser.press('remove-rule');
  await browser.reads('Somebody waits 2 removed.');
  const names = async () => (await world.api<{ name: string }[]>('/api/rules')).map((r) => r.name);
  expect(await names()).not.toContain('Somebody waits 2');
  await (await browser.driver.findElement({ xpath: '//*[text()="Undo"]' })).click();
  await waitFor(async () => ((await names()).includes('Somebody waits 2') ? true : undefined));
  expect(await browser.consoleErrors()).toEqual([]);
});

test('modes: one more is made, warns until a rule is on in it, and says before it is armed what it will do', async () => {
  const { browser } = world;
  await go('/site/modes');
  await browser.press('new-mode');
  await browser.type('mode-name', 'Night');
  await browser.press('save-mode');
  await browser.reads('Night arms, but no rule is active in it.');
  await go('/');
  await browser.press('mode-night');
  await browser.reads('No rule is active in this mode. No alerts will be sent.');
  await browser.press('arm-cancel');
  await go('/site/modes');
  await browser.press('on-comes-in-night');
  await browser.driver.wait(
    async () => !((await browser.driver.executeScript('return document.body.innerText')) as string).includes('Night arms,'),
  );
  await go('/');
  await browser.press('mode-night');
  await browser.reads('What will happen');
  await browser.press('arm');
  type Site = { areaModes: { mode: string; by: string }[] };
  const mode = async () => (await world.api<Site>('/api/site')).areaModes[0]!;
  await waitFor(async () => ((await mode()).mode === 'night' ? true : undefined));
  // A command holds until the plan's next switch, which the screen says.
  const { text } = await world.api<{ text: string }>('/api/site/file');
  const modeSchedules = 'modeSchedules:\n  - { id: morning, areas: [landing], weekly: { wed: ["21:30 open"] } }\n';
  await world.api('/api/site/file', 'PUT', { text: text.replace('modes:', `${modeSchedules}modes:`) });
  await browser.reads('Until 21:30, then Open.');
  await world.setTime('21:31');
  await waitFor(async () => ((await mode()).mode === 'open' ? true : undefined));
  expect((await mode()).by).toBe('the plan');
});
