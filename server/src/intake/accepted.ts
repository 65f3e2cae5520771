// A picture that a paired camera sent, decoded before it is accepted, and made as it may be shown.

import { Problem } from '@nibber/core/problem';
import { safePicture, type SafeWay } from '../media/safe';
import { isByInfrared, sizeOf } from '../media/small';

/** A camera's own still is smaller; more than this costs seconds to decode. */
const maxPixels = 16_000_000;

/** @throws Problem 'bad-input' for what is no whole picture, 'too-large' for one with too many pixels */
export async function acceptedPicture(jpeg: Buffer, way: SafeWay): Promise<{ readonly jpeg: Buffer; readonly isInfrared: boolean }> {
  const cannot = () => {
    throw new Problem('bad-input', 'The picture could not be decoded.', 'Send a complete JPEG, or the event without a picture.');
  };
  const { width, height } = await sizeOf(jpeg).catch(cannot);
  if (width * height > maxPixels)
    throw new Problem('too-large', `The picture is ${width} × ${height}.`, `Send at most ${maxPixels / 1e6} million pixels.`);
  // To its last line: a sound head may stand before a broken body.
  const isInfrared = await isByInfrared(jpeg).catch(cannot);
  return { jpeg: Buffer.from(await safePicture(jpeg, way).catch(cannot)), isInfrared };
}
