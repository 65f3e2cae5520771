// A small invented site for tests, and people who walk through it.

import { readSite } from '../check';
import { compileSite, type CompiledSite, type SiteFile } from '../site';
import type { Input } from '../sieve';
import type { SeenObject } from '../tracks';

export const yardText = `nibber: 2
site: { name: Example yard, timezone: Europe/Lisbon }
areas:
  - { id: yard, name: Yard }
schedules:
  - id: closed
    name: Closing time
    weekly: { mon: ["18:00-08:00"], tue: ["18:00-08:00"] }
modes:
  - { id: open, name: Open, armed: false }
  - { id: shut, name: Shut, armed: true }
cameras:
  - id: gate
    name: Gate
    area: yard
    source: { kind: streamed, low: "http://127.0.0.1:9001/low.mjpg" }
    zones:
      - { id: lane, name: Lane, purpose: watch, polygon: [[0, 0.4], [1, 0.4], [1, 0.55], [0, 0.55]] }
      - { id: yard, name: Yard, purpose: watch, polygon: [[0, 0.6], [1, 0.6], [1, 1], [0, 1]] }
      - { id: hedge, name: Hedge, purpose: ignore, classes: [pet], polygon: [[0, 0], [0.2, 0], [0.2, 1], [0, 1]] }
    lines:
      - { id: gateway, name: Gateway, points: [[0.3, 0.58], [0.7, 0.58]] }
  - id: side
    name: Side
    area: yard
    source: { kind: streamed, low: "http://127.0.0.1:9001/side.mjpg" }
rules:
  - id: comes-in
    name: Someone comes in
    cameras: [gate]
    classes: [person]
    confidence: 0.5
    behaviour: { kind: goes, from: lane, to: yard }
    modes: [shut]
    schedule: closed
    cooldownSeconds: 300
    notify: [{ to: owner, channel: push }]
`;

export function siteWith(change: (file: SiteFile) => void = () => {}): CompiledSite {
  const read = readSite(yardText);
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  const file = structuredClone(read.site);
  change(file);
  return compileSite(file);
}

/** Monday 1 June 2026, 22:00 in Lisbon: inside closing time. */
export const evening = Date.parse('2026-06-01T21:00:00Z');

export const lane = 0.5;
export const gap = 0.58;
export const yard = 0.8;

/** Someone whose feet are at a height of the picture. */
export const someone = (feet: number, track: string | null = 'a', more: Partial<SeenObject> = {}): SeenObject => ({
  class: 'person',
  score: 0.8,
  box: [0.4, feet - 0.2, 0.05, 0.2],
  ...(track === null ? {} : { track }),
  ...more,
});

export const seen = (at: number, ...objects: SeenObject[]): Input => ({ kind: 'frame', frame: { at, camera: 'gate', objects } });
export const set = (at: number, mode: string): Input => ({ kind: 'mode', change: { at, area: 'yard', mode } });

export { banned, labelLength, longLabels, maxLabelWords } from './plain';
