// The same as a list: each point with its place in hundredths of the picture, and buttons to move, add and remove.

import { useState } from 'react';
import type { Point } from '@nibber/core/boxes';
import { Button, Card, Row } from '../../ui/Surface';
import { target, usePalette } from '../../ui/theme';
import { Touch } from '../../ui/Touch';
import { Words } from '../../ui/Words';
import type { Drawing } from '../../state/drawing';
import { fewest, isFull, moved, withoutPoint, withPoint } from './edits';
import { texts } from './words';

type Props = {
  drawing: Drawing;
  chosen: number | null;
  choose: (i: number | null) => void;
  apply: (p: readonly Point[]) => void;
};

const ways = [
  ['←', -0.01, 0, 'left'],
  ['→', 0.01, 0, 'right'],
  ['↑', 0, -0.01, 'up'],
  ['↓', 0, 0.01, 'down'],
] as const;

export function PointList({ drawing: { name, kind, points }, chosen, choose, apply }: Props) {
  const { rule, wash } = usePalette();
  const [open, setOpen] = useState(false);
  const add = () => {
    const last = points.at(-1);
    const next = points[0];
    apply(
      withPoint(
        points,
        points.length,
        last && next && points.length > 1
          ? [(last[0] + next[0]) / 2, (last[1] + next[1]) / 2]
          : last
            ? [last[0] + 0.1, last[1]]
            : [0.45, 0.5],
      ),
    );
    choose(points.length);
  };
  return (
    <Card>
      <Button words={open ? texts.hideThePoints : texts.pointsOf(name)} onPress={() => setOpen(!open)} testID="point-list" />
      {open &&
        points.map((p, i) => (
          <Row
            key={i}
            style={{
              borderTopWidth: 1,
              borderTopColor: rule,
              paddingTop: 6,
              justifyContent: 'space-between',
              backgroundColor: chosen === i ? wash : undefined,
            }}
          >
            <Touch
              press={() => choose(i)}
              style={{ minHeight: target, justifyContent: 'center' }}
              role="button"
              label={texts.selectPoint(i + 1)}
            >
              <Words>{texts.acrossDown(i + 1, Math.round(p[0] * 100), Math.round(p[1] * 100))}</Words>
            </Touch>
            <Row>
              {ways.map(([words, dx, dy, way]) => (
                <Button key={way} words={words} label={texts.movePoint(i + 1, way)} onPress={() => apply(moved(points, i, dx, dy))} />
              ))}
              <Button
                glyph="remove"
                label={texts.removePoint(i + 1)}
                disabled={points.length <= fewest(kind)}
                onPress={() => (choose(null), apply(withoutPoint(points, i)))}
              />
            </Row>
          </Row>
        ))}
      {open && <Button glyph="add" words={texts.addAPoint} disabled={isFull(points)} onPress={add} testID="list-add" />}
    </Card>
  );
}
