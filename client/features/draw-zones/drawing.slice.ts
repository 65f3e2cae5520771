// The zones being reshaped: a draft with its past and future, kept over a reload.

import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Point } from '@nibber/core/boxes';
import type { Zone } from '@nibber/core/site';
import { remembered } from '../api/storage';

export type Shapes = { readonly [zone: string]: readonly Point[] };
export type Draft = { camera: string; shapes: Shapes; past: Shapes[]; future: Shapes[] };
type Drawing = { draft: Draft | null };

const mostSteps = 100;

export const shapesOf = (zones: readonly Zone[]): Shapes => Object.fromEntries(zones.map((z) => [z.id, z.polygon as unknown as Point[]]));

export const drawing = createSlice({
  name: 'drawing',
  initialState: (): Drawing => remembered<Drawing>('drawing') ?? { draft: null },
  reducers: {
    begin: (state, { payload }: PayloadAction<{ camera: string; zones: readonly Zone[] }>) => {
      state.draft = { camera: payload.camera, shapes: shapesOf(payload.zones) as never, past: [], future: [] };
    },
    /** One whole change, as a finished drag is. */
    change: ({ draft }, { payload }: PayloadAction<{ zone: string; polygon: readonly Point[] }>) => {
      if (!draft) return;
      draft.past = [...draft.past.slice(-mostSteps + 1), draft.shapes];
      draft.future = [];
      draft.shapes = { ...draft.shapes, [payload.zone]: payload.polygon as never };
    },
    undo: ({ draft }) => {
      const before = draft?.past.pop();
      if (!draft || !before) return;
      draft.future.push(draft.shapes);
      draft.shapes = before;
    },
    redo: ({ draft }) => {
      const after = draft?.future.pop();
      if (!draft || !after) return;
      draft.past.push(draft.shapes);
      draft.shapes = after;
    },
    end: (state) => {
      state.draft = null;
    },
  },
});

export const { begin, change, undo, redo, end } = drawing.actions;
