// Drafts: what is being changed and not saved yet, with its past and future, kept over a reload and gone when someone signs out.

import { combineReducers, createAction, createReducer, type Reducer, type UnknownAction } from '@reduxjs/toolkit';
import undoable, { includeAction, newHistory, type StateWithHistory } from 'redux-undo';
import { signedOut } from './leaving';
import { remembered } from './storage';

/** `of`: whose it is. `from`: what stood there when it was begun, and in which version of the site. */
type Begun<C> = { readonly of: string; readonly from: { readonly version: number; readonly content: C } };
export type Drafts<C> = { readonly begun: Begun<C> | null; readonly history: StateWithHistory<C> };
export type Draft<C> = Begun<C> & { readonly content: C; readonly canUndo: boolean; readonly canRedo: boolean };

const maxSteps = 100;

/**
 * Drafts of one kind, one at a time.
 * @param name under which they are remembered
 * @param isContent whether what was remembered is of use; a draft of an earlier version of this application is of none
 */
export function draftsOf<C>(
  name: 'drawing' | 'plan' | 'schedules' | 'rule' | 'siteText',
  empty: C,
  isContent: (content: unknown) => boolean,
) {
  const begin = createAction<Begun<C>['from'] & { readonly of: string }>(`${name}/begin`);
  /** Goes on with the draft upon what stands now: what someone else has changed meanwhile is written over. */
  const goOn = createAction<Begun<C>['from']>(`${name}/goOn`);
  /** One whole change. Those of one `drag` are undone together. */
  const change = createAction<{ readonly content: C; readonly drag?: string | undefined }>(`${name}/change`);
  const [undo, redo, end] = ['undo', 'redo', 'end'].map((what) => createAction(`${name}/${what}`)) as [Plain, Plain, Plain];

  const begun = createReducer<Begun<C> | null>(null, (build) =>
    build
      .addCase(begin, (_state, { payload: { of, ...from } }) => ({ of, from }) as never)
      .addCase(goOn, (state, { payload }) => (state && { ...state, from: payload }) as never)
      .addCase(end, () => null)
      .addCase(signedOut, () => null),
  );
  const content = (state: C = empty, action: UnknownAction): C => (change.match(action) ? action.payload.content : state);
  const undone = undoable(content, {
    limit: maxSteps + 1,
    undoType: undo.type,
    redoType: redo.type,
    filter: includeAction(change.type),
    groupBy: (action) => (change.match(action) ? (action.payload.drag ?? null) : null),
    syncFilter: true,
  });
  /** A draft begins, and ends, with nothing to be undone. */
  const history = (state: StateWithHistory<C> | undefined, action: UnknownAction): StateWithHistory<C> => {
    if (begin.match(action)) return newHistory([], action.payload.content, []);
    if (end.match(action) || signedOut.match(action)) return newHistory([], empty, []);
    return undone(state, action);
  };
  const whole = combineReducers({ begun, history }) as unknown as Reducer<Drafts<C>>;
  const kept = (): Drafts<C> | undefined => {
    const state = remembered<Drafts<C>>(name);
    const isWhole = state?.begun?.from && isContent(state.begun.from.content) && isContent(state.history?.present);
    return isWhole && Array.isArray(state.history.past) ? state : undefined;
  };
  return {
    name,
    ...{ begin, goOn, change, undo, redo, end },
    reducer: (state: Drafts<C> | undefined, action: UnknownAction): Drafts<C> => whole(state ?? kept(), action),
    /** What is being changed there; null where nothing is. */
    draftOf({ begun: of, history: { past, present, future } }: Drafts<C>, owner: string): Draft<C> | null {
      return of?.of === owner ? { ...of, content: present, canUndo: past.length > 0, canRedo: future.length > 0 } : null;
    },
  };
}

export type DraftKind<C> = ReturnType<typeof draftsOf<C>>;

type Plain = ReturnType<typeof createAction>;
