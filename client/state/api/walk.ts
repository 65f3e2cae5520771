// The server, as walk tests ask it.

import type { WalkItem } from '@nibber/core/walk-test';
import { api } from '.';
import type { StoredWalkTest, WalkNow } from './types';

export const walkApi = api.injectEndpoints({
  endpoints: (build) => ({
    walkTest: build.query<{ now: WalkNow | null }, void>({ query: () => 'walk-test' }),
    startWalk: build.mutation<{ now: WalkNow }, WalkItem[]>({
      query: (items) => ({ url: 'walk-test', method: 'POST', body: { items } }),
      invalidatesTags: ['Logbook', 'Walks'],
    }),
    endWalk: build.mutation<StoredWalkTest, void>({
      query: () => ({ url: 'walk-test', method: 'DELETE' }),
      invalidatesTags: ['Logbook', 'Walks'],
    }),
    walkTests: build.query<StoredWalkTest[], void>({ query: () => 'walk-tests', providesTags: ['Walks'] }),
  }),
});

export const { useWalkTestQuery, useStartWalkMutation, useEndWalkMutation, useWalkTestsQuery } = walkApi;
