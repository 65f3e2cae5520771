// One event or track with everything that is known of it: its path, its trails, its alerts.

import type { EventRow, TrackRow } from '../../db';
import type { Services } from '../services';
import {
  alertAnswer,
  clipAnswer,
  eventAnswer,
  namesOf,
  questionAnswer,
  snapshotAnswers,
  trackAnswer,
  trailAnswer,
  trailAnswers,
} from './answer';

export function detailsOf({ record, site }: Pick<Services, 'record' | 'site'>) {
  const { alerts, tracks, media } = record;
  const names = namesOf({ site });
  return {
    async ofEvent(event: EventRow) {
      const [track, trails, notified, held, views] = await Promise.all([
        event.track === null ? undefined : tracks.find(event.track),
        event.track === null ? [] : tracks.trailsOf([event.track]),
        alerts.of([event.id]),
        media.of('event', [event.id]),
        record.people.viewsOf([event.id]),
      ]);
      // What is of no track has come through its rule, and no other was asked.
      const own = { rule: event.rule ?? '', stoppedAt: null, why: '', at: event.at, steps: event.steps, track: '' };
      const stored = trails.length > 0 || event.rule === null ? trails : [own];
      return {
        ...eventAnswer(event, held.get(event.id), names),
        path: track?.path ?? [],
        trails: track ? trailAnswers(stored, track.camera, event.at, { site }) : stored.map((t) => trailAnswer(t, names)),
        alerts: notified.map((a) => alertAnswer(a, names, views)),
        views: views.map((l) => ({ person: names.person(l.person), at: l.at })),
        snapshots: snapshotAnswers(event, held.get(event.id)),
        chosenBy: event.chosenBy,
        ...clipAnswer(event, held.get(event.id)),
        descriptionProblem: event.descriptionProblem,
        fields: event.fields,
        question: questionAnswer(event, held.get(event.id), names.service),
      };
    },
    async ofTrack(track: TrackRow) {
      const [trails, held] = await Promise.all([tracks.trailsOf([track.id]), media.of('track', [track.id])]);
      const none = {
        clip: null,
        clipFrom: null,
        clipProblem: null,
        description: null,
        descriptionProblem: null,
        fields: null,
        question: null,
        mark: null,
      };
      return {
        ...trackAnswer(track, held.get(track.id), names),
        path: track.path,
        trails: trailAnswers(trails, track.camera, track.lastSeen, { site }),
        alerts: [],
        views: [],
        snapshots: [],
        chosenBy: null,
        ...none,
      };
    },
  };
}
