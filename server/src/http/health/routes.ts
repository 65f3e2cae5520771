// For a process supervisor and for people.

import { route, type Route } from '../route';
import { count, list, object, orNull, text, yesNo } from '../schema';
import type { Services } from '../services';
import { health, instant, stationProblem } from '../shapes';

type Used = Pick<Services, 'record' | 'site' | 'cameras' | 'problems' | 'clock' | 'live' | 'access'>;

export const healthRoutes = ({ record, site, cameras, problems, clock, live, access }: Used): Route[] => [
  route({
    method: 'get',
    path: '/health/live',
    may: 'anyone',
    summary: 'For a supervisor: answers while the program runs',
    answer: object({ ok: yesNo }),
    handle: async () => ({ ok: true }),
  }),
  route({
    method: 'get',
    path: '/health',
    may: 'anyone',
    summary: 'For a supervisor: 200 if alerts can be sent, 503 in an outage',
    answer: object({ ok: yesNo, writable: yesNo, takesFrames: yesNo, problems: count }),
    async handle({ response }) {
      const writable = await record.settings.isWritable();
      const states = site.file.cameras.map((c) => cameras.health(c.id)?.state ?? 'connecting');
      const takesFrames = states.length === 0 || states.includes('running');
      const outages = problems().filter((p) => p.severity === 'outage').length;
      const isWell = writable && takesFrames && outages === 0;
      response.status(isWell ? 200 : 503);
      // Anyone may ask: how much is wrong is said, what it is stays inside.
      return { ok: isWell, writable, takesFrames, problems: outages };
    },
  }),
  route({
    method: 'get',
    path: '/api/health',
    may: 'look',
    summary: 'Health of the cameras, and current problems',
    answer: object({
      now: instant,
      problems: list(stationProblem),
      cameras: list(object({ id: text, name: text, health: orNull(health) })),
    }),
    async handle({ visitor: { visible } }) {
      const all = site.file.cameras
        .filter((c) => visible.camera(c.id))
        .map((c) => ({ id: c.id, name: c.name, health: cameras.health(c.id) ?? null }));
      // What goes wrong in the whole names what a part must not show.
      return { now: clock.now(), problems: visible.isWhole ? [...problems()] : [], cameras: all };
    },
  }),
  route({
    method: 'get',
    path: '/api/live',
    may: 'look',
    summary: 'Server-sent events: detections, events, alerts, modes, health (schema LiveMessage)',
    answer: { bytes: 'text/event-stream' },
    handle: ({ request, response, visitor }) => {
      const { person, visible } = visitor;
      return live.join(request, response, () => (person === undefined ? visible : access.visibleNow(person)));
    },
  }),
];
