// One line of Events: the picture, what it was, and either what was told or where it stopped.

import { createElement } from 'react';
import { View } from 'react-native';
import type { Box } from '@nibber/core/boxes';
import { Glyph, glyphOfClass } from '../../ui/Glyph';
import { classLooks, corner, usePalette } from '../../ui/theme';
import { clockWithSeconds } from '../../ui/times';
import { Touch } from '../../ui/Touch';
import { Words } from '../../ui/Words';
import type { EventItem, TrackItem } from '../../state/api/types';
import { gateWords } from '../sieve/gates';
import { detailOf, titleOf } from './titles';

export function EventCard({ item, zone, open, chosen }: { item: EventItem | TrackItem; zone: string; open: () => void; chosen: boolean }) {
  const p = usePalette();
  const cls = item.class ?? 'other';
  const look = classLooks[cls];
  const isEvent = item.kind === 'event';
  const [title, detail] = [titleOf(item), detailOf(item)];
  return (
    <Touch
      press={open}
      role="link"
      testID={`${item.kind}-${item.id}`}
      style={{
        flexDirection: 'row',
        gap: 12,
        padding: 8,
        borderRadius: corner,
        borderWidth: 1,
        borderColor: chosen ? p.work : p.rule,
        backgroundColor: isEvent ? p.surface : 'transparent',
      }}
    >
      {item.picture && <Thumb source={item.picture} box={item.box} big={isEvent} />}
      <View style={{ flex: 1, gap: 2 }}>
        <View style={{ flexDirection: 'row', alignItems: 'center', gap: 6 }}>
          <Glyph name={glyphOfClass(cls)} size={18} colour={p.isDark ? look.onDark : look.colour} />
          <Words size="small" tone="second" style={{ flex: 1 }}>
            {[clockWithSeconds(item.at, zone), item.cameraName].filter(Boolean).join(' · ')}
          </Words>
          {isEvent && item.mark && (
            <Words size="small" tone="work">
              {item.mark === 'kept' ? 'worth having' : 'noise'}
            </Words>
          )}
          {!isEvent && item.stoppedAt && (
            <Words size="small" tone="second">
              {gateWords[item.stoppedAt]}
            </Words>
          )}
        </View>
        <Words bold={isEvent}>{title}</Words>
        <Words size="small" tone="second" lines={3}>
          {detail}
        </Words>
      </View>
    </Touch>
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
