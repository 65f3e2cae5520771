// One line of Events: the picture, what it was, and either what was told or where it stopped.

import { createElement } from 'react';
import { Pressable, View } from 'react-native';
import type { Box } from '@nibber/core/boxes';
import { capital } from '../../ui/capital';
import { Glyph, glyphOfClass } from '../../ui/Glyph';
import { classLooks, corner, usePalette } from '../../ui/look';
import { clockWithSeconds } from '../../ui/times';
import { Words } from '../../ui/Words';
import type { EventItem, TrackItem } from '../api/types';
import { gateWords } from '../sieve/gates';

export function EventCard({ item, zone, open, chosen }: { item: EventItem | TrackItem; zone: string; open: () => void; chosen: boolean }) {
  const p = usePalette();
  const look = classLooks[item.class];
  const isEvent = item.kind === 'event';
  const title = isEvent
    ? item.ruleName
    : `${capital(item.type ?? item.class)}, stopped at ${item.stoppedAt ? gateWords[item.stoppedAt] : 'the end'}`;
  const detail = isEvent ? (item.description ?? `${capital(item.type ?? item.class)} · ${item.cameraName}`) : `${item.why}.`;
  return (
    <Pressable
      onPress={open}
      role="link"
      aria-label={`${title}. ${detail}`}
      testID={`${item.kind}-${item.id}`}
      style={{
        flexDirection: 'row',
        gap: 12,
        padding: 8,
        borderRadius: corner,
        borderWidth: 1,
        borderColor: chosen ? p.work : p.rule,
        backgroundColor: isEvent ? p.sheet : 'transparent',
      }}
    >
      {item.picture && <Thumb source={item.picture} box={item.box} big={isEvent} />}
      <View style={{ flex: 1, gap: 2 }}>
        <View style={{ flexDirection: 'row', alignItems: 'center', gap: 6 }}>
          <Glyph name={glyphOfClass(item.class)} size={18} colour={p.isDark ? look.onDark : look.colour} />
          <Words size="small" tone="second" style={{ flex: 1 }}>
            {clockWithSeconds(item.at, zone)} · {item.cameraName}
          </Words>
          {isEvent && item.mark && (
            <Words size="small" tone="work">
              {item.mark}
            </Words>
          )}
        </View>
        <Words bold={isEvent}>{title}</Words>
        <Words size="small" tone="second" lines={3}>
          {detail}
        </Words>
      </View>
    </Pressable>
  );
}

const aspect = 16 / 9;

/** The part of the picture around the thing, at one size whatever its own. */
function Thumb({ source, box, big }: { source: string; box: Box | null; big: boolean }) {
  const [width, height] = big ? [128, 96] : [96, 72];
  // The whole picture is drawn so large that the thing fills most of the frame, then moved to it.
  const [x, y, w, h] = box ?? [0, 0, 1, 1];
  const pictureHeight = Math.min((height * 0.7) / h, (width * 0.7) / (w * aspect), height * 5);
  const drawn = Math.max(height, pictureHeight);
  const place = (middle: number, all: number, frame: number) => Math.min(0, Math.max(frame - all, frame / 2 - middle * all));
  return (
    <View style={{ width, height, borderRadius: 4, overflow: 'hidden', backgroundColor: '#000' }}>
      {createElement('img', {
        src: source,
        alt: '',
        loading: 'lazy',
        style: {
          position: 'absolute',
          height: drawn,
          width: drawn * aspect,
          maxWidth: 'none',
          left: place(x + w / 2, drawn * aspect, width),
          top: place(y + h / 2, drawn, height),
        },
      })}
    </View>
  );
}
