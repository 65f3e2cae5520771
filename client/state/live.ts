// What the cameras see just now, and how late it is at the place.

import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { signedOut } from './leaving';
import type { SeenTrack, StationProblem } from './api/types';

type Live = {
  /** `heardAt`: when it was heard of, by this device's clock; `behindMs`: how long after its picture was taken. */
  tracks: { [camera: string]: { tracks: SeenTrack[]; heardAt: number; behindMs?: number } };
  /** The place's clock minus this device's, ms. */
  clockAheadMs: number;
  problems: StationProblem[];
  connection: 'connecting' | 'open' | 'lost';
  /** What is shown was answered then, and not now: there is no line, or a slow one. By what was asked for; by this device's clock. */
  kept: { [asked: string]: number };
};

const start: Live = { tracks: {}, clockAheadMs: 0, problems: [], connection: 'connecting', kept: {} };

export const live = createSlice({
  name: 'live',
  initialState: start,
  reducers: {
    sawTracks: (state, { payload }: PayloadAction<{ camera: string; at?: number; tracks: SeenTrack[] }>) => {
      const heardAt = Date.now();
      const behindMs = payload.at === undefined ? undefined : Math.max(0, heardAt + state.clockAheadMs - payload.at);
      state.tracks[payload.camera] = { tracks: payload.tracks as never, heardAt, behindMs };
    },
    serverTime: (state, { payload }: PayloadAction<{ now: number; problems?: StationProblem[] }>) => {
      state.clockAheadMs = payload.now - Date.now();
      if (payload.problems) state.problems = payload.problems;
    },
    /** @param payload `at` undefined: it was answered now */
    storedSince: (state, { payload: { asked, at } }: PayloadAction<{ asked: string; at: number | undefined }>) => {
      if (at === undefined) delete state.kept[asked];
      else state.kept[asked] = at;
    },
    connected: (state, { payload }: PayloadAction<Live['connection']>) => {
      state.connection = payload;
      if (payload === 'lost') state.tracks = {};
    },
  },
  extraReducers: (build) => build.addCase(signedOut, () => start),
});

export const { sawTracks, serverTime, connected, storedSince } = live.actions;
