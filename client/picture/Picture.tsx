// A camera's picture with drawings on top. Inside, everything is drawn in a space 1600 wide and as high as the picture asks.

import { createContext, createElement, useContext, useEffect, useRef, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import Svg from 'react-native-svg';
import { corner, usePalette } from '../ui/theme';
import { Words } from '../ui/Words';
import { useInView } from './useInView';

const width = 1600;
const usual = { width, height: 900 };
const Space = createContext(usual);
/** The space in which things are drawn on the picture around them. */
export const useSpace = () => useContext(Space);

/** `still`: drawings that stay as they are while others move; they are painted once, in a layer of their own. */
type Props = {
  source: string | undefined;
  words: string;
  still?: ReactNode;
  children?: ReactNode;
  over?: ReactNode;
  onFail?: () => void;
};

type Natural = { readonly width: number; readonly height: number };
type FrameProps = {
  /** What is shown; it says its own size once it is there. */
  media: (loaded: (natural: Natural) => void, isLoaded: boolean) => ReactNode;
  still?: ReactNode;
  children?: ReactNode;
  over?: ReactNode;
};

/** A picture or a clip as high as it is by itself, with drawings on top. */
export function Frame({ media, still, children, over }: FrameProps) {
  const p = usePalette();
  const [space, setSpace] = useState(usual);
  const [isLoaded, setLoaded] = useState(false);
  const loaded = (natural: Natural) => {
    setLoaded(true);
    const height = Math.round((width * natural.height) / natural.width) || usual.height;
    if (height !== space.height) setSpace({ width, height });
  };
  return (
    <View
      style={{
        width: '100%',
        aspectRatio: space.width / space.height,
        backgroundColor: isLoaded ? '#000' : p.rule,
        borderRadius: corner,
        overflow: 'hidden',
      }}
    >
      {!isLoaded && <NoPicture />}
      {media(loaded, isLoaded)}
      {still && <Layer space={space}>{still}</Layer>}
      {children && <Layer space={space}>{children}</Layer>}
      {over}
    </View>
  );
}

const Layer = ({ space, children }: { space: typeof usual; children: ReactNode }) => (
  <View style={{ position: 'absolute', inset: 0, willChange: 'transform' } as object} pointerEvents="none">
    <Svg width="100%" height="100%" viewBox={`0 0 ${space.width} ${space.height}`} preserveAspectRatio="none">
      <Space.Provider value={space}>{children}</Space.Provider>
    </Svg>
  </View>
);

const NoPicture = () => (
  <View style={{ position: 'absolute', inset: 0, alignItems: 'center', justifyContent: 'center' }}>
    <Words size="small" tone="second">
      No picture yet
    </Words>
  </View>
);

/** A stored picture, or a stream that the browser shows as a picture; nothing where there is no source. */
export const Picture = ({ source, words, still, children, over, onFail }: Props) => (
  <Frame
    still={still}
    over={over}
    media={(loaded, isLoaded) => source && <Image source={source} words={words} loaded={loaded} onFail={onFail} isLoaded={isLoaded} />}
  >
    {children}
  </Frame>
);

type ImageProps = Pick<Props, 'words' | 'onFail'> & { source: string; isLoaded: boolean; loaded: (natural: Natural) => void };

const Image = ({ source, words, onFail, loaded, isLoaded }: ImageProps) =>
  createElement('img', {
    src: source,
    alt: words,
    onError: onFail,
    onLoad: ({ currentTarget: i }: { currentTarget: HTMLImageElement }) => loaded({ width: i.naturalWidth, height: i.naturalHeight }),
    draggable: false,
    style: {
      width: '100%',
      height: '100%',
      objectFit: 'fill',
      display: 'block',
      userSelect: 'none',
      position: 'relative',
      // Until there is a picture the browser would show the words and a sign of its own.
      opacity: isLoaded ? 1 : 0,
    },
  });

const againMs = 2000;

/** The live picture of a camera as a stream; comes back by itself after a break. */
export function LivePicture({ camera, ...rest }: Omit<Props, 'source' | 'onFail'> & { camera: string }) {
  const [round, setRound] = useState(0);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  const fail = () => {
    clearTimeout(timer.current);
    timer.current = setTimeout(() => setRound((r) => r + 1), againMs);
  };
  return <Picture source={`/api/cameras/${camera}/live.mjpg?round=${round}`} onFail={fail} {...rest} />;
}

const refreshMs = 1000;

/** A camera's newest picture, asked for once a second while it is in sight: small beginnings for a poor line, and no connection held open. */
export function RecentPicture({
  camera,
  isThere,
  ...rest
}: Omit<Props, 'source' | 'onFail'> & {
  camera: string;
  /** Whether it has sent any. */
  isThere: boolean;
}) {
  const [at, setAt] = useState(0);
  const { ref, isInView } = useInView();
  useEffect(() => {
    const timer = setInterval(() => {
      if (isInView.current && document.visibilityState === 'visible') setAt(Date.now());
    }, refreshMs);
    return () => clearInterval(timer);
  }, [isInView]);
  return (
    <View ref={ref}>
      <Picture source={isThere ? `/api/cameras/${camera}/picture.jpg?at=${at}` : undefined} {...rest} />
    </View>
  );
}
