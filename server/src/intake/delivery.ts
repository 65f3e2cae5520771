// What a paired camera sent, understood: which form it is in, what it says, and the frames in it.

import { frameOfEvent, readCameraEvent, readOnvifMetadata } from '@nibber/core/formats';
import type { Frame } from '@nibber/core/tracks';
import { Trouble } from '@nibber/core/trouble';

export type Delivery = {
  readonly form: 'json' | 'xml';
  /** As it is kept: read again, it says the same. */
  readonly text: string;
  /** The sender's own id of it; undefined where it has none. */
  readonly key: string | undefined;
  readonly frames: readonly Frame[];
  /** What came, for people. */
  readonly understood: string;
};

/**
 * @param headers attributes of a CloudEvent in binary mode
 * @throws Trouble 'bad-input' with the place and what is allowed
 */
export function understand(text: string, camera: string, headers?: Record<string, string>): Delivery {
  const start = text.trimStart();
  if (start.startsWith('<')) return understandXml(text, camera);
  const whole = headers ? wrapped(text, headers) : text;
  const event = readCameraEvent(whole);
  const frame = event.objects.length ? [frameOfEvent(event, camera)] : [];
  const seen = event.objects.map((o) => `${o.type ?? o.class} ${Math.round(o.score * 100)} %`).join(', ');
  const understood = [kindWords[event.kind], event.state ? stateWords[event.state] : '', seen].filter(Boolean).join(', ');
  return { form: 'json', text: whole, key: event.id, frames: frame, understood };
}

const kindWords = {
  seen: 'something seen',
  motion: 'motion',
  sound: 'a sound',
  button: 'its button was pressed',
  tampered: 'somebody is at the camera',
  test: 'a test',
} as const;
const stateWords = { begins: 'begins', 'goes-on': 'goes on', ends: 'ends' } as const;

function understandXml(text: string, camera: string): Delivery {
  const { frames, reports } = readOnvifMetadata(text, camera);
  if (frames.length === 0 && reports.length === 0)
    throw new Trouble(
      'bad-input',
      'The XML holds neither a frame nor a message.',
      'Send tt:MetadataStream with tt:Frame or wsnt:NotificationMessage.',
    );
  const objects = frames.flatMap((f) => f.objects.map((o) => `${o.type ?? o.class} ${Math.round(o.score * 100)} %`));
  const told = reports.map((r) => `${r.kind.replaceAll('-', ' ')}${r.isSo === undefined ? '' : r.isSo ? ', begins' : ', ends'}`);
  const understood = [...new Set([...objects, ...told])].join('; ') || `${frames.length} frames with nothing in them`;
  return { form: 'xml', text, key: undefined, frames: frames.filter((f) => f.objects.length > 0), understood };
}

/** Binary mode put together as structured mode, which is then checked in one way. */
function wrapped(text: string, headers: Record<string, string>): string {
  try {
    return JSON.stringify({ ...headers, data: JSON.parse(text) as unknown });
  } catch {
    return text;
  }
}
