// A stream of fragmented MP4 played as it comes (Media Source Extensions, W3C): near its live end, and no more of it held than is needed.

import { texts } from './texts';

export type Streamed = {
  /** How far behind what has arrived the player is, and how fast it comes; undefined before it plays. */
  now(): { readonly behindMs: number; readonly bitsASecond: number; readonly hasSound: boolean } | undefined;
  close(): void;
};

const liveEdgeSeconds = 0.35;
const farBehindSeconds = 1.5;
const heldSeconds = 20;
const rateOverMs = 4000;

/**
 * What is in the first fragment: the codecs as RFC 6381 names them. An AVC configuration begins with version, profile, compatibility, level
 * (ISO/IEC 14496-15, 5.3.3.1).
 * @returns undefined while it is not whole
 */
export function codecsIn(bytes: Uint8Array): { readonly type: string; readonly hasSound: boolean } | undefined {
  const at = indexOf(bytes, 'avcC');
  if (indexOf(bytes, 'moof') < 0 || at < 0) return undefined;
  const [profile, compatible, level] = [bytes[at + 5]!, bytes[at + 6]!, bytes[at + 7]!].map((b) => b.toString(16).padStart(2, '0'));
  const hasSound = indexOf(bytes, 'mp4a') >= 0;
  return { type: `video/mp4; codecs="avc1.${profile}${compatible}${level}${hasSound ? ', mp4a.40.2' : ''}"`, hasSound };
}

function indexOf(bytes: Uint8Array, name: string): number {
  const codes = [...name].map((c) => c.charCodeAt(0));
  for (let i = 0; i + 4 <= bytes.length; i++) if (codes.every((c, j) => bytes[i + j] === c)) return i;
  return -1;
}

/** @param failed called with what went wrong; what was shown stays */
export function playStream(video: HTMLVideoElement, url: string, failed: (words: string) => void): Streamed {
  const source = new MediaSource();
  const ending = new AbortController();
  const waiting: Uint8Array<ArrayBuffer>[] = [];
  const arrived: { at: number; bytes: number }[] = [];
  let buffer: SourceBuffer | undefined;
  let hasSound = false;
  video.src = URL.createObjectURL(source);

  const feed = () => {
    if (!buffer || buffer.updating || source.readyState !== 'open') return;
    const end = video.buffered.length ? video.buffered.end(video.buffered.length - 1) : 0;
    if (end - video.currentTime > farBehindSeconds) video.currentTime = end - liveEdgeSeconds;
    const first = video.buffered.length ? video.buffered.start(0) : 0;
    if (video.currentTime - first > heldSeconds) return buffer.remove(first, video.currentTime - heldSeconds / 2);
    const next = waiting.shift();
    if (next) buffer.appendBuffer(next);
  };
  const read = async () => {
    const answer = await fetch(url, { signal: ending.signal });
    if (!answer.ok) {
      const said = (await answer.json().catch(() => undefined)) as { error?: { message: string; hint: string } } | undefined;
      throw new Error(said?.error ? `${said.error.message} ${said.error.hint}` : texts.theStreamDoesNotStart);
    }
    const reader = answer.body!.getReader();
    let head = new Uint8Array(0);
    for (;;) {
      const { done, value } = await reader.read();
      if (done) throw new Error('The stream has ended.');
      arrived.push({ at: performance.now(), bytes: value.length });
      while (arrived[0]!.at < performance.now() - rateOverMs) arrived.shift();
      if (buffer) waiting.push(value);
      else {
        const combinedInto = new Uint8Array(head.length + value.length);
        combinedInto.set(head);
        combinedInto.set(value, head.length);
        head = combinedInto;
        const codecs = codecsIn(head);
        if (!codecs) continue;
        if (!MediaSource.isTypeSupported(codecs.type)) throw new Error('This browser cannot play the camera’s stream.');
        hasSound = codecs.hasSound;
        buffer = source.addSourceBuffer(codecs.type);
        buffer.addEventListener('updateend', feed);
        waiting.push(head);
      }
      feed();
    }
  };
  source.addEventListener('sourceopen', () => read().catch((thrown: Error) => !ending.signal.aborted && failed(thrown.message)), {
    once: true,
  });
  return {
    now() {
      if (!buffer || !video.buffered.length) return undefined;
      const behindMs = Math.max(0, (video.buffered.end(video.buffered.length - 1) - video.currentTime) * 1000);
      const span = Math.max(1, performance.now() - (arrived[0]?.at ?? 0));
      return { behindMs, bitsASecond: (arrived.reduce((sum, a) => sum + a.bytes, 0) * 8000) / span, hasSound };
    },
    close() {
      ending.abort();
      URL.revokeObjectURL(video.src);
      video.removeAttribute('src');
      video.load();
    },
  };
}
