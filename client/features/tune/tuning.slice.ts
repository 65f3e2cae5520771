// Settings of a camera that are being tried: a draft, kept over a reload.

import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Tuning } from '@nibber/core/tuning';
import { remembered } from '../api/storage';

type State = { draft: { camera: string; tuning: Tuning } | null };

export const tuningDraft = createSlice({
  name: 'tuning',
  initialState: (): State => remembered<State>('tuning') ?? { draft: null },
  reducers: {
    tried: (state, { payload }: PayloadAction<State['draft']>) => {
      state.draft = payload;
    },
  },
});

export const { tried } = tuningDraft.actions;
