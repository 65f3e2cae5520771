// The camera that was taken away last, and the change by which it was, so that it can be put back.

import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { signedOut } from './leaving';

type Undo = { last: { name: string; version: number } | null };

export const removed = createSlice({
  name: 'removed',
  initialState: (): Undo => ({ last: null }),
  reducers: {
    cameraRemoved: (state, { payload }: PayloadAction<{ name: string; version: number }>) => {
      state.last = payload;
    },
    settled: (state) => {
      state.last = null;
    },
  },
  extraReducers: (build) => build.addCase(signedOut, () => ({ last: null })),
});

export const { cameraRemoved, settled } = removed.actions;
