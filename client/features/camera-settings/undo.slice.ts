// The camera that was taken away last, with the site as it was before, so that it can be put back.

import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

type Undo = { last: { name: string; siteText: string } | null };

export const undoAway = createSlice({
  name: 'undoAway',
  initialState: (): Undo => ({ last: null }),
  reducers: {
    takenAway: (state, { payload }: PayloadAction<{ name: string; siteText: string }>) => {
      state.last = payload;
    },
    settled: (state) => {
      state.last = null;
    },
  },
});

export const { takenAway, settled } = undoAway.actions;
