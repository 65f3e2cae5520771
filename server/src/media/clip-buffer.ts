// The last seconds of every camera, in memory: for clips and for viewers.

import type { Bus } from '../base/bus';
import type { SafePicture } from '../base/picture';

export type ClipBuffer = {
  add(picture: SafePicture): void;
  /** Lets go of a camera's pictures, as when something in them must not be seen any more. */
  forget(camera: string): void;
  latest(camera: string): SafePicture | undefined;
  since(camera: string, at: number): SafePicture[];
  /** Calls back with each new picture of a camera until the returned function is called. */
  onPicture(camera: string, listener: (picture: SafePicture) => void): () => void;
};

const keptMs = 4000;

export function openClipBuffer(bus: Bus): ClipBuffer {
  const kept = new Map<string, SafePicture[]>();
  const listeners = new Map<string, Set<(picture: SafePicture) => void>>();
  const recent: ClipBuffer = {
    add(picture) {
      const before = kept.get(picture.camera) ?? [];
      kept.set(picture.camera, [...before.filter((p) => Math.abs(picture.at - p.at) < keptMs), picture]);
      listeners.get(picture.camera)?.forEach((l) => l(picture));
    },
    forget: (camera) => void kept.delete(camera),
    latest: (camera) => kept.get(camera)?.at(-1),
    since: (camera, at) => (kept.get(camera) ?? []).filter((p) => p.at >= at),
    onPicture(camera, listener) {
      const set = listeners.get(camera) ?? new Set();
      listeners.set(camera, set.add(listener));
      return () => void set.delete(listener);
    },
  };
  bus.on('picture', 'Clips', ({ picture }) => recent.add(picture));
  bus.on('forgotten', 'Clips', ({ camera }) => recent.forget(camera));
  return recent;
}
