// A picture that a paired camera sent, decoded before it is accepted, and made as it may be shown.

import { Trouble } from '@nibber/core/problem';
import { safePicture, type SafeWay } from '../media/safe';
import { isByInfrared, sizeOf } from '../media/small';

/** A camera's own still is smaller; more than this costs seconds to decode. */
const mostPixels = 16_000_000;

/** @throws Trouble 'bad-input' for what is no whole picture, 'too-large' for one with too many pixels */
export async function acceptedPicture(jpeg: Buffer, way: SafeWay): Promise<{ readonly jpeg: Buffer; readonly isInfrared: boolean }> {
  const cannot = () => {
    throw new Trouble('bad-input', 'The picture could not be decoded.', 'Send a complete JPEG, or the event without a picture.');
  };
  const { width, height } = await sizeOf(jpeg).catch(cannot);
  if (width * height > mostPixels)
    throw new Trouble('too-large', `The picture is ${width} × ${height}.`, `Send at most ${mostPixels / 1e6} million pixels.`);
  // To its last line: a sound head may stand before a broken body.
  const isInfrared = await isByInfrared(jpeg).catch(cannot);
  return { jpeg: Buffer.from(await safePicture(jpeg, way).catch(cannot)), isInfrared };
}
