// What the cameras see just now, and how late it is at the place.

import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { signedOut } from './leaving';
import type { SeenTrack } from './api/types';

type Live = {
  /** `heardAt`: when it was heard of, by this device's clock. */
  tracks: { [camera: string]: { tracks: SeenTrack[]; heardAt: number } };
  /** The place's clock minus this device's, ms. */
  clockAheadMs: number;
  troubles: string[];
  connection: 'connecting' | 'open' | 'lost';
};

const start: Live = { tracks: {}, clockAheadMs: 0, troubles: [], connection: 'connecting' };

export const live = createSlice({
  name: 'live',
  initialState: start,
  reducers: {
    sawTracks: (state, { payload }: PayloadAction<{ camera: string; tracks: SeenTrack[] }>) => {
      state.tracks[payload.camera] = { tracks: payload.tracks as never, heardAt: Date.now() };
    },
    serverTime: (state, { payload }: PayloadAction<{ now: number; troubles?: string[] }>) => {
      state.clockAheadMs = payload.now - Date.now();
      if (payload.troubles) state.troubles = payload.troubles;
    },
    connected: (state, { payload }: PayloadAction<Live['connection']>) => {
      state.connection = payload;
      if (payload === 'lost') state.tracks = {};
    },
  },
  extraReducers: (build) => build.addCase(signedOut, () => start),
});

export const { sawTracks, serverTime, connected } = live.actions;
