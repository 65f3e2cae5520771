// Whether people, and the ways to reach them, can be used.

import type { Person, SiteFile } from '../site';
import type { FieldProblem } from '../problem';
import { gatewayProblems } from '../gateway';
import { ids, unknown } from './known';

export function personProblems(site: SiteFile, person: Person, path: string): FieldProblem[] {
  const { role, until, access = {}, quietHours } = person;
  const each = (list: readonly string[] | undefined, key: string, there: readonly string[], what: string) =>
    (list ?? []).flatMap((id, i) => unknown(there, id, `${path}/access/${key}/${i}`, what));
  return [
    ...unknown(ids(site.schedules), quietHours, `${path}/quietHours`, 'schedule'),
    ...each(access.areas, 'areas', ids(site.areas), 'area'),
    ...each(access.cameras, 'cameras', ids(site.cameras), 'camera'),
    ...(person.cameraGroups ?? []).flatMap((set, i) =>
      set.cameras.flatMap((id, j) => unknown(ids(site.cameras), id, `${path}/cameraGroups/${i}/cameras/${j}`, 'camera')),
    ),
    // Whoever sets the place up sees it.
    ...(person.access && (role === 'owner' || role === 'installer')
      ? [{ path: `${path}/access`, wrong: `limits ${person.name}, who is ${role}`, allowed: 'only for members and guests' }]
      : []),
    ...(role === 'guest' && until === undefined
      ? [{ path, wrong: `${person.name} is a guest without an end date`, allowed: 'until: the last day, 2026-12-24' }]
      : []),
    ...(role === 'guest' && person.access === undefined
      ? [{ path, wrong: `${person.name} is a guest without access to anything`, allowed: 'access: { areas: [], cameras: [] }' }]
      : []),
    ...(until !== undefined && !isDate(until) ? [{ path: `${path}/until`, wrong: `is ${until}`, allowed: 'a day of the calendar' }] : []),
  ];
}

const isDate = (text: string) => {
  const at = new Date(`${text}T00:00:00Z`);
  return !Number.isNaN(at.getTime()) && at.toISOString().startsWith(text);
};

export const receiverProblems = (site: SiteFile): FieldProblem[] =>
  (site.receivers ?? []).flatMap((receiver, i): FieldProblem[] => {
    const path = `receivers/${i}`;
    const isBroker = /^mqtt/.test(receiver.url);
    return [
      ...(isBroker === (receiver.by === 'mqtt')
        ? []
        : [
            {
              path: `${path}/url`,
              wrong: `does not go with ${receiver.by}`,
              allowed: receiver.by === 'mqtt' ? 'mqtt://… or mqtts://…' : 'https://…',
            },
          ]),
      ...(receiver.by === 'webhook' && (receiver.topic !== undefined || receiver.user !== undefined)
        ? [{ path, wrong: 'is a webhook with a topic or a user', allowed: 'only for mqtt' }]
        : []),
      ...((site.people ?? []).some((p) => p.id === receiver.id)
        ? [{ path: `${path}/id`, wrong: `${receiver.id} is a person's`, allowed: 'a different id' }]
        : []),
    ];
  });

export const channelProblems = ({ channels = {} }: SiteFile): FieldProblem[] =>
  channels.text ? gatewayProblems(channels.text).map((f) => ({ ...f, path: `channels/text/${f.path}` })) : [];
