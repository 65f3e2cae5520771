// What the cameras see just now, and how late it is at the place.

import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { signedOut } from './leaving';
import type { SeenTrack } from './types';

type Seen = {
  /** `toldAt`: when it was told, by this device. */
  tracks: { [camera: string]: { tracks: SeenTrack[]; toldAt: number } };
  /** The place's clock minus this device's, ms. */
  clockAheadMs: number;
  troubles: string[];
  connection: 'connecting' | 'open' | 'lost';
};

const start: Seen = { tracks: {}, clockAheadMs: 0, troubles: [], connection: 'connecting' };

export const seen = createSlice({
  name: 'seen',
  initialState: start,
  reducers: {
    sawTracks: (state, { payload }: PayloadAction<{ camera: string; tracks: SeenTrack[] }>) => {
      state.tracks[payload.camera] = { tracks: payload.tracks as never, toldAt: Date.now() };
    },
    toldTime: (state, { payload }: PayloadAction<{ now: number; troubles?: string[] }>) => {
      state.clockAheadMs = payload.now - Date.now();
      if (payload.troubles) state.troubles = payload.troubles;
    },
    connected: (state, { payload }: PayloadAction<Seen['connection']>) => {
      state.connection = payload;
      if (payload === 'lost') state.tracks = {};
    },
  },
  extraReducers: (build) => build.addCase(signedOut, () => start),
});

export const { sawTracks, toldTime, connected } = seen.actions;
