// Whether cameras, and what is drawn on their pictures, can be used.

import type { Camera, Line, SiteFile, Zone } from '../site';
import type { FieldProblem } from '../problem';
import { minPoints, maxPoints, polygonProblem, polygonProblemWords, type Polygon } from '../zones';
import { ids, unknown } from './known';

export function cameraProblems(site: SiteFile): FieldProblem[] {
  return site.cameras.flatMap((c, i) => {
    const path = `cameras/${i}`;
    return [
      ...unknown(ids(site.areas), c.area, `${path}/area`, 'area'),
      ...addressProblems(c, `${path}/source`),
      ...zoneProblems(c.zones ?? [], `${path}/zones`),
      ...lineProblems(c.lines ?? [], `${path}/lines`),
    ];
  });
}

/** Whether what should be covered is sound. */
export function planProblems({ plan }: SiteFile): FieldProblem[] {
  const problem = plan?.covers && polygonProblem(plan.covers as unknown as Polygon);
  const allowed = `${minPoints} to ${maxPoints} points from 0 to 1, whose edges do not cross`;
  return problem ? [{ path: 'plan/covers', wrong: polygonProblemWords(problem), allowed }] : [];
}

/** Whether a camera's zones are sound. */
export function zoneProblems(zones: readonly Zone[], path: string): FieldProblem[] {
  const allowed = `${minPoints} to ${maxPoints} points from 0 to 1, whose edges do not cross`;
  return zones.flatMap((z, i) => {
    const problem = polygonProblem(z.polygon as unknown as Polygon);
    const problems: FieldProblem[] = problem ? [{ path: `${path}/${i}/polygon`, wrong: polygonProblemWords(problem), allowed }] : [];
    if (z.classes && z.purpose !== 'ignore')
      problems.push({ path: `${path}/${i}/classes`, wrong: `is set on a zone for ${z.purpose}`, allowed: 'only where purpose is ignore' });
    return problems;
  });
}

/** Whether a camera's lines are sound. */
export const lineProblems = (lines: readonly Line[], path: string): FieldProblem[] =>
  lines.flatMap((line, i) => {
    const points = line.points as unknown as Polygon;
    const outside = points.findIndex(([x, y]) => !(x >= 0 && x <= 1 && y >= 0 && y <= 1));
    if (outside >= 0)
      return [{ path: `${path}/${i}/points`, wrong: `point ${outside + 1} lies outside the picture`, allowed: 'points from 0 to 1' }];
    const same = points.findIndex((p, j) => j > 0 && p[0] === points[j - 1]![0] && p[1] === points[j - 1]![1]);
    return same < 0
      ? []
      : [{ path: `${path}/${i}/points`, wrong: `points ${same} and ${same + 1} are the same`, allowed: 'different points' }];
  });

/** Sign-ins are kept elsewhere and named here; one that is written into an address would be handed on with the file. */
const addressProblems = ({ source }: Camera, path: string): FieldProblem[] =>
  Object.entries(source).flatMap(([key, value]) =>
    /^(https?|rtsp):\/\/[^/?#]*@/.test(value)
      ? [
          {
            path: `${path}/${key}`,
            wrong: 'has a login in its address',
            allowed: 'an address without one, and secret: the name it is stored under',
          },
        ]
      : [],
  );
