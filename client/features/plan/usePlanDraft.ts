// The plan as it stands in the draft, or as it is saved where nothing was changed yet.

import { useMemo } from 'react';
import { blankPlan } from '@nibber/core/plan';
import { usePlanQuery, useSetPlanMutation } from '../../state/api/plan';
import type { CameraAnswer } from '../../state/api/types';
import { plan, type PlanContent } from '../../state/plan';
import { useDraft } from '../../state/useDraft';
import { placesOf } from './placing';

export function usePlanDraft(cameras: readonly CameraAnswer[]) {
  const { data } = usePlanQuery();
  const saved = useMemo((): PlanContent => ({ plan: data?.plan ?? blankPlan, places: placesOf(cameras) }), [data, cameras]);
  const draft = useDraft(plan, 'site', { version: data?.version ?? 0, content: saved });
  const [save, saving] = useSetPlanMutation();
  return {
    ...draft,
    now: draft.now!,
    isThere: data !== undefined,
    saving,
    async save() {
      if (!('error' in (await save({ ...draft.now!, version: draft.version })))) draft.end();
    },
  };
}
