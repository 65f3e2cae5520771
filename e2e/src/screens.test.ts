// Every screen at both sizes and in both lights: nothing wider than the page, no fault that axe-core knows, no error on the console.

import { readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { banned, labelLength, longLabels, maxLabelWords } from '@nibber/core/testing';
import { phone, wide } from './browser';
import { openWorld, sendUntilStopped, signIn, type World } from './world';

let world: World;
let track: string;
beforeAll(async () => {
  world = await openWorld();
  track = (await sendUntilStopped(world, 'dog', 'across-yard', 'class', 'pet')).id;
  await signIn(world);
});
afterAll(() => world?.end());

const axe = readFileSync(require.resolve('axe-core/axe.min.js'), 'utf8');
/** What is written on the page, what is read aloud with it, and what stands on its headings, buttons, tabs and fields. */
const written = `
  const shown = [...document.querySelectorAll('*')].filter((e) => e.checkVisibility?.() ?? true);
  const attributes = shown.flatMap((e) => ['aria-label', 'placeholder', 'title', 'alt'].map((a) => e.getAttribute(a) ?? ''));
  const roles = '[role=heading],h1,h2,h3,[role=button],button,[role=tab],[role=switch],[role=checkbox],[role=radio],label';
  return {
    texts: [document.body.innerText, document.title, ...attributes].filter(Boolean),
    labels: shown.filter((e) => e.matches(roles)).map((e) => ({ id: e.dataset.testid ?? '', text: e.innerText.trim() })).filter((l) => l.text !== ''),
  };`;
type Written = { readonly texts: readonly string[]; readonly labels: readonly { readonly id: string; readonly text: string }[] };

type Violation = { id: string; nodes: { html: string; failureSummary: string }[] };

/** An address; what is pressed there, and what comes up then. */
const screens: readonly (readonly [path: string, press?: string, until?: string])[] = [
  ['/'],
  ['/', 'mode-closed', 'arm'],
  ['/events'],
  ['/events/*'],
  ['/cameras'],
  ['/cameras', 'cameras-plan', 'plan'],
  ['/cameras', 'cameras-to-finish', 'to-finish'],
  ['/cameras/yard'],
  ['/cameras/yard', 'tune', 'recent-strip'],
  ['/cameras/yard', 'aim', 'aim-picture'],
  ['/cameras/new'],
  ['/cameras/yard', 'reshape', 'zone-yard'],
  ['/rules'],
  ['/rules', 'part-cooldown', 'choice-0'],
  ['/rules', 'part-classes', 'choice-dog'],
  ['/rules', 'new-rule', 'new-rule-empty'],
  ['/rules/comes-in'],
  ['/rules/comes-in', 'part-message', 'message-text'],
  ['/rules/comes-in', 'add-looks', 'require-upper-red'],
  ['/rules/comes-in', 'add-size', 'size-least'],
  ['/rules/comes-in', 'part-confidence', 'sureness'],
  ['/rules?new=1', undefined, 'new-rule-empty'],
  ['/rules/comes-in', 'part-to', 'choice-yard'],
  ['/rules/walk'],
  ['/site'],
  ['/site/settings'],
  ['/site/settings', 'new-area', 'area-name'],
  ['/site/known'],
  ['/site/known', 'new-known', 'known-name'],
  ['/first/place'],
  ['/first/template'],
  ['/first/phone'],
  ['/site/mine'],
  ['/site/mine', 'my-quiet', 'my-quiet-save'],
  ['/site/people'],
  ['/site/people', 'person-tess', 'person-save'],
  ['/site/people', 'invite', 'invite-name'],
  ['/why'],
  ['/ask'],
  ['/ask', 'ask-example-0', 'ask-answer'],
  ['/ask?q=how%20many%20people', 'ask-correct', 'meant-ask'],
  ['/site/schedules'],
  ['/site/modes'],
  ['/site/modes', 'edit-mode-closed', 'mode-name'],
  ['/site/channels'],
  ['/site/channels', 'set-up-mail', 'mail-host'],
  ['/site/channels', 'set-up-text', 'text-url'],
  ['/site/channels', 'add-receiver', 'receiver-name'],
  ['/site/ai-services'],
  ['/site/ai-services', 'add-service', 'service-name'],
  ['/site/readings'],
  ['/site/readings', 'add-reading', 'reading-name'],
  ['/rules/comes-in', 'add-question', 'question-words'],
  ['/rules/prompt-tests?rule=comes-in', undefined, 'another-prompt'],
  ['/site/storage'],
  ['/site/access'],
  ['/site/device'],
  ['/site/logbook'],
  ['/site/schedules/opening'],
  ['/site/schedules/opening', 'day-0', 'day-spans'],
  ['/site/schedules/opening', 'from-calendar', 'choose-calendar'],
  ['/site/file', 'site-versions', 'version-1'],
];

const looks = [
  ['a phone', phone, ['light', 'dark'], screens],
  // What comes up over a page is the same on a desk.
  ['a desk', wide, ['light'], screens.filter(([, press]) => press === undefined)],
] as const;

describe.each(looks)('on %s', (_name, size, lights, shown) => {
  // All of a row's places are filled: Jest would put its own `done` in the first that is not.
  const rows = shown.map(([path, press, until]) => [press ? `${path} ${press}` : path, path, press, until] as const);
  test.each(rows)('%s', async (_words, path, press, until) => {
    const { browser, place } = world;
    await browser.size(size);
    await browser.driver.get(place.url + (path === '/events/*' ? `/events/${track}` : path));
    await browser.driver.wait(() => browser.driver.executeScript('return !!document.querySelector("[role=heading],h1")'), 20_000);
    if (press) await browser.press(press);
    if (until) await browser.find(until);
    const overflow = await browser.driver.executeScript('return document.documentElement.scrollWidth - window.innerWidth');
    expect(overflow).toBeLessThanOrEqual(0);
    const { texts, labels }: Written = await browser.driver.executeScript(written);
    expect(texts.filter((t) => banned.test(t))).toEqual([]);
    const long = labels.filter(
      ({ id, text }) => labelLength(text) > maxLabelWords && !longLabels.some(([known]) => known.test(id) || known.test(text)),
    );
    expect(long).toEqual([]);
    await browser.driver.executeScript(axe);
    for (const [i, light] of lights.entries()) {
      await browser.size(size, light);
      // The page is the same in the other light, but for its colours.
      const rules =
        i === 0
          ? { type: 'tag', values: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] }
          : { type: 'rule', values: ['color-contrast'] };
      let violations: Violation[] = [];
      // What fades in or changes its light is looked at until it stands; what is wrong stays wrong.
      const isStillValid = async () => {
        violations = await browser.driver.executeAsyncScript(
          'const done = arguments[arguments.length - 1]; window.axe.run(document, { runOnly: arguments[0], resultTypes: ["violations"] }).then((r) => done(r.violations))',
          rules,
        );
        return violations.length === 0;
      };
      await browser.driver.wait(isStillValid, 5000).catch(() => {});
      expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 160)).join(' | ')}`)).toEqual([]);
    }
    expect(await browser.consoleErrors()).toEqual([]);
  });
});

test('the first page is under 700 KB of compressed script', async () => {
  const { browser, place } = world;
  await browser.driver.get(`${place.url}/`);
  await browser.driver.wait(() => browser.driver.executeScript('return !!document.querySelector("[role=heading],h1")'), 20_000);
  const scripts: string[] = await browser.driver.executeScript(
    'return [...new Set(performance.getEntriesByType("resource").map((e) => e.name).filter((name) => name.endsWith(".js")))]',
  );
  let bytes = 0;
  for (const script of scripts) {
    const answer = await fetch(script, { headers: { 'accept-encoding': 'gzip' } });
    expect(answer.headers.get('content-encoding')).toBe('gzip');
    bytes += gzipSync(await answer.text()).length;
  }
  expect(scripts.length).toBeGreaterThan(0);
  expect(bytes).toBeLessThan(700 * 1024);
});
