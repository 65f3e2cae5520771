// Why did I (not) get this? Asked for a camera and a time, answered from stored events: what was detected then, which gate stopped it, who was notified, by
// what, when that was accepted, looked at, acted on; and where nothing was seen, when something last and next was.

import { Problem } from '@nibber/core/problem';
import type { Instant } from '@nibber/core/time';
import { alert, alertAnswer, eventItems, listItem, namesOf, trackItems, trail, trailAnswers } from '../events/answer';
import { may } from '@nibber/core/permissions';
import { route, type Route } from '../route';
import { list, maybeNumber, named, object, text, typed } from '../schema';
import type { Services } from '../services';
import { instant } from '../shapes';

const reachMs = 10 * 60_000;
const max = 12;

const act = object({ at: instant, who: text, what: text });
const found = named('WhyFound', object({ item: listItem, trails: list(trail), alerts: list(alert), acts: list(act) }));
const answer = named(
  'Why',
  object({
    camera: text,
    at: instant,
    from: instant,
    to: instant,
    person: text,
    found: list(found),
    before: maybeNumber,
    after: maybeNumber,
  }),
);

type Used = Pick<Services, 'record' | 'site' | 'clock'>;

export function whyRoutes(services: Used): Route[] {
  const { record, site, clock } = services;
  const names = namesOf(services);
  const nearestFirst = (at: Instant) => (a: { at: Instant }, b: { at: Instant }) => Math.abs(a.at - at) - Math.abs(b.at - at);
  return [
    route({
      method: 'get',
      path: '/api/why',
      may: 'look',
      summary: 'Why a person was or was not notified of a camera’s detections around a time; `person` defaults to you',
      query: object({ camera: typed(40), at: instant, person: typed(40) }, ['person']),
      answer,
      async handle({ query: { camera, at, person: asked }, visitor }) {
        const called = site.file.cameras.find((c) => c.id === camera)?.name;
        if (called === undefined || !visitor.visible.camera(camera))
          throw new Problem('not-found', `Camera ${camera} not found.`, 'See the list of cameras.');
        const id = asked ?? visitor.person;
        const person = site.file.people?.find((p) => p.id === id);
        if (!person) throw new Problem('not-found', 'Person not found.', 'Choose a person.');
        if (person.id !== visitor.person && !may(visitor.role, 'invite'))
          throw new Problem('not-allowed', 'You can only see your own alerts.', `Ask ${person.name}, the owner or the installer.`);
        const [from, to] = [at - reachMs, at + reachMs];
        const { events, tracks, before, after } = await record.tracks.around(camera, from, to, max);
        const [eventRows, trackRows] = await Promise.all([record.events.some(events), record.tracks.some(tracks)]);
        const of = [...eventRows.flatMap((e) => e.track ?? []), ...trackRows.map((t) => t.id)];
        const [items, quiet, alerts, looks, acts, trails] = await Promise.all([
          eventItems(services, eventRows),
          trackItems(services, trackRows),
          record.alerts.of(events),
          record.people.viewsOf(events),
          record.logbook.about(events),
          record.tracks.trailsOf(of),
        ]);
        const trailsOf = (track: string | null, at: number) =>
          track === null
            ? []
            : trailAnswers(
                trails.filter((t) => t.track === track),
                camera,
                at,
                { site },
              );
        const all = [
          ...items.map((item, i) => ({
            item,
            trails: trailsOf(eventRows[i]!.track, item.at),
            alerts: alerts
              .filter((a) => a.event === item.id && a.person === person.id)
              .map((a) =>
                alertAnswer(
                  a,
                  names,
                  looks.filter((l) => l.event === item.id),
                ),
              ),
            acts: acts.filter((l) => l.event === item.id).map((l) => ({ at: l.at, who: l.who, what: l.what })),
          })),
          ...quiet.map((item) => ({ item, trails: trailsOf(item.id, item.at), alerts: [], acts: [] })),
        ];
        const sorted = all.sort((a, b) => nearestFirst(at)(a.item, b.item)).slice(0, max);
        return { camera: called, at, from, to: Math.min(to, clock.now()), person: person.name, found: sorted, before, after };
      },
    }),
  ];
}
