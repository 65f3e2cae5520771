// MOT Challenge CSV, read and written: frame (from 1), id, left, top, width, height in pixels, confidence, then label and visibility, or
// -1 for three unknown coordinates.

import { type Instant } from '../time';
import type { Frame, SeenObject } from '../tracks';
import { motLabel, motMeaning } from './classes';
import { checkLength, refuse } from './limits';

export type MotSetting = {
  readonly camera: string;
  readonly width: number;
  readonly height: number;
  readonly fps: number;
  readonly start: Instant;
  /** Frames that the recording has; those without a line are empty. As far as the last line if absent. */
  readonly frames?: number;
};

const maxFrames = 10_000_000;

/** @throws Problem 'bad-input' with the line */
export function readMot(text: string, setting: MotSetting): Frame[] {
  checkLength(text);
  const { camera, width, height, fps, start } = setting;
  const byFrame = new Map<number, SeenObject[]>();
  let last = setting.frames ?? 0;
  text.split(/\r?\n/).forEach((line, i) => {
    if (line.trim() === '') return;
    const place = `line ${i + 1}`;
    const values = line.split(',').map((v) => (v.trim() === '' ? NaN : Number(v)));
    if (values.length < 6 || values.slice(0, 6).some((v) => !Number.isFinite(v)))
      refuse(place, `is ${JSON.stringify(line.slice(0, 60))}`, 'frame, id, left, top, width, height, confidence, …');
    const [frame, id, left, top, w, h, confidence = 1, label = -1] = values as [
      number,
      number,
      number,
      number,
      number,
      number,
      number?,
      number?,
    ];
    if (!Number.isInteger(frame) || frame < 1 || frame > maxFrames) refuse(place, `has frame ${frame}`, 'a whole number from 1');
    if (w < 0 || h < 0) refuse(place, 'has a size below 0', 'a width and height of at least 0');
    if (!Number.isFinite(confidence)) refuse(place, 'has no confidence', 'a number');
    last = Math.max(last, frame);
    // Ground truth says 0 where a line does not count, and its label; detections have no label, and are of people.
    const meaning = label >= 0 ? motMeaning(label) : { class: 'person' as const };
    if (!meaning || (label >= 0 && confidence === 0)) return;
    const objects = byFrame.get(frame) ?? [];
    objects.push({
      ...meaning,
      score: Math.min(1, Math.max(0, confidence)),
      box: [left / width, top / height, w / width, h / height],
      ...(id >= 0 ? { track: String(id) } : {}),
    });
    byFrame.set(frame, objects);
  });
  const at = (frame: number) => start + Math.round(((frame - 1) * 1000) / fps);
  return Array.from({ length: last }, (_, i) => ({ at: at(i + 1), camera, objects: byFrame.get(i + 1) ?? [] }));
}

/** Frames that follow one another at the rate given, the first at `start`; things without a label are left out. */
export function writeMot(frames: readonly Frame[], { width, height, fps, start }: Omit<MotSetting, 'camera'>): string {
  const places = (v: number, parts = 100) => Math.round(v * parts) / parts;
  const lines = frames.flatMap((f) => {
    const number = Math.round(((f.at - start) * fps) / 1000) + 1;
    return f.objects.flatMap((o) => {
      const label = motLabel(o);
      if (label === undefined) return [];
      const id = o.track !== undefined && /^\d+$/.test(o.track) ? o.track : '-1';
      const [x, y, w, h] = o.box;
      return [
        [number, id, places(x * width), places(y * height), places(w * width), places(h * height), places(o.score, 1e4), label, 1].join(
          ',',
        ),
      ];
    });
  });
  return lines.map((l) => `${l}\n`).join('');
}
