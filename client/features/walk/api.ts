// The server, as walk tests ask it.

import type { GateName } from '@nibber/core/sieve';
import type { Expectation, Light, WalkItem, WalkVerdict } from '@nibber/core/walk-test';
import { api } from '../api/api';

type Waiting = { state: 'waiting'; walked: boolean; why: string | null };
type Answered = { state: 'answered'; at: number; event: string | null; picture: string | null };
export type ItemNow = WalkItem & {
  name: string;
  cameras: string[];
  result: Waiting | Answered;
  lights: Light[];
  there: number;
  steps: number;
};
export type WalkNow = { id: string; startedAt: number; by: string; items: ItemNow[] };
export type ItemKept = WalkItem & {
  name: string;
  cameras: string[];
  verdict: WalkVerdict;
  /** Whether what it rests on is as it was. */
  stands: boolean;
  result: Waiting | Answered;
  told: { person: string; state: 'waiting' | 'sent' | 'undeliverable' | 'held'; why: string | null; sentAt: number | null }[];
};
export type WalkKept = { id: string; startedAt: number; endedAt: number | null; by: string; items: ItemKept[] };
export type { Expectation, GateName };

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
