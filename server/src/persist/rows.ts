// The rows of what happened, whatever it is of.

import type { SieveEvent, Trail } from '@nibber/core/sieve';
import type { FollowedThing, NewEvent } from '../base/events';
import type { EventRow, TrackRow, TrailRow } from '../db';
import { bareEvent } from '../db/events';
import type { SiteBook } from '../db/site';

/** @param trails how far it came by each rule, where it is over */
export const trackRow = (
  { id, view, path, best }: FollowedThing,
  hasEvent: boolean,
  test: string | undefined,
  trails: readonly Trail[] = [],
): TrackRow => ({
  id,
  camera: view.camera,
  class: view.class,
  type: view.type ?? null,
  firstSeen: view.firstSeen,
  lastSeen: view.lastSeen,
  path: [...path],
  pictureBox: best.box,
  hasEvent,
  ...stopOf(trails),
  test: test ?? null,
});

/** Of a rule that is on and watches the camera; of any other it is said where it is read (core/sieve, `trailsOfUnwatching`). */
export const isWatching = ({ stoppedAt }: Trail): boolean => stoppedAt !== 'source';

/** Where a track was stopped: by the rule that let it come furthest. */
function stopOf(trails: readonly Trail[]): Pick<TrackRow, 'stoppedAt' | 'stoppedBy' | 'why'> {
  const watching = trails.filter(isWatching);
  const furthest = (watching.length ? watching : [...trails]).sort((a, b) => b.steps.length - a.steps.length)[0];
  return { stoppedAt: furthest?.stoppedAt ?? null, stoppedBy: furthest?.rule ?? null, why: furthest?.why ?? null };
}

export function eventRow(site: Pick<SiteBook, 'file'>, event: NewEvent): EventRow {
  const { id, kind, at, area, picture } = event;
  const { rules = [], reminders = [] } = site.file;
  const named = [...rules, ...reminders].find((r) => r.id === event.rule)?.name ?? event.rule;
  const ruleName = named ?? titleOf(event);
  const pictureBox = picture && 'taken' in picture ? picture.taken.box : null;
  return { ...bareEvent, id, kind, at, area, rule: event.rule ?? null, ruleName, pictureBox, ...ofKind(site, event) };
}

function ofKind(site: Pick<SiteBook, 'file'>, event: NewEvent): Partial<EventRow> {
  const nameOf = (list: readonly { readonly id: string; readonly name: string }[] | undefined, id: string) =>
    list?.find((e) => e.id === id)?.name ?? id;
  switch (event.kind) {
    case 'track':
    case 'zone': {
      const { thing, passed, test } = event;
      const { camera, class: cls, type, box } = thing.view;
      const of = { camera, class: cls, type: type ?? null, box, track: event.kind === 'track' ? thing.id : null };
      return { ...of, ...ofPassed(passed), test: test ?? null };
    }
    case 'motion':
    case 'sound':
    case 'button':
      return { camera: event.camera, description: `${titleOf(event)} at ${nameOf(site.file.cameras, event.camera)}` };
    case 'sensor': {
      const { sensor, camera, state, passed } = event;
      return {
        sensor,
        camera: camera ?? null,
        description: `${nameOf(site.file.sensors, sensor)}: ${state}`,
        ...(passed && ofPassed(passed)),
      };
    }
    case 'alarm':
      return { description: `Alarm ${event.state} in ${nameOf(site.file.areas, event.area)}` };
    case 'health':
      return { camera: event.camera, description: `${nameOf(site.file.cameras, event.camera)} ${changes[event.change]}` };
    case 'reading':
      return { camera: event.camera, description: event.says };
  }
}

const ofPassed = ({ trail, thread }: SieveEvent) => ({ steps: [...trail.steps], thread: thread.id, joins: thread.joins });

const changes = {
  lost: 'is lost',
  back: 'is back',
  unstable: 'is unstable',
  covered: 'is covered',
  moved: 'was moved',
} as const;

/** What an event is called that no rule names. */
function titleOf(event: NewEvent): string {
  switch (event.kind) {
    case 'track':
    case 'zone':
      return 'Detection';
    case 'motion':
      return 'Motion';
    case 'sound':
      return 'Sound';
    case 'button':
      return 'Button';
    case 'sensor':
      return 'Sensor';
    case 'alarm':
      return 'Alarm';
    case 'health':
      return 'Camera';
    case 'reading':
      return 'Reading';
  }
}

/** How far a track came by a rule. */
export const trailRow = (track: string, trail: Trail): TrailRow => ({ ...trail, track, steps: [...trail.steps] });
