// The server, through RTK Query. What changes by itself comes by the live stream (live.ts).

import { createApi, fetchBaseQuery, type FetchBaseQueryError } from '@reduxjs/toolkit/query/react';
import type { SerializedError } from '@reduxjs/toolkit';
import type { Path } from '@nibber/core/caught';
import type { Line, Rule, Zone } from '@nibber/core/site';
import type {
  AreaMode,
  CameraAnswer,
  EventItem,
  LogEntry,
  Mark,
  Moment,
  Phone,
  ServerTrouble,
  Session,
  SieveOfADay,
  Site,
  TrackItem,
} from './types';

export type EventFilter = { show: 'all' | 'told' | 'stopped'; camera?: string; cls?: string };

export const api = createApi({
  reducerPath: 'api',
  baseQuery: fetchBaseQuery({ baseUrl: '/api/', timeout: 15_000 }),
  tagTypes: ['Walks', 'Pairing', 'Session', 'Site', 'Cameras', 'Rules', 'Events', 'Moment', 'Sieve', 'Phones', 'Logbook'],
  endpoints: (build) => ({
    session: build.query<Session, void>({ query: () => 'session', providesTags: ['Session'] }),
    signIn: build.mutation<Session, { name: string; password: string; isNew: boolean }>({
      query: ({ isNew, ...body }) => ({ url: isNew ? 'owner' : 'session', method: 'POST', body }),
      invalidatesTags: (answer) => (answer ? ['Session'] : []),
    }),
    signOut: build.mutation<Session, void>({ query: () => ({ url: 'session', method: 'DELETE' }), invalidatesTags: ['Session'] }),
    site: build.query<Site, void>({ query: () => 'site', providesTags: ['Site'] }),
    setMode: build.mutation<AreaMode[], { area: string; mode: string }>({
      query: ({ area, mode }) => ({ url: `areas/${area}/mode`, method: 'PUT', body: { mode } }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    cameras: build.query<CameraAnswer[], void>({ query: () => 'cameras', providesTags: ['Cameras'] }),
    paths: build.query<{ days: number; paths: Path[] }, string>({ query: (camera) => `cameras/${camera}/paths` }),
    kept: build.query<{ tracks: number; events: number; clips: number; since: number | null }, string>({
      query: (camera) => `cameras/${camera}/kept`,
    }),
    forgetPast: build.mutation<unknown, string>({
      query: (camera) => ({ url: `cameras/${camera}/kept`, method: 'DELETE' }),
      invalidatesTags: ['Events', 'Sieve', 'Logbook'],
    }),
    setDrawings: build.mutation<CameraAnswer, { camera: string; zones: Zone[]; lines: Line[] }>({
      query: ({ camera, ...body }) => ({ url: `cameras/${camera}/drawings`, method: 'PUT', body }),
      invalidatesTags: ['Cameras', 'Logbook'],
    }),
    rules: build.query<Rule[], void>({ query: () => 'rules', providesTags: ['Rules'] }),
    setRule: build.mutation<Rule, Rule>({
      query: (rule) => ({ url: `rules/${rule.id}`, method: 'PUT', body: rule }),
      invalidatesTags: ['Rules', 'Logbook'],
    }),
    events: build.infiniteQuery<{ items: (EventItem | TrackItem)[]; more: number | null }, EventFilter, number | null>({
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (last) => last.more ?? undefined },
      query: ({ queryArg: { show, camera, cls }, pageParam }) => ({
        url: 'events',
        params: {
          ...(show === 'all' ? {} : { show }),
          ...(camera ? { camera } : {}),
          ...(cls ? { class: cls } : {}),
          ...(pageParam ? { before: pageParam } : {}),
        },
      }),
      providesTags: ['Events'],
    }),
    moment: build.query<Moment, string>({ query: (id) => `events/${id}`, providesTags: (_answer, _error, id) => [{ type: 'Moment', id }] }),
    setMark: build.mutation<{ mark: Mark | null }, { id: string; mark: Mark | null }>({
      query: ({ id, mark }) => ({ url: `events/${id}/mark`, method: 'PUT', body: { mark } }),
      invalidatesTags: (_answer, _error, { id }) => ['Events', 'Logbook', { type: 'Moment', id }],
    }),
    sieve: build.query<SieveOfADay, void>({ query: () => 'sieve', providesTags: ['Sieve'] }),
    phones: build.query<Phone[], void>({ query: () => 'phones', providesTags: ['Phones'] }),
    removePhone: build.mutation<{ id: string }, string>({
      query: (id) => ({ url: `phones/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Phones', 'Logbook'],
    }),
    logbook: build.query<LogEntry[], void>({ query: () => 'logbook', providesTags: ['Logbook'] }),
  }),
});

export const { useSessionQuery, useSignInMutation, useSignOutMutation, useSiteQuery, useSetModeMutation, useCamerasQuery, usePathsQuery, useKeptQuery, useForgetPastMutation, useSetDrawingsMutation, useRulesQuery, useSetRuleMutation, useEventsInfiniteQuery, useMomentQuery, useSetMarkMutation, useSieveQuery, usePhonesQuery, useRemovePhoneMutation, useLogbookQuery } = api; // prettier-ignore

/** What an error says to people: what happened, and what to do. */
export function troubleWords(error: FetchBaseQueryError | SerializedError | undefined): string | undefined {
  if (!error) return undefined;
  if ('status' in error) {
    const said = (error.data as { error?: ServerTrouble } | undefined)?.error;
    if (said) return `${said.message} ${said.remedy}`;
    if (error.status === 'FETCH_ERROR' || error.status === 'TIMEOUT_ERROR')
      return 'The server cannot be reached. Alerts still come to your phone if it runs; check the connection.';
  }
  return 'Something went wrong. Try again.';
}
