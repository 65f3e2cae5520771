// What the plan shows: how much is covered, what no one covers, what two cameras share.

import type { Level } from '@nibber/core/aim';
import type { PlanView } from '@nibber/core/plan';
import { Card } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import type { CameraAnswer } from '../../state/api/types';
import { levelWords } from '../aim/words';
import { texts } from './words';

type Props = { view: PlanView; cameras: readonly CameraAnswer[]; level: Level; isNight: boolean };

export function Findings({ view, cameras, level, isNight }: Props) {
  const name = (id: string) => cameras.find((c) => c.id === id)?.name ?? id;
  const task = texts.someone(levelWords[level].toLowerCase(), isNight ? texts.atNight : texts.byDay);
  return (
    <Card>
      <Words bold heading={2} testID="plan-covered">
        {texts.coveredTo(Math.round(view.coveredShare * 100), task)}
      </Words>
      <Words>{view.gapSquareMetres < 1 ? texts.noGaps : texts.mAreNotCoveredShaded(Math.round(view.gapSquareMetres))}</Words>
      {view.overlaps.map((o) => (
        <Words key={o.cameras.join()} size="small" tone="second">
          {texts.andShareM(name(o.cameras[0]), name(o.cameras[1]), Math.round(o.squareMetres))}
        </Words>
      ))}
    </Card>
  );
}
