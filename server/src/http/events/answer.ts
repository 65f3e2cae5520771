// Events and tracks as they are answered.

import { trailsOfUnwatching, type Trail } from '@nibber/core/sieve';
import type { AlertRow, EventRow, ViewRow, TrackRow, TrailRow } from '../../db';
import type { Held } from '../../db/media';
import { either, list, maybeNumber, maybeText, named, number, object, oneOf, orNull, text, yesNo } from '../schema';
import type { Services } from '../services';
import { alertState, box, channelName, className, gate, instant, mark, step, typeName } from '../shapes';

const item = {
  id: text,
  at: instant,
  camera: maybeText,
  cameraName: maybeText,
  class: orNull(className),
  type: orNull(typeName),
  box: orNull(box),
};
const event = {
  kind: oneOf('event'),
  /** What it is of. */
  of: oneOf('track', 'zone', 'motion', 'sensor', 'alarm', 'health', 'reading', 'button', 'sound'),
  ...item,
  rule: maybeText,
  ruleName: text,
  picture: maybeText,
  description: maybeText,
  mark,
  isTest: yesNo,
};
const track = { kind: oneOf('track'), ...item, picture: maybeText, stoppedAt: orNull(gate), why: text, ruleName: maybeText };
export const trail = named(
  'Trail',
  object({ rule: text, ruleName: text, stoppedAt: orNull(gate), why: text, at: instant, steps: list(step) }),
);
export const alert = named(
  'Alert',
  object({ id: text, person: text, channel: channelName, state: alertState, why: maybeText, sentAt: maybeNumber, viewedAt: maybeNumber }),
);
/** An instant and a box. Ajv and OpenAPI say so by `prefixItems`, the types by a list of items. */
const pathPoint = {
  type: 'array',
  prefixItems: [instant, box],
  items: false,
} as unknown as { readonly type: 'array'; readonly items: readonly [typeof instant, typeof box]; readonly additionalItems: false };
const question = object({
  words: maybeText,
  unlessKnown: yesNo,
  notifies: orNull(yesNo),
  answer: orNull(yesNo),
  known: maybeText,
  why: text,
  seconds: maybeNumber,
  service: maybeText,
  pictures: list(text),
});
const more = {
  path: list(pathPoint),
  trails: list(trail),
  alerts: list(alert),
  /** The pictures there are of it, how well each shows it, and which is its picture; who chose that, where someone did. */
  snapshots: list(object({ picture: text, at: instant, box, quality: number, isChosen: yesNo })),
  chosenBy: maybeText,
  /** Who has looked at it, and when first. */
  views: list(object({ person: text, at: instant })),
  /** The check before alerting: `notifies` is null while no answer has come. */
  question: orNull(question),
  clip: maybeText,
  clipFrom: maybeNumber,
  clipProblem: maybeText,
  descriptionProblem: maybeText,
  /** What an AI service knew of what it was asked, by name. */
  fields: orNull({ type: 'object', additionalProperties: either(text, number, yesNo) } as const),
};

export const listItem = named('ListItem', either(object(event), object(track)));
export const eventDetailAnswer = named(
  'EventDetail',
  either(object({ ...event, ...more }), object({ ...track, description: { type: 'null' }, mark: { type: 'null' }, ...more })),
);

type Used = Pick<Services, 'site'>;

export function namesOf({ site }: Used) {
  return {
    camera: (id: string | null) => id && (site.compiled.cameras.get(id)?.name ?? id),
    rule: (id: string) => site.file.rules?.find((r) => r.id === id)?.name ?? id,
    /** A recipient: a person, or another program. */
    service: (id: string) => site.file.ai?.services?.find((s) => s.id === id)?.name ?? 'the service set at start',
    person: (id: string) => [...(site.file.people ?? []), ...(site.file.receivers ?? [])].find((p) => p.id === id)?.name ?? id,
  };
}
type Names = ReturnType<typeof namesOf>;

const pictureOf = (held: Held | undefined, role: string) => (held?.[role] ? `/pictures/${held[role].name}` : null);

