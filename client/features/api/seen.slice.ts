// What the cameras see just now, and how late it is at the place.

import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { SeenTrack } from './types';

type Seen = {
  tracks: { [camera: string]: SeenTrack[] };
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
      state.tracks[payload.camera] = payload.tracks as never;
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
});

export const { sawTracks, toldTime, connected } = seen.actions;
