// Invented sites and recordings to measure with.

import type { Input } from '@nibber/core/sieve';
import type { Rule, SiteFile } from '@nibber/core/site';

/** Ten rules of every kind on the camera of the test site. */
export function tenRules(file: SiteFile): void {
  const common = { cameras: ['gate'], modes: ['shut'], schedules: 'closed', cooldownSeconds: 300, confidence: 0.5 };
  const rule = (id: string, classes: Rule['classes'], behaviour: Rule['behaviour'], more: Partial<Rule> = {}): Rule => ({
    id,
    name: id,
    classes,
    behaviour,
    ...common,
    ...more,
  });
  file.rules = [
    rule('in', ['person'], { kind: 'goes', from: 'lane', to: 'yard' }),
    rule('appears', ['person'], { kind: 'appears', zone: 'yard', frames: 3 }),
    rule('parked', ['vehicle'], { kind: 'appears', zone: 'lane' }),
    rule('stays', ['vehicle', 'person'], { kind: 'stays', zone: 'yard', seconds: 20 }),
    rule('crosses', ['person'], { kind: 'crosses', line: 'gateway' }),
    rule('animal', ['pet'], { kind: 'appears', zone: 'yard' }),
    rule('sure', ['person'], { kind: 'appears', zone: 'yard' }, { confidence: 0.9 }),
    rule('by-day', ['person'], { kind: 'goes', from: 'lane', to: 'yard' }, { modes: ['open'] }),
    rule('out', ['vehicle'], { kind: 'goes', from: 'yard', to: 'lane' }, { cooldownSeconds: 0 }),
    rule('many', ['person'], { kind: 'count', zone: 'yard', over: 3 }),
  ];
}

const second = 1000;
const cameras = 6;

/** Six cameras, each with a lane and a yard, and a rule for each but one that looks at two. */
export function sixCameras(file: SiteFile): void {
  const [gate] = file.cameras;
  file.cameras = Array.from({ length: cameras }, (_, i) => ({ ...structuredClone(gate!), id: `c${i}`, name: `Camera ${i}` }));
  file.rules = Array.from({ length: cameras }, (_, i): Rule => ({
    id: `r${i}`,
    name: `Rule ${i}`,
    cameras: i === 0 ? ['c0', 'c1'] : [`c${i}`],
    classes: i % 2 ? ['person', 'vehicle'] : ['person'],
    confidence: 0.4,
    behaviour:
      i % 3 === 2
        ? { kind: 'crosses', line: 'gateway' }
        : i % 3
          ? { kind: 'stays', zone: 'yard', seconds: 5 }
          : { kind: 'goes', from: 'lane', to: 'yard' },
    cooldownSeconds: 60,
  }));
}

/** Numbers that look random and are the same each time. */
export function scatter(seed: number): () => number {
  let s = seed;
  return () => (s = (Math.imul(s, 1_664_525) + 1_013_904_223) >>> 0) / 2 ** 32;
}

/** A week of those cameras: someone every few minutes, each followed for some twenty frames. */
export function aWeek(frames: number): Input[] {
  const random = scatter(3);
  const start = Date.parse('2026-06-01T00:00:00Z');
  const visits = Math.ceil(frames / 20);
  const inputs: Input[] = [];
  for (let v = 0; v < visits; v++) {
    const from = start + Math.floor((v * 7 * 86_400 * second) / visits);
    const camera = `c${v % cameras}`;
    const score = 0.3 + random() * 0.65;
    const [x, first, step] = [random() * 0.9, 0.3 + random() * 0.2, random() * 0.03];
    const cls = random() < 0.7 ? 'person' : 'vehicle';
    for (let i = 0; i < 20; i++)
      inputs.push({
        kind: 'frame',
        frame: {
          at: from + i * 400,
          camera,
          objects: [{ class: cls, score, box: [x, first + i * step, 0.05, 0.1 + random() * 0.02], track: `v${v}` }],
        },
      });
  }
  return inputs.sort((a, b) => (a.kind === 'frame' && b.kind === 'frame' ? a.frame.at - b.frame.at : 0));
}
