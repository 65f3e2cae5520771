// A camera's own event in our form, plain or wrapped as a CloudEvent 1.0 (structured JSON). docs/camera-event.schema.json is written from
// the schema here.

import type { FromSchema } from 'json-schema-to-ts';
import { compileSchema, problemsOf } from '../check';
import { classes, classOf, colourNames, typeNames, type ClassName, type TypeName } from '../boxes';
import { parseInstant, type Instant } from '../time';
import type { Frame, SeenObject } from '../tracks';
import { problemLine, isRecord, Problem } from '../problem';
import { readJson, refuse } from './limits';

const share = { type: 'number', minimum: 0, maximum: 1 } as const;
const text = (maxLength: number) => ({ type: 'string', minLength: 1, maxLength }) as const;
const colour = { enum: colourNames } as const;

export const cameraEventSchema = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'Nibber camera event',
  type: 'object',
  additionalProperties: false,
  required: ['at', 'kind'],
  properties: {
    /** The camera's own; the same id twice is one event. */
    id: text(200),
    at: text(40),
    kind: { enum: ['seen', 'motion', 'sound', 'button', 'tampered', 'test'] },
    state: { enum: ['begins', 'goes-on', 'ends'] },
    objects: {
      type: 'array',
      maxItems: 100,
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['class', 'score'],
        properties: {
          class: { enum: [...classes, ...typeNames] },
          score: share,
          /** [x, y, width, height], each 0 to 1 of the picture; the whole picture if the camera does not say. */
          box: { type: 'array', minItems: 4, maxItems: 4, items: share },
          track: text(80),
          looks: {
            type: 'object',
            additionalProperties: false,
            properties: {
              colour,
              upper: colour,
              lower: colour,
              plate: text(16),
              fields: { type: 'object', maxProperties: 12, additionalProperties: text(80) },
            },
          },
        },
      },
    },
  },
} as const;

type EventText = FromSchema<typeof cameraEventSchema>;

export type CameraEvent = {
  readonly id: string | undefined;
  readonly at: Instant;
  readonly kind: EventText['kind'];
  readonly state: EventText['state'] | undefined;
  readonly objects: readonly SeenObject[];
};

const validate = compileSchema<EventText>(cameraEventSchema);

/** Reads an event, plain or wrapped. @throws Problem 'bad-input' with every fault and its place */
export function readCameraEvent(json: string): CameraEvent {
  const value = readJson(json);
  const wrapped = isRecord(value) && 'specversion' in value ? unwrap(value) : { data: value, id: undefined };
  if (!validate(wrapped.data)) {
    const problems = problemsOf(validate.errors, 'id' in wrapped && wrapped.id !== undefined ? 'data/' : '');
    throw new Problem(
      'bad-input',
      `The event cannot be used: ${problems.map(problemLine).join(' · ')}`,
      'See docs/camera-event.schema.json.',
      problems,
    );
  }
  const { id, at: time, kind, state, objects = [] } = wrapped.data;
  const at = parseInstant(time);
  if (at === undefined) refuse('at', `is ${JSON.stringify(time)}`, 'ISO 8601 with an offset, such as 2026-06-01T21:00:00Z');
  return { id: wrapped.id ?? id, at, kind, state, objects: objects.map(objectOf) };
}

function objectOf(o: NonNullable<EventText['objects']>[number]): SeenObject {
  const cls = classOf(o.class) as ClassName;
  return {
    class: cls,
    ...(o.class === cls ? {} : { type: o.class as TypeName }),
    score: o.score,
    box: (o.box as SeenObject['box'] | undefined) ?? [0, 0, 1, 1],
    ...(o.track === undefined ? {} : { track: o.track }),
    ...(o.looks === undefined ? {} : { looks: o.looks as NonNullable<SeenObject['looks']> }),
  };
}

/** Source: CloudEvents 1.0.2, required attributes and the JSON format. */
function unwrap(value: Record<string, unknown>): { readonly data: unknown; readonly id: string } {
  if (value.specversion !== '1.0') refuse('specversion', `is ${JSON.stringify(value.specversion)}`, '1.0');
  for (const name of ['id', 'source', 'type'])
    if (typeof value[name] !== 'string' || value[name] === '')
      refuse(name, `is ${JSON.stringify(value[name])}`, 'a text that is not empty');
  const media = value.datacontenttype;
  if (media !== undefined && !/^application\/([\w.+-]+\+)?json\b/.test(String(media)))
    refuse('datacontenttype', `is ${JSON.stringify(media)}`, 'application/json');
  if (value.data_base64 !== undefined) refuse('data_base64', 'is given', 'data as JSON');
  if (!isRecord(value.data)) refuse('data', 'is not an object', 'a camera event');
  const data = value.data.at === undefined && typeof value.time === 'string' ? { ...value.data, at: value.time } : value.data;
  return { data, id: `${value.source as string} ${value.id as string}` };
}

/** What a camera saw, as a frame. */
export const frameOfEvent = (event: CameraEvent, camera: string): Frame => ({ at: event.at, camera, objects: event.objects });

/** An event in our form, wrapped as a CloudEvent. */
export function writeCloudEvent(event: CameraEvent, source: string): string {
  const { id, at, kind, state, objects } = event;
  const time = new Date(at).toISOString();
  return JSON.stringify({
    specversion: '1.0',
    id: id ?? `${at}`,
    source,
    type: `nibber.camera.${kind}`,
    time,
    datacontenttype: 'application/json',
    data: {
      at: time,
      kind,
      ...(state ? { state } : {}),
      ...(objects.length ? { objects: objects.map(({ class: cls, type, ...rest }) => ({ class: type ?? cls, ...rest })) } : {}),
    },
  });
}
