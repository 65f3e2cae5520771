// What is being drawn on a camera's picture: a draft with its past and future, kept over a reload.

import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Point } from '@nibber/core/boxes';
import type { Line, Zone } from '@nibber/core/site';
import { signedOut } from '../api/leaving';
import { remembered } from '../api/storage';

export type ZoneDrawing = { readonly kind: 'zone'; readonly points: readonly Point[] } & Omit<Zone, 'polygon'>;
export type LineDrawing = { readonly kind: 'line'; readonly points: readonly Point[] } & Omit<Line, 'points'>;
export type Drawing = ZoneDrawing | LineDrawing;

type Drawings = readonly Drawing[];
/** `from`: what was drawn when the draft was begun, and in which version of the site. */
export type Draft = {
  camera: string;
  from: { version: number; drawings: Drawings };
  drawings: Drawings;
  past: Drawings[];
  future: Drawings[];
};
type State = { draft: Draft | null };

const mostSteps = 100;

export const drawingsOf = (zones: readonly Zone[], lines: readonly Line[]): Drawing[] => [
  ...zones.map(({ polygon, ...zone }): Drawing => ({ kind: 'zone', ...zone, points: polygon as unknown as Point[] })),
  ...lines.map(({ points, ...line }): Drawing => ({ kind: 'line', ...line, points: points as unknown as Point[] })),
];

/** As the server takes them. */
export function asSaved(drawings: Drawings): { zones: Zone[]; lines: Line[] } {
  const plain = (points: readonly Point[]) => points.map((p) => [...p]) as never;
  return {
    zones: drawings.flatMap((d) => {
      if (d.kind !== 'zone') return [];
      const { kind: _kind, points, ...zone } = d;
      return [{ ...zone, polygon: plain(points) }];
    }),
    lines: drawings.flatMap((d) => {
      if (d.kind !== 'line') return [];
      const { kind: _kind, points, ...line } = d;
      return [{ ...line, points: plain(points) }];
    }),
  };
}

/** A draft of an earlier version of this application is of no use. */
const kept = (): State => {
  const state = remembered<State>('drawing');
  return state?.draft && Array.isArray(state.draft.drawings) && Array.isArray(state.draft.from?.drawings) ? state : { draft: null };
};

export const drawing = createSlice({
  name: 'drawing',
  initialState: kept,
  reducers: {
    begin: (state, { payload: { camera, version, drawings } }: PayloadAction<{ camera: string; version: number; drawings: Drawings }>) => {
      state.draft = { camera, from: { version, drawings }, drawings, past: [], future: [] } as never;
    },
    /** Goes on with the draft upon what stands now: what somebody else has changed meanwhile is written over. */
    goOn: ({ draft }, { payload }: PayloadAction<Draft['from']>) => {
      if (draft) draft.from = payload as never;
    },
    /** One whole change, as a finished drag is. */
    change: ({ draft }, { payload }: PayloadAction<Drawings>) => {
      if (!draft) return;
      draft.past = [...draft.past.slice(-mostSteps + 1), draft.drawings];
      draft.future = [];
      draft.drawings = payload as never;
    },
    undo: ({ draft }) => {
      const before = draft?.past.pop();
      if (!draft || !before) return;
      draft.future.push(draft.drawings);
      draft.drawings = before;
    },
    redo: ({ draft }) => {
      const after = draft?.future.pop();
      if (!draft || !after) return;
      draft.past.push(draft.drawings);
      draft.drawings = after;
    },
    end: (state) => {
      state.draft = null;
    },
  },
  extraReducers: (build) => build.addCase(signedOut, () => ({ draft: null })),
});

export const { begin, goOn, change, undo, redo, end } = drawing.actions;
