// The server, as walk tests ask it.

import type { WalkItem } from '@nibber/core/walk-test';
import { api } from '.';
import type { WalkKept, WalkNow } from './types';

export const walkApi = api.injectEndpoints({
  endpoints: (build) => ({
    walkTest: build.query<{ now: WalkNow | null }, void>({ query: () => 'walk-test' }),
    startWalk: build.mutation<{ now: WalkNow }, WalkItem[]>({
      query: (items) => ({ url: 'walk-test', method: 'POST', body: { items } }),
      invalidatesTags: ['Logbook', 'Walks'],
    }),
    endWalk: build.mutation<WalkKept, void>({
      query: () => ({ url: 'walk-test', method: 'DELETE' }),
      invalidatesTags: ['Logbook', 'Walks'],
    }),
    walkTests: build.query<WalkKept[], void>({ query: () => 'walk-tests', providesTags: ['Walks'] }),
  }),
});

export const { useWalkTestQuery, useStartWalkMutation, useEndWalkMutation, useWalkTestsQuery } = walkApi;
