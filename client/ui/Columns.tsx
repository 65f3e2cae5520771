// The layout of wide screens: what a screen is about takes the room, and what belongs to it is in a column beside it. On a phone one follows
// the other. Cards fill two columns.

import { Children, type ReactNode } from 'react';
import { View } from 'react-native';
import { useIsWide } from './theme';

/** The width of the column beside the main one, px. */
const sideWidth = 380;
const gap = 16;

type Props = {
  readonly main: ReactNode;
  /** Where there is none, the main column takes all the room. */
  readonly side: ReactNode;
  /** Both columns matter as much. */
  readonly even?: boolean;
};

export function Columns({ main, side, even = false }: Props) {
  const isWide = useIsWide();
  const share = { flex: isWide ? 1 : undefined, minWidth: 0, gap };
  return (
    <View style={{ flexDirection: isWide ? 'row' : 'column', alignItems: isWide ? 'flex-start' : 'stretch', gap }}>
      <View style={share}>{main}</View>
      {side && <View style={even || !isWide ? share : { width: sideWidth, gap }}>{side}</View>}
    </View>
  );
}

/** On a wide screen two columns, dealt in turn. */
export function CardColumns({ children }: { children: ReactNode }) {
  const isWide = useIsWide();
  const cards = Children.toArray(children);
  if (!isWide || cards.length < 2) return <View style={{ gap }}>{cards}</View>;
  const columns = [0, 1].map((column) => cards.filter((_, i) => i % 2 === column));
  return <Columns even main={columns[0]} side={columns[1]} />;
}
