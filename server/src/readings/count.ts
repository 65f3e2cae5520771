// Counting by the detector: things of a class, or of a type, in a zone or in the whole picture.

import { anchorPoint, type Box, type Point } from '@nibber/core/boxes';
import { means, type Camera, type Reading } from '@nibber/core/site';
import { contains } from '@nibber/core/zones';
import type { Detecting } from '../vision/detecting';
import { regionAround } from '../vision/region';
import { sizeOf } from '../media/small';

type Counting = Extract<Reading['by'], { counts: string }>;

/** A thing that is hardly seen is not counted; as rules have it where they say nothing. */
const minScore = 0.4;

export async function countIn(
  detector: Detecting,
  camera: Camera,
  by: Counting,
  jpeg: Buffer,
  isInfrared: boolean,
): Promise<{ readonly value: number } | { readonly why: string }> {
  const zone = camera.zones?.find((z) => z.id === by.zone);
  const { width, height } = await sizeOf(jpeg);
  const corners = (zone?.polygon ?? []).map(([x, y]): Box => [x!, y!, 0, 0]);
  const region = zone ? regionAround(corners, width / height, width / height) : ([0, 0, 1, 1] as const);
  const seen = await detector.look({ jpeg, region, brighten: isInfrared, fine: true });
  if (seen.kind !== 'found') return { why: seen.kind === 'refused' ? seen.wrong : 'The detector gave no answer' };
  const named = new Set<string>([by.counts]);
  const polygon = zone?.polygon as readonly Point[] | undefined;
  const counted = seen.sightings.filter(
    (s) => s.score >= minScore && means(named, s.class, s.type) && (!polygon || contains(polygon, anchorPoint(s.box, 'feet'))),
  );
  return { value: counted.length };
}
