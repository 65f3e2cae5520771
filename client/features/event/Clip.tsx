// The clip of a event with the box of the thing moving along; the picture alone where there is no clip.

import { createElement, useEffect, useRef, useState } from 'react';
import { View } from 'react-native';
import type { Box, ClassName } from '@nibber/core/boxes';
import { BoxMark } from '../../picture/drawings';
import { Frame, Picture } from '../../picture/Picture';
import { Button } from '../../ui/Surface';
import { clockWithSeconds } from '../../ui/times';
import { Words } from '../../ui/Words';
import type { EventDetail } from '../../state/api/types';
import { thingName } from '../events/words';
import { boxAt } from './path';
import { texts } from './words';

export function Clip({ event, zone }: { event: EventDetail; zone: string }) {
  const name = thingName(event);
  const cls = event.class ?? 'other';
  if (event.clip && event.clipFrom !== null)
    return <Player source={event.clip} from={event.clipFrom} path={event.path} cls={cls} zone={zone} words={texts.clipOfThe(name)} />;
  return (
    <View style={{ gap: 4 }}>
      {event.picture && (
        <Picture source={event.picture} words={texts.pictureOfThe(name)}>
          {event.box && <BoxMark box={event.box} cls={cls} />}
        </Picture>
      )}
      {event.kind === 'event' && (
        <Words size="small" tone="second">
          {event.clipProblem ?? texts.theClipIsStillBeing}
        </Words>
      )}
    </View>
  );
}

type PlayerProps = { source: string; from: number; path: [number, Box][]; cls: ClassName; zone: string; words: string };

function Player({ source, from, path, cls, zone, words }: PlayerProps) {
  const video = useRef<HTMLVideoElement>(null);
  const [seconds, setSeconds] = useState(0);
  const [isPlaying, setPlaying] = useState(false);
  useEffect(() => {
    if (!isPlaying) return;
    let frame = requestAnimationFrame(function follow() {
      setSeconds(video.current?.currentTime ?? 0);
      frame = requestAnimationFrame(follow);
    });
    return () => cancelAnimationFrame(frame);
  }, [isPlaying]);
  const at = from + seconds * 1000;
  const box = boxAt(path, at);
  const toggle = () => (isPlaying ? video.current?.pause() : void video.current?.play());
  const length = video.current?.duration;
  return (
    <View style={{ gap: 8 }}>
      <Frame
        media={(loaded) =>
          createElement('video', {
            ref: video,
            src: source,
            muted: true,
            playsInline: true,
            autoPlay: true,
            loop: true,
            'aria-label': words,
            onLoadedMetadata: () => loaded({ width: video.current!.videoWidth, height: video.current!.videoHeight }),
            onPlay: () => setPlaying(true),
            onPause: () => setPlaying(false),
            style: { width: '100%', height: '100%', objectFit: 'fill', display: 'block', position: 'relative' },
          })
        }
      >
        {box && <BoxMark box={box} cls={cls} />}
      </Frame>
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 12 }}>
        <Button glyph={isPlaying ? 'pause' : 'play'} label={isPlaying ? texts.pause : texts.play} onPress={toggle} />
        {createElement('input', {
          type: 'range',
          min: 0,
          max: Number.isFinite(length) ? length : 1,
          step: 0.1,
          value: seconds,
          'aria-label': texts.positionInTheClip,
          onChange: (event: { target: { value: string } }) => {
            video.current!.currentTime = Number(event.target.value);
            setSeconds(Number(event.target.value));
          },
          style: { flex: 1, height: 44, accentColor: '#1F5C4A' },
        })}
        <Words size="small" tone="second">
          {clockWithSeconds(at, zone)}
        </Words>
      </View>
    </View>
  );
}
