// A camera as it is answered: what it is, how it does, what is drawn on it.

import { capabilitiesOf } from '@nibber/core/capabilities';
import { capabilityNames } from '@nibber/core/site';
import type { TrackView } from '@nibber/core/sieve';
import type { Instant } from '@nibber/core/time';
import { saysWords } from '../../devices/listen';
import { either, list, maybeText, named, number, object, oneOf, orNull, text, yesNo } from '../schema';
import type { Services } from '../services';
import { camera as fields, health, instant, seenTrack, version } from '../shapes';
import { namedCamera } from './named';
import { streamOf } from './pictures';

const capabilityName = { enum: ['detection', ...capabilityNames] } as const;
const capability = named(
  'Capability',
  either(
    object({ name: capabilityName, words: text, can: oneOf(true) }),
    object({ name: capabilityName, words: text, can: oneOf(false), why: text }),
  ),
);
const cameraClock = either(object({ aheadMs: number, at: instant }), object({ unknown: text }));
const says = object({ kind: text, at: instant, isActive: { type: ['boolean', 'null'] } as const, words: maybeText });

/** `version`: of the site; what is edited says which it was made from. */
export const cameraAnswer = named(
  'Camera',
  object({
    id: text,
    version,
    name: fields.name,
    area: fields.area,
    kind: oneOf('streamed', 'paired'),
    hasLogin: yesNo,
    hasStill: yesNo,
    hasPicture: yesNo,
    /** Its own streams that can be watched with sound. */
    live: list(oneOf('low', 'full')),
    orientation: fields.orientation,
    allowAiService: yesNo,
    capabilities: fields.capabilities,
    relays: fields.relays,
    /** Everything a camera could have, and why it has not. */
    features: list(capability),
    aim: orNull(fields.aim),
    tuning: orNull(fields.tuning),
    zones: fields.zones,
    lines: fields.lines,
    says: list(says),
    clock: orNull(cameraClock),
    health: orNull(health),
    tracks: list(seenTrack),
  }),
);

/** An open track as the client gets it: where it is at an instant, and for how long it has not been detected. */
export const seenAnswer =
  (at: Instant) =>
  ({ key, class: cls, type, score, box, lastSeen }: TrackView) => ({
    key,
    class: cls,
    type,
    score,
    box,
    unseenMs: Math.max(0, at - lastSeen),
  });

export type Used = Pick<Services, 'site' | 'recent' | 'follow' | 'clock' | 'devices' | 'cameras'>;

export function answerOf({ site, recent, follow, clock, devices, cameras }: Used, id: string) {
  const { camera } = namedCamera(site, id);
  const {
    name,
    area,
    source,
    zones = [],
    lines = [],
    orientation = {},
    allowAiService = true,
    capabilities = [],
    relays = {},
    aim,
    tuning,
  } = camera;
  const latest = recent.latest(id);
  return {
    id,
    version: site.version,
    name,
    area,
    kind: source.kind,
    hasLogin: source.secret !== undefined,
    hasStill: source.still !== undefined,
    hasPicture: latest !== undefined,
    live: (['low', 'full'] as const).filter((s) => streamOf(camera, s) !== undefined),
    orientation,
    allowAiService,
    capabilities,
    relays,
    features: capabilitiesOf(camera),
    aim: aim ?? null,
    tuning: tuning ?? null,
    zones,
    lines,
    says: devices.events.of(id).map(({ kind, at, isActive }) => ({ kind, at, isActive: isActive ?? null, words: saysWords[kind] ?? null })),
    clock: devices.clocks.of(id) ?? null,
    health: cameras.health(id) ?? null,
    tracks: follow.open(id).map(seenAnswer(latest?.at ?? clock.now())),
  };
}
