// The chain from a camera's detection to its rules: what makes a rule silent without anyone noticing, and fixing it.

import { chainFindings, type Finding } from '@nibber/core/chain';
import { Problem } from '@nibber/core/problem';
import { namedCamera } from '../cameras/named';
import { route, type Route } from '../route';
import { count, list, maybeNumber, named, object, orNull, text, typed, yesNo } from '../schema';
import type { Services } from '../services';
import { camera as fields } from '../shapes';

const lookedAt = 300;

const finding = object({ kind: text, rule: text, camera: text, words: text, hint: text, canFix: yesNo }, ['camera']);
const seen = object({ events: count, classes: list(text), minScore: maybeNumber, maxScore: maybeNumber });
const chain = named(
  'Chain',
  object({ findings: list(finding), rules: list(text), builtInDetection: orNull(fields.builtInDetection), seen: orNull(seen) }),
);

export function chainRoutes({ site, record }: Pick<Services, 'site' | 'record'>): Route[] {
  const find = (id: string) => namedCamera(site, id).camera;
  const rulesOf = (id: string) => (site.file.rules ?? []).filter((r) => r.cameras.includes(id));
  const findingsOf = (id: string): Finding[] => {
    const rules = new Set(rulesOf(id).map((r) => r.id));
    return chainFindings(site.file).filter((f) => f.camera === id || (f.camera === undefined && rules.has(f.rule)));
  };
  /** What its newest events say of its detection. */
  const seenOf = async (camera: string) => {
    const newest = await record.deliveries.seen(camera, lookedAt);
    const all = newest.flatMap((of) => Object.entries(of ?? {}));
    const scores = all.flatMap(([, range]) => [...range]);
    const classes = [...new Set(all.map(([name]) => name))].sort();
    const none = { minScore: null, maxScore: null };
    return { events: newest.length, classes, ...(all.length ? { minScore: Math.min(...scores), maxScore: Math.max(...scores) } : none) };
  };
  const answer = async (id: string) => {
    const { builtInDetection, source } = find(id);
    const findings = findingsOf(id).map(({ fix, ...rest }) => ({ ...rest, canFix: fix !== undefined }));
    const rules = rulesOf(id).flatMap((r) => (r.on === false ? [] : [r.name]));
    return { findings, rules, builtInDetection: builtInDetection ?? null, seen: source.kind === 'paired' ? await seenOf(id) : null };
  };
  return [
    route({
      method: 'get',
      path: '/api/cameras/:camera/chain',
      may: 'look',
      summary: 'Problems that keep a camera’s rules from firing',
      answer: chain,
      handle: async ({ params }) => answer(params.camera),
    }),
    route({
      method: 'post',
      path: '/api/cameras/:camera/chain/fix',
      may: 'set up',
      summary: 'Fix one finding that can be fixed from here',
      body: object({ kind: typed(60), rule: typed(60) }),
      answer: chain,
      async handle({ params, body, visitor }) {
        const { id, name } = find(params.camera);
        await site.edit(
          () => {
            const found = findingsOf(id).find((f) => f.kind === body.kind && f.rule === body.rule);
            if (!found) throw new Problem('not-found', 'This problem no longer exists.', 'Reload the page.');
            if (!found.fix) throw new Problem('bad-input', 'This cannot be fixed from here.', found.hint);
            return [[found.fix.path, found.fix.value]];
          },
          { by: visitor, what: `fixed the settings of ${name}` },
        );
        return answer(id);
      },
    }),
  ];
}
