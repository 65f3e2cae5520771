// Whether readings and reminders can be used: what they name is there, and what is compared can be.

import { parseEnd } from '../schedules';
import { roles, type SiteFile } from '../site';
import type { Fault } from '../problem';
import { toldFaults } from './rules';
import { ids, unknown } from './known';

export function readingFaults(site: SiteFile): Fault[] {
  const { readings = [], reminders = [] } = site;
  const fault = (path: string, wrong: string, allowed: string): Fault => ({ path, wrong, allowed });
  const ends = (list: readonly string[] | undefined, path: string) =>
    (list ?? []).flatMap((text, i) => (parseEnd(text) === undefined ? [fault(`${path}/${i}`, `is ${text}`, 'a time such as 18:30, or sunset + 30 min')] : [])); // prettier-ignore
  return [
    ...readings.flatMap((reading, i): Fault[] => {
      const path = `readings/${i}`;
      const { by, least, most, target, times } = reading;
      const isNumber = !('question' in by) || by.kind === 'number';
      const camera = site.cameras.find((c) => c.id === reading.camera);
      return [
        ...unknown(ids(site.cameras), reading.camera, `${path}/camera`, 'camera'),
        ...unknown(ids(site.hours), times?.hours, `${path}/times/hours`, 'schedule'),
        ...(times?.afterMode?.modes ?? []).flatMap((m, j) => unknown(ids(site.modes), m, `${path}/times/afterMode/modes/${j}`, 'mode')),
        ...('counts' in by && camera ? unknown(ids(camera.zones), by.zone, `${path}/by/zone`, `zone of ${camera.name}`) : []),
        ...('question' in by && by.kind === 'one of' && !by.of ? [fault(`${path}/by`, 'has no options', 'of: [open, closed]')] : []),
        ...(!isNumber && (least !== undefined || most !== undefined || target) ? [fault(path, 'has a range but is not a number', 'least, most and target of a number')] : []), // prettier-ignore
        ...(least !== undefined && most !== undefined && least > most ? [fault(`${path}/least`, `is ${least}, above ${most}`, 'the lower end')] : []), // prettier-ignore
        ...ends(times?.at, `${path}/times/at`),
      ];
    }),
    ...reminders.flatMap((reminder, i): Fault[] => {
      const path = `reminders/${i}`;
      const { is } = reminder;
      const reading = readings.find((r) => r.id === reminder.reading);
      const isNumber = reading && (!('question' in reading.by) || reading.by.kind === 'number');
      const people = [...ids(site.people), ...roles];
      return [
        ...unknown(ids(readings), reminder.reading, `${path}/reading`, 'reading'),
        ...unknown(ids(site.hours), reminder.openDays, `${path}/openDays`, 'schedule'),
        ...(reading && !isNumber && (is.under !== undefined || is.over !== undefined) ? [fault(`${path}/is`, `compares ${reading.name}, which is not a number`, 'equal: the value')] : []), // prettier-ignore
        ...((site.rules ?? []).some((r) => r.id === reminder.id)
          ? [fault(`${path}/id`, `${reminder.id} is a rule's`, 'a different id')]
          : []),
        ...ends(reminder.at, `${path}/at`),
        ...ends(reminder.until === undefined ? undefined : [reminder.until], `${path}/until`),
        ...reminder.tell.flatMap((t, j) => toldFaults(site, people, t, `${path}/tell/${j}`)),
      ];
    }),
  ];
}
