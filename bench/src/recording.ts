// What recorded detections weigh: a day of the stage, packed as the server packs it.

import { asRecorded, startPacking, type Packing } from '@nibber/core/recorded';
import { stageDay } from '@nibber/standins/stage/day';
import { rounded, type Figures } from './measure';

const cameras = 2;
/** Someone every minute: a busy yard. */
const actEveryMs = 60_000;

export async function benchRecording(): Promise<Figures> {
  const lanes = new Map<string, { packing: Packing; hour: number }>();
  let [bytes, frames, objects] = [0, 0, 0];
  for (const frame of stageDay(Date.parse('2026-06-03T00:00:00Z'), 7, actEveryMs)) {
    const hour = Math.floor(frame.at / 3_600_000);
    let lane = lanes.get(frame.camera);
    if (lane?.hour !== hour) {
      lanes.set(frame.camera, (lane = { packing: startPacking(frame.camera), hour }));
      bytes += lane.packing.head.length;
    }
    bytes += lane.packing.pack(frames++, asRecorded(frame)).length;
    objects += frame.objects.length;
  }
  return {
    'recorded frames a camera a day': Math.round(frames / cameras),
    'recorded bytes a frame': rounded(bytes / frames, 1),
    'recorded bytes a thing seen': rounded(bytes / objects, 1),
    'recorded MB a camera a day': rounded(bytes / cameras / 1e6, 2),
  };
}
