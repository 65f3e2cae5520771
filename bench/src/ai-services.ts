// AI services: a table of wordings filled as fast as the service allows; and what a service that is dead costs an alert.

import { listener, phoneKeys } from '@nibber/server/testing/listener';
import { testDescriber } from '@nibber/server/testing/describers';
import { peopledYard, testStations, until, walkIn } from '@nibber/server/testing/stations';
import { median, rounded, type Figures } from './measure';

const answerMs = 200;
const atOnce = 4;
const [moments, promptVersions] = [5, 4];
const rounds = 25;

/** From someone's walk into the yard to the push service being called, ms. */
async function alertMs(describer: string | undefined): Promise<number> {
  let arrived: (at: number) => void = () => {};
  const notified = new Promise<number>((resolve) => (arrived = resolve));
  const push = await listener((_request, response) => {
    arrived(performance.now());
    response.writeHead(201).end();
  });
  const stations = await testStations({ ...(describer ? { describer } : {}), ownPushServices: [push.url], site: peopledYard });
  try {
    await stations.ask('POST', '/api/phones', { label: 'Phone', endpoint: `${push.url}/phone`, keys: phoneKeys() });
    await stations.ask('PUT', '/api/areas/yard/mode', { mode: 'shut' });
    const began = performance.now();
    await walkIn(stations);
    return (await notified) - began;
  } finally {
    await stations.end();
    push.close();
  }
}

async function tableMs(): Promise<number> {
  const service = await testDescriber(async () => ({ content: 'Seen.', afterMs: answerMs }));
  const stations = await testStations({ ownServices: [service.origin], site: peopledYard.replace(', description: true', '') });
  try {
    await stations.ask('POST', '/api/ai-services', { service: { name: 'One', url: service.url, model: 'm', atOnce } });
    await stations.ask('PUT', '/api/areas/yard/mode', { mode: 'shut' });
    await walkIn(stations);
    const { rule, id } = await until(async () => (await stations.ask('GET', '/api/events?show=notified')).body.items[0]);
    const event = (await stations.record.events.find(id))!;
    const held = (await stations.record.media.of('event', [id])).get(id)!;
    const examples = [{ event: id as string, checks: [] }];
    // The same moment under other names: what is measured is the table.
    for (let i = 1; i < moments; i++) {
      const copy = `copy-${i}`;
      await stations.record.write((transaction) => stations.record.events.add({ ...event, id: copy }, transaction));
      await stations.record.media.using(async (keep) => {
        for (const role of ['picture', 'marked'] as const) {
          const file = await keep(await stations.record.media.read(held[role]!.name), 'jpg');
          const holding = { holder: 'event', holderId: copy, role, camera: event.camera, takenAt: event.at, file } as const;
          await stations.record.write((transaction) => stations.record.media.hold(transaction, holding));
        }
      });
      examples.push({ event: copy, checks: [] });
    }
    await stations.ask('PUT', `/api/rules/${rule}/prompt-tests/examples`, { examples });
    const asked = Array.from({ length: promptVersions }, (_, i) => ({ prompt: { words: `Wording number ${i}.` } }));
    const began = performance.now();
    await stations.ask('POST', `/api/rules/${rule}/prompt-tests`, { promptVersions: asked, services: ['one'] });
    await until(() => stations.promptTests.running(rule) === null);
    return performance.now() - began;
  } finally {
    await stations.end();
    service.close();
  }
}

export async function benchAiServices(): Promise<Figures> {
  const dead = await testDescriber(() => ({}));
  dead.close();
  const hanging = await testDescriber(() => new Promise(() => {}));
  const times: { [kind: string]: number[] } = { none: [], dead: [], hanging: [] };
  await alertMs(undefined);
  for (let i = 0; i < rounds; i++)
    for (const [kind, url] of [
      ['none', undefined],
      ['dead', dead.url],
      ['hanging', hanging.url],
    ] as const)
      times[kind]!.push(await alertMs(url));
  hanging.close();
  const ideal = (moments * promptVersions * answerMs) / atOnce;
  return {
    'a table of 5 × 4, times what the service allows at best': rounded((await tableMs()) / ideal, 2),
    'an alert with a dead describing service, times one without any': rounded(median(times.dead!) / median(times.none!), 2),
    'an alert with one that never answers, times one without any': rounded(median(times.hanging!) / median(times.none!), 2),
  };
}
