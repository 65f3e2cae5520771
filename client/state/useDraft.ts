// Something as a screen changes it: what is saved until the first change, then the draft, which is kept over a reload.

import { useMemo, useRef } from 'react';
import type { DraftKind, Drafts } from './draft';
import { useAppDispatch, useAppSelector } from './store';

/** @param standing what is saved, and in which version of the site; undefined while that is not known */
export function useDraft<C>(kind: DraftKind<C>, of: string, standing: { readonly version: number; readonly content: C } | undefined) {
  const dispatch = useAppDispatch();
  const state = useAppSelector((s) => s[kind.name]) as unknown as Drafts<C>;
  const draft = useMemo(() => kind.draftOf(state, of), [kind, state, of]);
  const drag = useRef('');
  const isChanged = draft?.canUndo ?? false;
  return {
    // What was undone to its beginning follows what is there.
    now: draft && (isChanged || draft.canRedo || !standing) ? draft.content : standing?.content,
    /** What it was begun from; undefined where nothing is changed. */
    origin: draft?.from.content,
    version: draft?.from.version ?? standing?.version ?? 0,
    isChanged,
    canRedo: draft?.canRedo ?? false,
    /** What stands now is not what the draft was begun from. */
    isOlder: isChanged && standing !== undefined && JSON.stringify(draft!.from.content) !== JSON.stringify(standing.content),
    /** What is changed until the next one is undone with it. */
    startDrag: () => (drag.current = `${Date.now()}`),
    change(content: C, isDrag = false) {
      if (!draft && standing) dispatch(kind.begin({ of, ...standing }));
      dispatch(kind.change({ content, drag: isDrag ? drag.current : undefined }));
    },
    undo: () => void dispatch(kind.undo()),
    redo: () => void dispatch(kind.redo()),
    /** Lets go of the draft: what is saved stands. */
    end: () => void dispatch(kind.end()),
    /** Goes on with the draft; what someone else has changed meanwhile is written over. */
    goOn: () => void (standing && dispatch(kind.goOn(standing))),
  };
}
