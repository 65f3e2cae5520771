// The server, as modes ask it.

import type { Mode, SiteFile } from '@nibber/core/site';
import { api, madeFrom } from './index';
import type { AreaMode, Arming, ModeWarning, PlannedSwitch } from './types';

type ModesAnswer = {
  readonly modes: readonly Mode[];
  readonly warnings: readonly ModeWarning[];
  readonly planned: readonly PlannedSwitch[];
  readonly modeSchedules: NonNullable<SiteFile['modeSchedules']>;
  readonly version: number;
  readonly now: number;
};

const modesApi = api.injectEndpoints({
  endpoints: (build) => ({
    modes: build.query<ModesAnswer, void>({ query: () => 'modes', providesTags: ['Site', 'Rules', 'Cameras'] }),
    setModes: build.mutation<{ version: number }, { modes: readonly Mode[]; version: number }>({
      query: ({ modes, version }) => ({ url: 'modes', method: 'PUT', body: { modes }, headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Rules', 'Logbook'],
    }),
    arming: build.query<Arming, { mode: string; areas: readonly string[] }>({
      query: ({ mode, areas }) => ({ url: `modes/${mode}/arming`, params: { areas: areas.join(',') } }),
      keepUnusedDataFor: 0,
    }),
    setAreas: build.mutation<AreaMode[], { areas: readonly string[]; mode: string }>({
      query: (body) => ({ url: 'areas/mode', method: 'PUT', body }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
  }),
});

export const { useModesQuery, useSetModesMutation, useArmingQuery, useSetAreasMutation } = modesApi;
