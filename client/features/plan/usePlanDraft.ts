// The plan as it stands in the draft, or as it is saved where nothing was changed yet.

import { useMemo, useRef } from 'react';
import { blankPlan } from '@nibber/core/plan';
import { usePlanQuery, useSetPlanMutation } from '../../state/api/plan';
import type { CameraAnswer } from '../../state/api/types';
import { plan, type PlanContent } from '../../state/plan';
import { useAppDispatch, useAppSelector } from '../../state/store';
import { placesOf } from './placing';

const { begin, change, draftOf, end, redo, undo } = plan;
const owner = 'site';

export function usePlanDraft(cameras: readonly CameraAnswer[]) {
  const dispatch = useAppDispatch();
  const { data } = usePlanQuery();
  const state = useAppSelector((s) => s.plan);
  const draft = useMemo(() => draftOf(state, owner), [state]);
  const saved = useMemo((): PlanContent => ({ plan: data?.plan ?? blankPlan, places: placesOf(cameras) }), [data, cameras]);
  const [save, saving] = useSetPlanMutation();
  const drag = useRef('');
  return {
    isThere: data !== undefined,
    // What was undone to its beginning follows what is there.
    now: draft?.canUndo || draft?.canRedo ? draft.content : saved,
    isChanged: draft?.canUndo ?? false,
    canRedo: draft?.canRedo ?? false,
    saving,
    /** What is changed until the next one is undone with it. */
    startDrag: () => (drag.current = `${Date.now()}`),
    change(content: PlanContent, isDrag = false) {
      if (!draft) dispatch(begin({ of: owner, version: data?.version ?? 0, content: saved }));
      dispatch(change({ content, drag: isDrag ? drag.current : undefined }));
    },
    undo: () => dispatch(undo()),
    redo: () => dispatch(redo()),
    cancel: () => dispatch(end()),
    async save() {
      if (draft && !('error' in (await save({ ...draft.content, version: draft.from.version })))) dispatch(end());
    },
  };
}
