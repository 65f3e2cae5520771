// Whether hours and the plan that switches modes can be used.

import { parseSpan, type End } from '../schedules';
import { parseSwitch } from '../modes';
import type { SiteFile } from '../site';
import type { FieldProblem } from '../problem';
import { ids, orNone, unknown } from './known';

const needsLocation = { wrong: 'depends on the sun, but the site has no latitude and longitude', allowed: 'site: { latitude, longitude }' };
const hangsOnSun = (end: End) => typeof end !== 'number';
const isPlaced = ({ site }: SiteFile) => site.latitude !== undefined && site.longitude !== undefined;

type Week = Readonly<Record<string, readonly string[] | undefined>> | undefined;
type Exceptions = readonly ({ readonly date: string } & Readonly<Record<string, unknown>>)[] | undefined;

/** Every list of a week and its exceptions, with its place. */
const lists = (weekly: Week, exceptions: Exceptions, key: 'spans' | 'switches'): [string, readonly string[]][] => [
  ...Object.entries(weekly ?? {}).map(([day, list]): [string, readonly string[]] => [`weekly/${day}`, list ?? []]),
  ...(exceptions ?? []).map((e, j): [string, readonly string[]] => [`exceptions/${j}/${key}`, e[key] as readonly string[]]),
];

const dateProblems = (exceptions: Exceptions, path: string): FieldProblem[] =>
  (exceptions ?? []).flatMap((e, j) => {
    const at = Date.parse(`${e.date}T00:00:00Z`);
    const isDay = !Number.isNaN(at) && new Date(at).toISOString().startsWith(e.date);
    return isDay ? [] : [{ path: `${path}/exceptions/${j}/date`, wrong: `${e.date} is not a date`, allowed: 'a date such as 2026-12-24' }];
  });

export function scheduleProblems(site: SiteFile): FieldProblem[] {
  return (site.schedules ?? []).flatMap((h, i) => {
    const path = `schedules/${i}`;
    const problems = lists(h.weekly as Week, h.exceptions as Exceptions, 'spans').flatMap(([day, spans]) =>
      spans.flatMap((text, j): FieldProblem[] => {
        const span = parseSpan(text);
        if (!span)
          return [{ path: `${path}/${day}/${j}`, wrong: `${text} is not a time range`, allowed: '00:00 to 24:00, such as 18:00-08:00' }];
        return (hangsOnSun(span.from) || hangsOnSun(span.to)) && !isPlaced(site) ? [{ path: `${path}/${day}/${j}`, ...needsLocation }] : [];
      }),
    );
    problems.push(...dateProblems(h.exceptions as Exceptions, path));
    if (h.outside === undefined)
      return h.weekly
        ? problems
        : [...problems, { path, wrong: 'has no weekly schedule', allowed: 'weekly, or outside: the id of another schedule' }];
    const base = site.schedules!.find((o) => o.id === h.outside);
    const allowed = orNone(site.schedules!.filter((o) => o.outside === undefined).map((o) => o.id));
    if (!base || base.outside !== undefined)
      problems.push({ path: `${path}/outside`, wrong: `${h.outside} is not a schedule with its own weekly times`, allowed });
    if (h.weekly || h.exceptions) problems.push({ path, wrong: 'has both weekly and outside', allowed: 'one of them' });
    return problems;
  });
}

export function modeScheduleProblems(site: SiteFile): FieldProblem[] {
  return (site.modeSchedules ?? []).flatMap((s, i) => {
    const path = `modeSchedules/${i}`;
    const problems = lists(s.weekly as Week, s.exceptions as Exceptions, 'switches').flatMap(([day, switches]) =>
      switches.flatMap((text, j): FieldProblem[] => {
        const at = `${path}/${day}/${j}`;
        const parsed = parseSwitch(text);
        if (!parsed) return [{ path: at, wrong: `${text} is not a mode change`, allowed: 'a time and a mode, such as 18:00 closed' }];
        const place = hangsOnSun(parsed.at) && !isPlaced(site) ? [{ path: at, ...needsLocation }] : [];
        return [...unknown(ids(site.modes), parsed.mode, at, 'mode'), ...place];
      }),
    );
    const areas = s.areas.flatMap((id, j) => {
      const other = site.modeSchedules!.findIndex((o, k) => k < i && o.areas.includes(id));
      const twice =
        other < 0
          ? []
          : [
              {
                path: `${path}/areas/${j}`,
                wrong: `${id} is also switched by ${site.modeSchedules![other]!.id}`,
                allowed: 'one schedule for each area',
              },
            ];
      return [...unknown(ids(site.areas), id, `${path}/areas/${j}`, 'area'), ...twice];
    });
    return [...areas, ...problems, ...dateProblems(s.exceptions as Exceptions, path)];
  });
}
