// Whether readings and reminders can be used: what they name is there, and what is compared can be.

import { parseEnd } from '../schedules';
import { roles, type SiteFile } from '../site';
import type { FieldProblem } from '../problem';
import { notifiedProblems } from './rules';
import { ids, unknown } from './known';

export function readingProblems(site: SiteFile): FieldProblem[] {
  const { readings = [], reminders = [] } = site;
  const problem = (path: string, wrong: string, allowed: string): FieldProblem => ({ path, wrong, allowed });
  const ends = (list: readonly string[] | undefined, path: string) =>
    (list ?? []).flatMap((text, i) =>
      parseEnd(text) === undefined ? [problem(`${path}/${i}`, `is ${text}`, 'a time such as 18:30, or sunset + 30 min')] : [],
    );
  return [
    ...readings.flatMap((reading, i): FieldProblem[] => {
      const path = `readings/${i}`;
      const { by, min, max, target, times } = reading;
      const isNumber = !('question' in by) || by.kind === 'number';
      const camera = site.cameras.find((c) => c.id === reading.camera);
      return [
        ...unknown(ids(site.cameras), reading.camera, `${path}/camera`, 'camera'),
        ...unknown(ids(site.schedules), times?.schedule, `${path}/times/schedule`, 'schedule'),
        ...(times?.afterMode?.modes ?? []).flatMap((m, j) => unknown(ids(site.modes), m, `${path}/times/afterMode/modes/${j}`, 'mode')),
        ...('counts' in by && camera ? unknown(ids(camera.zones), by.zone, `${path}/by/zone`, `zone of ${camera.name}`) : []),
        ...('question' in by && by.kind === 'one of' && !by.of ? [problem(`${path}/by`, 'has no options', 'of: [open, closed]')] : []),
        ...(!isNumber && (min !== undefined || max !== undefined || target)
          ? [problem(path, 'has a range but is not a number', 'min, max and target of a number')]
          : []),
        ...(min !== undefined && max !== undefined && min > max
          ? [problem(`${path}/min`, `is ${min}, above ${max}`, 'the lower end')]
          : []),
        ...ends(times?.at, `${path}/times/at`),
      ];
    }),
    ...reminders.flatMap((reminder, i): FieldProblem[] => {
      const path = `reminders/${i}`;
      const { is } = reminder;
      const reading = readings.find((r) => r.id === reminder.reading);
      const isNumber = reading && (!('question' in reading.by) || reading.by.kind === 'number');
      const people = [...ids(site.people), ...roles];
      return [
        ...unknown(ids(readings), reminder.reading, `${path}/reading`, 'reading'),
        ...unknown(ids(site.schedules), reminder.openDays, `${path}/openDays`, 'schedule'),
        ...(reading && !isNumber && (is.under !== undefined || is.over !== undefined)
          ? [problem(`${path}/is`, `compares ${reading.name}, which is not a number`, 'equal: the value')]
          : []),
        ...((site.rules ?? []).some((r) => r.id === reminder.id)
          ? [problem(`${path}/id`, `${reminder.id} is a rule's`, 'a different id')]
          : []),
        ...ends(reminder.at, `${path}/at`),
        ...ends(reminder.until === undefined ? undefined : [reminder.until], `${path}/until`),
        ...reminder.notify.flatMap((t, j) => notifiedProblems(site, people, t, `${path}/notify/${j}`)),
      ];
    }),
  ];
}
