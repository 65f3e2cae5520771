// Settings of a camera that are being tried: a draft, kept over a reload.

import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Tuning } from '@nibber/core/tuning';
import { signedOut } from './leaving';
import { remembered } from './storage';

type State = { draft: { camera: string; tuning: Tuning } | null };

export const tuningDraft = createSlice({
  name: 'tuning',
  initialState: (): State => remembered<State>('tuning') ?? { draft: null },
  reducers: {
    tried: (state, { payload }: PayloadAction<State['draft']>) => {
      state.draft = payload;
    },
  },
  extraReducers: (build) => build.addCase(signedOut, () => ({ draft: null })),
});

export const { tried } = tuningDraft.actions;
