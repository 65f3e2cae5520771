// What of putting the cameras into service is done and what is open.

import { commissioningOf, commissioningSteps, isFinished, type CameraFacts, type WalkedRule } from '@nibber/core/commissioning';
import type { Camera } from '@nibber/core/site';
import { verdictOf } from '@nibber/core/walk-test';
import { saysWords } from '../../devices/listen';
import { namedCamera } from '../cameras/named';
import { route, type Route } from '../route';
import { list, named, object, oneOf, text, yesNo } from '../schema';
import type { Services } from '../services';

const maxWalks = 200;

const stepAnswer = object({ step: { enum: commissioningSteps } as const, state: oneOf('done', 'open', 'wrong', 'none'), words: text });
const commissioned = named('Commissioned', object({ camera: text, name: text, isFinished: yesNo, steps: list(stepAnswer) }));

type Used = Pick<Services, 'site' | 'record' | 'recent' | 'devices' | 'cameras' | 'walkTests'>;

export function commissioningRoutes({ site, record, recent, devices, cameras, walkTests }: Used): Route[] {
  /** Of each rule and expectation the newest verdict that still stands. */
  const walked = async (): Promise<WalkedRule[]> => {
    const newest = new Map<string, WalkedRule>();
    for (const { items, endedAt } of await record.walkTests.newest(maxWalks))
      for (const item of items) {
        if (item.kind !== 'rule' || item.settingsHash !== walkTests.settingsHash(item)) continue;
        // Of a test that goes on, or was cut off, only what has answered says anything.
        if (endedAt === null && item.result.state === 'waiting') continue;
        const verdict = verdictOf(item, item.result);
        const key = `${item.rule} ${item.expect}`;
        if (verdict !== 'open' && !newest.has(key)) newest.set(key, { rule: item.rule, expect: item.expect, verdict });
      }
    return [...newest.values()];
  };
  const factsOf = (camera: Camera, walks: readonly WalkedRule[]): CameraFacts => {
    const known = devices.clocks.of(camera.id);
    return { picture: pictureOf(camera), clock: known ?? { unknown: 'Its clock has not been checked yet.' }, walks };
  };
  const pictureOf = (camera: Camera): CameraFacts['picture'] => {
    const hasPicture = recent.latest(camera.id) !== undefined;
    if (camera.source.kind === 'paired')
      return hasPicture ? { state: 'runs', words: 'It has sent a picture.' } : { state: 'none yet', words: 'It has sent no picture yet.' };
    const health = cameras.health(camera.id);
    if (health?.state === 'silent') return { state: 'silent', words: `It is silent. ${health.problem ?? ''}`.trim() };
    if (!hasPicture) return { state: 'none yet', words: 'No picture yet.' };
    const said = devices.events.of(camera.id).flatMap((s) => (s.isActive && saysWords[s.kind] ? [saysWords[s.kind]!] : []));
    if (said.length > 0) return { state: 'unwell', words: `The camera reports that ${said.join(', and that ')}.` };
    return { state: 'runs', words: `${health?.picturesASecond ?? 0} frames per second.` };
  };
  const answerOf = (camera: Camera, walks: readonly WalkedRule[]) => {
    const steps = commissioningOf(site.file, camera, factsOf(camera, walks));
    return { camera: camera.id, name: camera.name, isFinished: isFinished(steps), steps };
  };
  return [
    route({
      method: 'get',
      path: '/api/commissioning',
      may: 'set up',
      summary: 'Camera set-up status',
      answer: object({ cameras: list(commissioned) }),
      async handle() {
        const walks = await walked();
        return { cameras: site.file.cameras.map((c) => answerOf(c, walks)) };
      },
    }),
    route({
      method: 'get',
      path: '/api/cameras/:camera/commissioning',
      may: 'set up',
      summary: 'Set-up status of one camera',
      answer: commissioned,
      handle: async ({ params }) => answerOf(namedCamera(site, params.camera).camera, await walked()),
    }),
  ];
}
