// The server, as connecting asks it.

import type { CapabilityName, AimFile, Orientation, TuningFile } from '@nibber/core/site';
import { api, madeFrom } from '.';
import type { AttemptAnswer, CameraAnswer, ChainAnswer, PairingAnswer, BuiltInDetection, SearchAnswer } from './types';

export type Wanted = { kind: 'device' | 'stream'; address: string; name?: string; password?: string };
export type ChosenCamera = {
  channel: number;
  name: string;
  area: string;
  orientation?: Orientation;
  relays?: { lamp?: string; siren?: string };
  capabilities?: CapabilityName[];
};
export type Settings = Partial<Pick<CameraAnswer, 'name' | 'area' | 'orientation' | 'allowAiService' | 'capabilities' | 'relays'>> & {
  builtInDetection?: BuiltInDetection;
  aim?: AimFile;
  tuning?: TuningFile;
};
const connectApi = api.injectEndpoints({
  endpoints: (build) => ({
    beginSearch: build.mutation<SearchAnswer, void>({ query: () => ({ url: 'searches', method: 'POST' }) }),
    search: build.query<SearchAnswer, string>({ query: (id) => `searches/${id}` }),
    stopSearch: build.mutation<SearchAnswer, string>({ query: (id) => ({ url: `searches/${id}`, method: 'DELETE' }) }),
    beginAttempt: build.mutation<AttemptAnswer, Wanted>({ query: (body) => ({ url: 'connection-attempts', method: 'POST', body }) }),
    attempt: build.query<AttemptAnswer, string>({ query: (id) => `connection-attempts/${id}` }),
    stopAttempt: build.mutation<{ id: string }, string>({ query: (id) => ({ url: `connection-attempts/${id}`, method: 'DELETE' }) }),
    saveCameras: build.mutation<{ cameras: string[] }, { attempt: string; cameras: ChosenCamera[] }>({
      query: ({ attempt, cameras }) => ({ url: `connection-attempts/${attempt}/cameras`, method: 'POST', body: { cameras } }),
      invalidatesTags: ['Cameras', 'Logbook'],
    }),
    pairCamera: build.mutation<{ camera: string }, { name: string; area: string }>({
      query: (body) => ({ url: 'paired-cameras', method: 'POST', body }),
      invalidatesTags: ['Cameras', 'Logbook'],
    }),
    pairing: build.query<PairingAnswer, string>({
      query: (camera) => `cameras/${camera}/pairing`,
      providesTags: (_answer, _error, id) => [{ type: 'Pairing', id }],
    }),
    newToken: build.mutation<PairingAnswer, string>({
      query: (camera) => ({ url: `cameras/${camera}/pairing/token`, method: 'POST' }),
      invalidatesTags: (_answer, _error, id) => [{ type: 'Pairing', id }, 'Logbook'],
    }),
    setSettings: build.mutation<CameraAnswer, { of: Pick<CameraAnswer, 'id' | 'version'>; settings: Settings }>({
      query: ({ of, settings }) => ({ url: `cameras/${of.id}/settings`, method: 'PUT', body: settings, headers: madeFrom(of.version) }),
      invalidatesTags: ['Cameras', 'Logbook'],
    }),
    setLogin: build.mutation<CameraAnswer, { camera: string; name: string; password: string }>({
      query: ({ camera, ...body }) => ({ url: `cameras/${camera}/login`, method: 'PUT', body }),
      invalidatesTags: ['Cameras', 'Logbook'],
    }),
    removeCamera: build.mutation<{ id: string; version: number }, string>({
      query: (camera) => ({ url: `cameras/${camera}`, method: 'DELETE' }),
      invalidatesTags: ['Cameras', 'Logbook'],
    }),
    command: build.mutation<{ done: true }, { camera: string; command: 'lamp' | 'siren' | 'restart'; on?: boolean }>({
      query: ({ camera, ...body }) => ({ url: `cameras/${camera}/commands`, method: 'POST', body }),
      invalidatesTags: ['Logbook'],
    }),
    freshStill: build.mutation<{ at: number; isFresh: boolean }, string>({
      query: (camera) => ({ url: `cameras/${camera}/still`, method: 'POST', timeout: 40_000 }),
    }),
    chain: build.query<ChainAnswer, string>({ query: (camera) => `cameras/${camera}/chain`, providesTags: ['Rules', 'Cameras'] }),
    fix: build.mutation<ChainAnswer, { camera: string; kind: string; rule: string }>({
      query: ({ camera, ...body }) => ({ url: `cameras/${camera}/chain/fix`, method: 'POST', body }),
      invalidatesTags: ['Rules', 'Cameras', 'Logbook'],
    }),
  }),
});

export const {
  useBeginSearchMutation,
  useSearchQuery,
  useStopSearchMutation,
  useBeginAttemptMutation,
  useAttemptQuery,
  useStopAttemptMutation,
  useSaveCamerasMutation,
  usePairCameraMutation,
  usePairingQuery,
  useNewTokenMutation,
  useSetSettingsMutation,
  useSetLoginMutation,
  useRemoveCameraMutation,
  useCommandMutation,
  useFreshStillMutation,
  useChainQuery,
  useFixMutation,
} = connectApi;
