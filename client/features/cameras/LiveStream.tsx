// A camera's own stream with its sound, full if asked for; what it costs and how late it is stand below. Nothing is pulled once it is left.

import { numberText } from '@nibber/core/words';
import { createElement, useEffect, useRef, useState } from 'react';
import { View } from 'react-native';
import type { CameraAnswer } from '../../state/api/types';
import { playStream, type Streamed } from '../../picture/streamed';
import { Zoomable } from '../../picture/Zoomable';
import { Attention, Button, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { takePicture } from './takePicture';
import { texts } from './words';

const lookEveryMs = 1000;

export function LiveStream({ camera, close }: { camera: CameraAnswer; close: () => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const playing = useRef<Streamed>(undefined);
  const [isFull, setFull] = useState(!camera.live.includes('low'));
  const [isMuted, setMuted] = useState(false);
  const [isPaused, setPaused] = useState(false);
  const [problem, setProblem] = useState<string>();
  const [now, setNow] = useState<ReturnType<Streamed['now']>>();
  const [turn, setTurn] = useState(0);
  useEffect(() => {
    if (isPaused || !video.current) return;
    setProblem(undefined);
    const stream = playStream(video.current, `/api/cameras/${camera.id}/live.mp4?stream=${isFull ? 'full' : 'low'}`, setProblem);
    playing.current = stream;
    const timer = setInterval(() => setNow(stream.now()), lookEveryMs);
    return () => {
      clearInterval(timer);
      stream.close();
      setNow(undefined);
    };
  }, [camera.id, isFull, isPaused, turn]);
  const picture = () => video.current && void takePicture(video.current, camera.name);
  return (
    <View style={{ gap: 8 }}>
      <Zoomable>
        {createElement('video', {
          ref: video,
          autoPlay: true,
          muted: isMuted,
          playsInline: true,
          'aria-label': texts.live2(camera.name, now?.hasSound ? texts.withSound : ''),
          'data-testid': 'live-video',
          style: { width: '100%', aspectRatio: '16 / 9', display: 'block', objectFit: 'contain', background: '#000' },
        })}
      </Zoomable>
      {problem && (
        <Attention words={problem}>
          <Row>
            <Button words={texts.tryAgain} onPress={() => setTurn((t) => t + 1)} />
          </Row>
        </Attention>
      )}
      <Row>
        <Button
          glyph={isPaused ? 'play' : 'pause'}
          label={isPaused ? texts.resume : texts.pause}
          onPress={() => setPaused(!isPaused)}
          testID="live-pause"
        />
        {now?.hasSound !== false && (
          <Button words={isMuted ? texts.soundOn : texts.soundOff} onPress={() => setMuted(!isMuted)} testID="live-mute" />
        )}
        {camera.live.length > 1 && (
          <Button words={isFull ? texts.smallPicture : texts.fullPicture} onPress={() => setFull(!isFull)} testID="live-full" />
        )}
        <Button words={texts.takeAPicture} onPress={picture} disabled={!now} testID="live-take" />
        <Button words={texts.closeStream} onPress={close} testID="live-close" />
      </Row>
      <Words size="small" tone="second" testID="live-cost">
        {isPaused
          ? texts.paused
          : now
            ? texts.sDelayMbitS(
                numberText(now.behindMs / 1000, 1),
                numberText(now.bitsASecond / 1e6, 1),
                isFull ? texts.theFullStream : '',
                now.hasSound ? '' : texts.noSound,
              )
            : texts.connectingToTheCamera}
      </Words>
    </View>
  );
}
