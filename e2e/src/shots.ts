// npm run shots: the pictures of docs/screenshots, taken again from the demo's place.

import path from 'node:path';
import { phone, wide } from './browser';
import { openWorld, sendUntil, sendUntilStopped, signIn, waitFor } from './world';

const folder = path.join(__dirname, '..', '..', 'docs', 'screenshots');
const settleMs = 2500;

async function main() {
  const world = await openWorld('whole');
  const { browser, place } = world;
  const look = async (
    address: string,
    size: { width: number; height: number },
    light: 'light' | 'dark',
    name: string,
    before?: () => Promise<unknown>,
  ) => {
    await browser.size(size, light);
    await browser.driver.get(address.startsWith('http') ? address : place.url + address);
    await new Promise((r) => setTimeout(r, settleMs));
    await before?.();
    await browser.shot(path.join(folder, `${name}.png`));
    console.log(name);
  };
  const text = async () => (await browser.driver.executeScript('return document.body.innerText')) as string;
  try {
    await signIn(world);
    const stopped = await sendUntilStopped(world, 'bo', 'lane-to-yard', 'mode', 'person');
    await world.api('/api/areas/landing/mode', 'PUT', { mode: 'closed' });
    await sendUntilStopped(world, 'dog', 'across-yard', 'class', 'pet');
    await sendUntilStopped(world, 'grey-saloon', 'drive-in', 'class', 'vehicle');
    const notified = await sendUntil(world, 'ada', 'lane-to-yard', async () =>
      (await world.pocket()).notifications.find((n) => n.filledIn),
    );
    const moment = new URL(notified.open).pathname;
    await waitFor(async () => (await world.api<{ clip: string | null }>(`/api/events/${moment.split('/').at(-1)}`)).clip ?? undefined);
    await world.api(`/api/events/${moment.split('/').at(-1)}/mark`, 'PUT', { mark: 'useful' });
    const rule = {
      id: 'vehicles',
      name: 'Vehicles in the yard',
      cameras: ['yard'],
      classes: ['vehicle'],
      confidence: 0.3,
      behaviour: { kind: 'stays', zone: 'yard', seconds: 4 },
      cooldownSeconds: 0,
      message: { picture: true, description: true },
      notify: [{ to: 'owner', channel: 'push' }],
    };
    // What stands there from before is no news.
    await world.direct({ kind: 'clear' });
    await world.api('/api/rules/vehicles', 'PUT', rule);
    const van = await sendUntil(
      world,
      'white-van',
      'drive-up',
      async () => (await world.pocket()).notifications.find((n) => /plate .*(Marsh|Reed)/i.test(n.body)),
      async () => `no van: ${JSON.stringify((await world.pocket()).notifications.map((n) => [n.title, n.body]))}`,
    );
    await look(new URL(van.open).pathname, phone, 'light', 'event-phone');
    await world.api('/api/rules/vehicles', 'DELETE');
    await look(`/events/${stopped.id}`, phone, 'dark', 'trail-phone-dark');
    await look('/events', phone, 'light', 'events-phone');
    await look('/site/schedules/opening', phone, 'light', 'schedule-phone');
    await look('/ask', phone, 'light', 'ask-phone', async () => {
      await browser.type('ask-question', 'When was the dog last at the jetty?');
      await browser.press('ask');
      await browser.find('ask-answer');
      await new Promise((r) => setTimeout(r, settleMs));
    });
    await look('/rules/comes-in', wide, 'light', 'rule-wide', async () => {
      for (const id of ['part-schedule', 'choice-*time', 'part-modes', 'choice-open', 'part-done']) await browser.press(id);
      await browser.reads(/Added by this change/, 60_000);
      await new Promise((r) => setTimeout(r, settleMs));
    });
    for (const id of ['leave-rule', 'leave-go']) await browser.press(id);
    await look('/site/mine', phone, 'light', 'my-alerts-phone');
    await look('/site/people', phone, 'light', 'people-phone', async () => {
      for (const id of ['invite', 'invite-make']) await browser.press(id);
      await browser.find('invite-code');
      await new Promise((r) => setTimeout(r, settleMs));
    });
    await look('/site/file', wide, 'light', 'site-file-wide');
    await look('/cameras/new', phone, 'light', 'connect-phone', async () => {
      await browser.press(`found ${new URL(place.standins.stage).host} RM-200`);
      await browser.type('device-name', 'admin');
      await browser.type('device-password', 'reed-mace-7');
      await browser.press('try');
      await browser.reads('Save camera', 40_000);
      await new Promise((r) => setTimeout(r, settleMs));
    });
    await look('/cameras/yard', wide, 'light', 'aim-wide', async () => {
      await browser.press('aim');
      const picture = await browser.find('aim-picture');
      await browser.driver.actions().move({ origin: picture, x: 60, y: 40 }).press().release().perform();
      await new Promise((r) => setTimeout(r, settleMs));
    });
    await look('/cameras/yard', phone, 'light', 'tune-phone', async () => {
      await browser.press('tune');
      await sendUntil(world, 'bo', 'lane-to-yard', async () => (/: detected/.test(await text()) ? true : undefined));
    });
    await look('/rules/prompt-tests?rule=comes-in', wide, 'light', 'tries-wide', async () => {
      await browser.press('choose-moments');
      await browser.press(`event-${moment.split('/').at(-1)}`);
      await browser.type(`checks-${moment.split('/').at(-1)}`, 'contains person\nnever dog');
      for (const id of ['moments-save', 'another-prompt', 'prompt-ready-Person', 'try-wordings']) await browser.press(id);
      await browser.reads('checks hold', 60_000);
      await new Promise((r) => setTimeout(r, settleMs));
      // What came of it stands below what was asked.
      await browser.driver.executeScript(`document.querySelector('[data-testid=try-wordings]').scrollIntoView()`);
    });
    for (const home of [12, 12, 11, 9]) {
      await world.direct({ kind: 'canoes', home });
      await new Promise((r) => setTimeout(r, settleMs));
      await world.api('/api/readings/canoes/take', 'POST');
    }
    await look('/site/readings', phone, 'light', 'readings-phone', async () => {
      await browser.press('span-day');
      await new Promise((r) => setTimeout(r, settleMs));
    });
    await look('/cameras', wide, 'light', 'plan-wide', async () => {
      await browser.press('cameras-plan');
      await browser.reads('% covered');
    });
    await look('/cameras/yard', phone, 'light', 'zones-phone', async () => {
      await browser.press('reshape');
      await browser.press('zone-yard');
      await new Promise((r) => setTimeout(r, settleMs));
    });
    await world.send('cy', 'across-yard');
    await look('/cameras/yard', wide, 'dark', 'camera-wide-dark');
    await look('/', wide, 'light', 'now-wide');
    await look('/', phone, 'light', 'now-phone');
  } finally {
    await world.end();
  }
}

main().catch((thrown: Error) => {
  console.error(thrown);
  process.exit(1);
});
