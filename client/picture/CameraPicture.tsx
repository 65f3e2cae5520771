// The picture of a camera to draw and measure on: live, or the newest of one that sleeps.

import type { ReactNode } from 'react';
import type { CameraAnswer } from '../state/api/types';
import { LivePicture, RecentPicture } from './Picture';

type Props = { camera: CameraAnswer; words: string; still?: ReactNode; children?: ReactNode; over?: ReactNode };

export const CameraPicture = ({ camera, ...rest }: Props) =>
  camera.kind === 'paired' ? (
    <RecentPicture camera={camera.id} isThere={camera.hasPicture} {...rest} />
  ) : (
    <LivePicture camera={camera.id} {...rest} />
  );
