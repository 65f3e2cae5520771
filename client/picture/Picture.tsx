// A camera's picture with drawings on top. Inside, everything is drawn in a space 1600 wide and as high as the picture asks.

import { createElement, useEffect, useRef, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import Svg from 'react-native-svg';
import { corner } from '../ui/look';

export const space = { width: 1600, height: 900 } as const;

type Props = { source: string; words: string; children?: ReactNode; over?: ReactNode; onFail?: () => void };

/** A stored picture, or a stream that the browser shows as a picture. */
export function Picture({ source, words, children, over, onFail }: Props) {
  return (
    <View
      style={{ width: '100%', aspectRatio: space.width / space.height, backgroundColor: '#000', borderRadius: corner, overflow: 'hidden' }}
    >
      <Image source={source} words={words} onFail={onFail} />
      {children && (
        <View style={{ position: 'absolute', inset: 0 }} pointerEvents="none">
          <Svg width="100%" height="100%" viewBox={`0 0 ${space.width} ${space.height}`} preserveAspectRatio="none">
            {children}
          </Svg>
        </View>
      )}
      {over}
    </View>
  );
}

const Image = ({ source, words, onFail }: Pick<Props, 'source' | 'words' | 'onFail'>) =>
  createElement('img', {
    src: source,
    alt: words,
    onError: onFail,
    draggable: false,
    style: { width: '100%', height: '100%', objectFit: 'fill', display: 'block', userSelect: 'none' },
  });

const againMs = 2000;

/** The live picture of a camera as a stream; comes back by itself after a break. */
export function LivePicture({ camera, words, children, over }: { camera: string; words: string; children?: ReactNode; over?: ReactNode }) {
  const [round, setRound] = useState(0);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  const fail = () => {
    clearTimeout(timer.current);
    timer.current = setTimeout(() => setRound((r) => r + 1), againMs);
  };
  return (
    <Picture source={`/api/cameras/${camera}/live.mjpg?round=${round}`} words={words} onFail={fail} over={over}>
      {children}
    </Picture>
  );
}

const refreshMs = 1000;

/** A camera's newest picture, asked for once a second: small beginnings for a poor line, and no connection held open. */
export function RecentPicture({
  camera,
  words,
  children,
  over,
}: {
  camera: string;
  words: string;
  children?: ReactNode;
  over?: ReactNode;
}) {
  const [at, setAt] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => {
      if (document.visibilityState === 'visible') setAt(Date.now());
    }, refreshMs);
    return () => clearInterval(timer);
  }, []);
  return (
    <Picture source={`/api/cameras/${camera}/picture.jpg?at=${at}`} words={words} over={over}>
      {children}
    </Picture>
  );
}