export const eventAnswer = (e: EventRow, held: Held | undefined, names: Names) => ({
  kind: 'event' as const,
  of: e.kind,
  id: e.id,
  at: e.at,
  camera: e.camera,
  cameraName: names.camera(e.camera),
  rule: e.rule,
  ruleName: e.ruleName,
  class: e.class,
  type: e.type as 'car' | null,
  picture: pictureOf(held, 'picture'),
  box: e.pictureBox,
  description: e.description,
  mark: e.mark,
  isTest: e.test !== null,
});

/** A track that no rule let through, with where the rule that let it come furthest stopped it. */
export const trackAnswer = (t: TrackRow, held: Held | undefined, names: Names) => ({
  kind: 'track' as const,
  id: t.id,
  at: t.lastSeen,
  camera: t.camera,
  cameraName: names.camera(t.camera),
  class: t.class,
  type: t.type as 'car' | null,
  picture: pictureOf(held, 'picture'),
  box: t.pictureBox,
  stoppedAt: t.stoppedAt,
  why: t.why ?? 'No rule applied.',
  ruleName: t.stoppedBy === null ? null : names.rule(t.stoppedBy),
});

/** What is stored of a track's trails, with those of the rules that do not watch its camera. */
export function trailAnswers(stored: readonly TrailRow[], camera: string, at: number, { site }: Used) {
  const names = namesOf({ site });
  const others = trailsOfUnwatching(site.compiled, camera, at).filter((t) => !stored.some((s) => s.rule === t.rule));
  return [...stored, ...others].map((t) => trailAnswer(t, names));
}

export const trailAnswer = (t: Omit<TrailRow, 'track' | 'steps'> & Pick<Trail, 'steps'>, names: Names) => ({
  rule: t.rule,
  ruleName: names.rule(t.rule),
  stoppedAt: t.stoppedAt,
  why: t.why,
  at: t.at,
  steps: [...t.steps],
});

export const alertAnswer = ({ id, person, channel, state, why, sentAt }: AlertRow, names: Names, views: readonly ViewRow[]) => ({
  id,
  person: names.person(person),
  channel,
  state,
  why,
  sentAt,
  viewedAt: views.find((l) => l.person === person)?.at ?? null,
});

/** A shot by how well it shows the thing, and whether it is the event's picture. */
export const snapshotAnswers = (e: EventRow, held: Held | undefined) =>
  (e.snapshots ?? []).flatMap(({ at, box: where, quality }, i) => {
    const file = held?.[`snapshot ${i}`];
    return file ? [{ picture: `/pictures/${file.name}`, at, box: where, quality, isChosen: held.picture?.takenAt === at }] : [];
  });

/** With the pictures that were sent for it, as far as they are kept. */
export function questionAnswer({ question: asked }: EventRow, held: Held | undefined, service: (id: string) => string) {
  if (!asked) return null;
  const kept = new Set(Object.values(held ?? {}).map((file) => file?.name));
  const pictures = asked.pictures.filter((name) => kept.has(name)).map((name) => `/pictures/${name}`);
  return { ...asked, service: asked.service && service(asked.service), pictures };
}

export const clipAnswer = (e: EventRow, held: Held | undefined) => ({
  clip: pictureOf(held, 'clip'),
  clipFrom: held?.clip?.takenAt ?? null,
  clipProblem: e.clipProblem,
});

type Asking = Pick<Services, 'site' | 'record'>;

export async function eventItems({ site, record }: Asking, events: readonly EventRow[]) {
  const held = await record.media.of(
    'event',
    events.map((e) => e.id),
  );
  const names = namesOf({ site });
  return events.map((e) => eventAnswer(e, held.get(e.id), names));
}

export async function trackItems({ site, record }: Asking, tracks: readonly TrackRow[]) {
  const held = await record.media.of(
    'track',
    tracks.map((t) => t.id),
  );
  const names = namesOf({ site });
  return tracks.map((t) => trackAnswer(t, held.get(t.id), names));
}
