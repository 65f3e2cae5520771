// Events and the tracks that did not become one; a moment; the sieve of a day.

import { col, fn, Op } from 'sequelize';
import { Trouble } from '@nibber/core/trouble';
import type { EventRow, Mark, TrackRow, TrailRow } from '../record';
import { noteInLogbook } from '../record/logbook';
import type { Parts } from './parts';
import { object, param, route, routeWithBody, type Route } from './route';

const pageSize = 40;
const dayMs = 86_400_000;

export function eventRoutes(parts: Parts): Route[] {
  const { record, clock, site } = parts;
  const { events, alerts, tracks, trails } = record.tables;
  const names = {
    camera: (id: string) => site.compiled.cameras.get(id)?.name ?? id,
    rule: (id: string) => site.file.rules?.find((r) => r.id === id)?.name ?? id,
  };

  const summary = (e: EventRow) => ({
    kind: 'event' as const,
    id: e.id,
    at: e.at,
    camera: e.camera,
    cameraName: names.camera(e.camera),
    rule: e.rule,
    ruleName: e.ruleName,
    class: e.class,
    type: e.type,
    picture: `/pictures/${e.picture}`,
    box: e.pictureBox,
    description: e.description,
    mark: e.mark,
    isTest: e.test !== null,
  });
  /** A track that no rule let through, with the trail that came furthest. */
  const stopped = (t: TrackRow, all: readonly TrailRow[]) => {
    const furthest = [...all].sort((a, b) => b.steps.length - a.steps.length)[0];
    return {
      kind: 'track' as const,
      id: t.id,
      at: t.lastSeen,
      camera: t.camera,
      cameraName: names.camera(t.camera),
      class: t.class,
      type: t.type,
      picture: t.picture ? `/pictures/${t.picture}` : null,
      box: t.pictureBox,
      stoppedAt: furthest?.stoppedAt ?? null,
      why: furthest?.why ?? 'No rule was asked.',
      ruleName: furthest ? names.rule(furthest.rule) : null,
    };
  };
  const trailsOf = async (ids: readonly string[]) => {
    const rows = await trails.findAll({ where: { track: [...ids] } });
    return rows.map((r) => r.get({ plain: true }) as TrailRow);
  };

  return [
    route('get', '/api/events', 'signed-in', async ({ request }) => {
      const { before, camera, cls, show } = filters(request.query);
      const where = (time: 'at' | 'lastSeen') => ({
        // By time and then by id: of several at the same instant none is left out between two pages.
        [Op.or]: [{ [time]: { [Op.lt]: before.at } }, { [time]: before.at, id: { [Op.lt]: before.id } }],
        ...(camera ? { camera } : {}),
        ...(cls ? { class: cls } : {}),
        test: null,
      });
      const found =
        show === 'stopped'
          ? []
          : await events.findAll({
              where: where('at') as never,
              order: [
                ['at', 'DESC'],
                ['id', 'DESC'],
              ],
              limit: pageSize + 1,
            });
      const quiet = show === 'told' ? [] : await quietTracks(where('lastSeen'));
      const all = [...found.map(summary), ...quiet].sort((a, b) => b.at - a.at || (a.id < b.id ? 1 : -1));
      const page = all.slice(0, pageSize);
      const last = page.at(-1);
      return { items: page, more: last && all.length > pageSize ? `${last.at}.${last.id}` : null };
    }),
    route('get', '/api/events/:event', 'signed-in', async ({ request }) => {
      const id = param(request, 'event');
      const event = await events.findByPk(id);
      if (event) return moment(event.get({ plain: true }));
      const track = await tracks.findByPk(id);
      if (!track) throw new Trouble('not-found', 'This moment is not kept here (any more).', 'Go back to Events.');
      const own = await trailsOf([id]);
      return {
        ...stopped(track, own),
        path: track.path,
        trails: own.map(trailAnswer),
        alerts: [],
        clip: null,
        clipFrom: null,
        clipTrouble: null,
        description: null,
        descriptionTrouble: null,
        mark: null,
      };
    }),
    routeWithBody<{ mark: Mark | null }>(
      'put',
      '/api/events/:event/mark',
      'signed-in',
      object({ mark: { enum: ['kept', 'noise', null] } }),
      async ({ request, body, visitor }) => {
        const id = param(request, 'event');
        await record.write(async (transaction) => {
          const [changed] = await events.update({ mark: body.mark }, { where: { id }, transaction });
          if (!changed) throw new Trouble('not-found', 'There is no such event.', 'Only events can be marked.');
          await noteInLogbook(
            record,
            transaction,
            clock.now(),
            visitor.name,
            body.mark ? `marked an event as ${body.mark}` : 'took a mark back',
            id,
          );
        });
        parts.live.say({ kind: 'event', id });
        return { mark: body.mark };
      },
    ),
    route('get', '/api/sieve', 'signed-in', async () => sieveOfADay()),
  ];

  async function quietTracks(where: object) {
    const passed = { [Op.notIn]: record.sequelize.literal('(SELECT track FROM events)') };
    const rows = await tracks.findAll({
      where: { [Op.and]: [where, { id: passed }] } as never,
      order: [
        ['lastSeen', 'DESC'],
        ['id', 'DESC'],
      ],
      limit: pageSize + 1,
    });
    const all = await trailsOf(rows.map((r) => r.id));
    return rows.map((r) =>
      stopped(
        r,
        all.filter((t) => t.track === r.id),
      ),
    );
  }

  async function moment(event: EventRow) {
    const [track, own, told] = await Promise.all([
      tracks.findByPk(event.track),
      trailsOf([event.track]),
      alerts.findAll({ where: { event: event.id } }),
    ]);
    const people = site.file.people ?? [];
    return {
      ...summary(event),
      path: track?.path ?? [],
      trails: own.map(trailAnswer),
      alerts: told.map((a) => ({
        id: a.id,
        person: people.find((p) => p.id === a.person)?.name ?? a.person,
        channel: a.channel,
        state: a.state,
        why: a.why,
        sentAt: a.sentAt,
      })),
      clip: event.clip ? `/pictures/${event.clip}` : null,
      clipFrom: event.clipFrom,
      clipTrouble: event.clipTrouble,
      descriptionTrouble: event.descriptionTrouble,
    };
  }

  function trailAnswer(t: TrailRow) {
    return { rule: t.rule, ruleName: names.rule(t.rule), stoppedAt: t.stoppedAt, why: t.why, at: t.at, steps: t.steps };
  }

  /** Of the tracks of the last 24 hours: how many each gate stopped (by the rule that let each come furthest), and what came through. */
  async function sieveOfADay() {
    const since = clock.now() - dayMs;
    const ofTests = record.sequelize.literal('(SELECT id FROM tracks WHERE test IS NOT NULL)');
    const [seen, rows, eventCount, alertCount] = await Promise.all([
      tracks.count({ where: { lastSeen: { [Op.gte]: since }, test: null } }),
      trails.findAll({
        where: { lastSeen: { [Op.gte]: since }, track: { [Op.notIn]: ofTests } } as never,
        attributes: ['track', 'stoppedAt', [fn('json_array_length', col('steps')), 'reached']],
        raw: true,
      }) as unknown as Promise<{ track: string; stoppedAt: string | null; reached: number }[]>,
      events.count({ where: { at: { [Op.gte]: since }, test: null } }),
      countAlerts(since),
    ]);
    const furthest = new Map<string, { stoppedAt: string | null; reached: number }>();
    for (const row of rows) {
      const known = furthest.get(row.track);
      const isFurther = !known || row.stoppedAt === null || (known.stoppedAt !== null && row.reached > known.reached);
      if (isFurther) furthest.set(row.track, row);
    }
    const stoppedBy: Record<string, number> = {};
    for (const { stoppedAt } of furthest.values()) if (stoppedAt) stoppedBy[stoppedAt] = (stoppedBy[stoppedAt] ?? 0) + 1;
    return { since, tracks: seen, stoppedBy, events: eventCount, alerts: alertCount };
  }

  async function countAlerts(since: number) {
    const ids = await events.findAll({ where: { at: { [Op.gte]: since }, test: null }, attributes: ['id'], raw: true });
    return alerts.count({ where: { event: ids.map((e) => e.id), state: ['waiting', 'sent'] } });
  }
}

function filters(query: Record<string, unknown>) {
  const text = (key: string) => (typeof query[key] === 'string' ? (query[key] as string) : undefined);
  const [, at, id] = /^(\d{1,16})(?:\.([\w-]{1,60}))?$/.exec(text('before') ?? String(Number.MAX_SAFE_INTEGER)) ?? [];
  if (at === undefined)
    throw new Trouble('bad-input', 'before is not a place in the list.', 'Give what `more` said, or milliseconds since 1970.');
  const before = { at: Number(at), id: id ?? '' };
  return { before, camera: text('camera'), cls: text('class'), show: text('show') };
}
