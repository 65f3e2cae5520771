// One line of Events: the picture, what it was, and either the alert or the gate where it stopped.

import { View } from 'react-native';
import { Glyph, glyphOfClass, type GlyphName } from '../../ui/Glyph';
import { classLooks, corner, usePalette } from '../../ui/theme';
import { clockWithSeconds } from '../../ui/times';
import { Thumb } from '../../picture/Thumb';
import { Touch } from '../../ui/Touch';
import { Words } from '../../ui/Words';
import type { EventItem, TrackItem } from '../../state/api/types';
import { gateWords } from '../sieve/words';
import { detailOf, titleOf, texts } from './words';

const large = { width: 128, height: 96 };
const small = { width: 96, height: 72 };

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
      {item.picture && <Thumb source={item.picture} box={item.box} size={isEvent ? large : small} />}
      <View style={{ flex: 1, gap: 2 }}>
        <View style={{ flexDirection: 'row', alignItems: 'center', gap: 6 }}>
          <Glyph name={glyphOfItem(item)} size={18} colour={p.isDark ? look.onDark : look.colour} />
          <Words size="small" tone="second" style={{ flex: 1 }}>
            {[clockWithSeconds(item.at, zone), item.cameraName].filter(Boolean).join(' · ')}
          </Words>
          {isEvent && item.mark && (
            <Words size="small" tone="work">
              {item.mark === 'useful' ? texts.useful : 'noise'}
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

/** Of a thing its class; of all else what the event is of. */
const glyphOfItem = (item: EventItem | TrackItem): GlyphName =>
  item.kind === 'event' && item.class === null ? glyphs[item.of] : glyphOfClass(item.class ?? 'other');

const glyphs: Readonly<Record<EventItem['of'], GlyphName>> = {
  track: 'other',
  zone: 'other',
  motion: 'motion',
  sound: 'bell',
  button: 'bell',
  sensor: 'plug',
  alarm: 'attention',
  health: 'cameras',
  reading: 'search',
};
