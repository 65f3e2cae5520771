// The chain from a camera's detection to its rules: what makes a rule silent without anybody noticing, and mending it.

import { chainFindings, type Finding } from '@nibber/core/chain';
import { Trouble } from '@nibber/core/trouble';
import { namedCamera } from './camera';
import type { Parts } from './parts';
import { editors, object, param, route, routeWithBody, textSchema, type Route } from './route';

const lookedAt = 300;

export function chainRoutes({ site, record }: Parts): Route[] {
  const find = (id: string) => namedCamera(site, id).camera;
  const findingsOf = (id: string): Finding[] => {
    const rules = new Set((site.file.rules ?? []).filter((r) => r.cameras.includes(id)).map((r) => r.id));
    return chainFindings(site.file).filter((f) => f.camera === id || (f.camera === undefined && rules.has(f.rule)));
  };
  const answer = async (id: string) => {
    const { reports, source } = find(id);
    const findings = findingsOf(id).map(({ mend, ...rest }) => ({ ...rest, canMend: mend !== undefined }));
    const rules = (site.file.rules ?? []).filter((r) => r.cameras.includes(id) && r.on !== false).map((r) => r.name);
    return { findings, rules, reports: reports ?? null, seen: source.kind === 'paired' ? await seenOf(id) : null };
  };
  /** What its newest events say of its detection. */
  const seenOf = async (camera: string) => {
    const rows = await record.tables.deliveries.findAll({
      attributes: ['seen'],
      where: { camera },
      order: [['at', 'DESC']],
      limit: lookedAt,
    });
    const seen = rows.flatMap((r) => Object.entries(r.seen ?? {}));
    const scores = seen.flatMap(([, range]) => range);
    const classes = [...new Set(seen.map(([name]) => name))].sort();
    return seen.length
      ? { events: rows.length, classes, leastScore: Math.min(...scores), mostScore: Math.max(...scores) }
      : { events: rows.length, classes: [], leastScore: null, mostScore: null };
  };
  return [
    route('get', '/api/cameras/:camera/chain', 'signed-in', async ({ request }) => answer(param(request, 'camera'))),
    routeWithBody<{ kind: string; rule: string }>(
      'post',
      '/api/cameras/:camera/chain/mend',
      editors,
      object({ kind: textSchema(60), rule: textSchema(60) }),
      async ({ request, body, visitor }) => {
        const { id, name } = find(param(request, 'camera'));
        await site.edit(
          () => {
            const finding = findingsOf(id).find((f) => f.kind === body.kind && f.rule === body.rule);
            if (!finding) throw new Trouble('not-found', 'This is not so any more.', 'Look at the chain again.');
            if (!finding.mend) throw new Trouble('bad-input', 'This cannot be mended from here.', finding.remedy);
            return [[finding.mend.path, finding.mend.value]];
          },
          { by: visitor.name, what: `mended the chain of ${name}` },
        );
        return answer(id);
      },
    ),
  ];
}
