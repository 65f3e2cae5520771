// A camera's picture as it is now, with everything drawn on it and what is seen in it.

import { numberText } from '@nibber/core/words';
import { CameraPicture } from '../../picture/CameraPicture';
import { BoxMark, LineShape, ZoneShape, drawnLine, drawnZone } from '../../picture/drawings';
import { useAppSelector } from '../../state/store';
import { useSeen } from '../../state/useSeen';
import { Words } from '../../ui/Words';
import type { CameraAnswer } from '../../state/api/types';
import { texts } from './words';

/** How long ago the newest picture that was looked at was taken; nothing where none comes. */
export function Behind({ camera }: { camera: string }) {
  const behindMs = useAppSelector((s) => s.live.tracks[camera]?.behindMs);
  return behindMs === undefined ? null : (
    <Words size="small" tone="second" testID="behind">
      {texts.sBehind(numberText(behindMs / 1000, 1))}
    </Words>
  );
}

export function LiveCamera({ camera }: { camera: CameraAnswer }) {
  const tracks = useSeen(camera.id);
  return (
    <CameraPicture camera={camera} words={texts.live(camera.name, tracks.map((t) => t.type ?? t.class).join(', ') || texts.noMotion)}>
      {camera.zones.map((z) => (
        <ZoneShape key={z.id} zone={drawnZone(z)} />
      ))}
      {(camera.lines ?? []).map((l) => (
        <LineShape key={l.id} line={drawnLine(l)} />
      ))}
      {tracks.map((t) => (
        <BoxMark key={t.key} box={t.box} cls={t.class} words={`${t.type ?? t.class} ${Math.round(t.score * 100)}`} opacity={t.opacity} />
      ))}
    </CameraPicture>
  );
}
