// What a paired camera sent, understood: which form it is in, what it says, and the frames in it.

import { frameOfEvent, readCameraEvent, readOnvifMetadata } from '@nibber/core/formats';
import type { Frame } from '@nibber/core/tracks';
import type { SeenInDelivery } from '../db';
import { Problem } from '@nibber/core/problem';

export type Delivery = {
  readonly form: 'json' | 'xml';
  /** As it is kept: read again, it says the same. */
  readonly text: string;
  /** The sender's own id of it; undefined where it has none. */
  readonly key: string | undefined;
  readonly frames: readonly Frame[];
  readonly seen: SeenInDelivery;
  /** When the camera says it happened; undefined where it reports no detection. */
  readonly saidAt: number | undefined;
  /** What came, for people. */
  readonly understood: string;
};

/**
 * @param headers attributes of a CloudEvent in binary mode
 * @throws Problem 'bad-input' with the place and what is allowed
 */
export function understand(text: string, camera: string, headers?: Record<string, string>): Delivery {
  const start = text.trimStart();
  if (start.startsWith('<')) return understandXml(text, camera);
  const whole = headers ? wrapped(text, headers) : text;
  const event = readCameraEvent(whole);
  const frame = event.objects.length ? [frameOfEvent(event, camera)] : [];
  const seen = event.objects.map((o) => `${o.type ?? o.class} ${Math.round(o.score * 100)} %`).join(', ');
  const understood = [kindWords[event.kind], event.state ? stateWords[event.state] : '', seen].filter(Boolean).join(', ');
  return { form: 'json', text: whole, key: event.id, frames: frame, ...summaryOf(frame), understood };
}

/** In one document; a camera with more sends several. */
const maxFrames = 120;
const maxObjects = 400;
const maxReports = 200;

const kindWords = {
  seen: 'something detected',
  motion: 'motion',
  sound: 'a sound',
  button: 'its button was pressed',
  tampered: 'someone is at the camera',
  test: 'a test',
} as const;
const stateWords = { begins: 'begins', 'goes-on': 'goes on', ends: 'ends' } as const;

function understandXml(text: string, camera: string): Delivery {
  const { frames, reports } = readOnvifMetadata(text, camera);
  if (frames.length === 0 && reports.length === 0)
    throw new Problem(
      'bad-input',
      'The XML holds neither a frame nor a message.',
      'Send tt:MetadataStream with tt:Frame or wsnt:NotificationMessage.',
    );
  const count = frames.reduce((sum, f) => sum + f.objects.length, 0);
  if (frames.length > maxFrames || count > maxObjects || reports.length > maxReports)
    throw new Problem(
      'too-large',
      `The XML holds ${frames.length} frames with ${count} objects and ${reports.length} messages.`,
      `Send at most ${maxFrames} frames, ${maxObjects} objects and ${maxReports} messages at once.`,
    );
  const objects = frames.flatMap((f) => f.objects.map((o) => `${o.type ?? o.class} ${Math.round(o.score * 100)} %`));
  const notified = reports.map(
    (r) => `${r.kind.replaceAll('-', ' ')}${r.isActive === undefined ? '' : r.isActive ? ', begins' : ', ends'}`,
  );
  const understood = [...new Set([...objects, ...notified])].join('; ') || `${frames.length} frames with nothing in them`;
  const full = frames.filter((f) => f.objects.length > 0);
  return { form: 'xml', text, key: undefined, frames: full, ...summaryOf(full), understood };
}

function summaryOf(frames: readonly Frame[]): Pick<Delivery, 'seen' | 'saidAt'> {
  const seen: { [name: string]: readonly [number, number] } = {};
  for (const { objects } of frames)
    for (const { class: cls, type, score } of objects) {
      const [min, max] = seen[type ?? cls] ?? [score, score];
      seen[type ?? cls] = [Math.min(min, score), Math.max(max, score)];
    }
  return { seen, saidAt: frames.at(-1)?.at };
}

/** Binary mode put together as structured mode, which is then checked in one way. */
function wrapped(text: string, headers: Record<string, string>): string {
  try {
    return JSON.stringify({ ...headers, data: JSON.parse(text) as unknown });
  } catch {
    return text;
  }
}
