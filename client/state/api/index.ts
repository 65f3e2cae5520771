// The server, through RTK Query. What changes by itself comes by the live stream (live.ts).

import {
  createApi,
  fetchBaseQuery,
  type BaseQueryFn,
  type FetchArgs,
  type FetchBaseQueryError,
  type FetchBaseQueryMeta,
} from '@reduxjs/toolkit/query/react';
import type { SerializedError, ThunkDispatch, UnknownAction } from '@reduxjs/toolkit';
import { confirmed } from '../confirm';
import { signedOut } from '../leaving';
import { storedSince } from '../live';
import { forgetSaved } from '../worker';
import type { Path } from '@nibber/core/tracks-in-shape';
import type { Line, Rule, Zone } from '@nibber/core/site';
import type { CameraAnswer, ListItem, LogEntry, Mark, EventDetail, Phone, ServerProblem, Session, SieveOfADay, Site } from './types';

export type EventFilter = { show: 'all' | 'notified' | 'stopped'; camera?: string; cls?: string };

/** What says which version of the site an edit was made from. */
export const madeFrom = (version: number): Record<string, string> => ({ 'if-match': `"${version}"` });
const versionOf = (meta: FetchBaseQueryMeta | undefined): number => Number(meta?.response?.headers.get('etag')?.replace(/\D/g, '') ?? 0);

const ask = fetchBaseQuery({ baseUrl: '/api/', timeout: 15_000 });
/** Where the sign-in has ended the page asks for it again, and everything else stays as it is. */
const askSignedIn: BaseQueryFn<string | FetchArgs, unknown, FetchBaseQueryError, object, FetchBaseQueryMeta> = async (args, own, extra) => {
  let answer = await ask(args, own, extra);
  const needsPassword =
    answer.error?.status === 403 && (answer.error.data as { error?: ServerProblem } | undefined)?.error?.code === 'not-confirmed';
  if (needsPassword && (await confirmed(own.dispatch))) answer = await ask(args, own, extra);
  if (answer.error?.status === 401 && own.endpoint !== 'signIn') {
    void own.dispatch(api.util.upsertQueryData('session', undefined, { visitor: null, isNew: false, siteName: null }));
    // What was shared is so no more: nothing of it stays in this browser.
    forgetSaved();
  }
  // What the server said earlier, where it does not answer now (worker/worker.ts).
  const kept = answer.meta?.response?.headers.get('nibber-kept');
  const asked = typeof args === 'string' ? args : args.method ? undefined : args.url;
  if (asked !== undefined && kept) {
    own.dispatch(storedSince({ asked, at: Date.parse(kept) }));
    askAgain(own.dispatch);
  } else if (asked !== undefined && answer.data !== undefined) own.dispatch(storedSince({ asked, at: undefined }));
  return answer;
};

/** What may be answered from what was kept (worker/worker.ts). */
const mayBeKept = ['Session', 'Site', 'Cameras', 'Rules', 'Events', 'EventDetail', 'Sieve', 'Logbook'] as const;
const againMs = 3000;
let again: ReturnType<typeof setTimeout> | undefined;
/** What is shown and is old is asked for again until it is new: nothing else would bring it. */
function askAgain(dispatch: ThunkDispatch<unknown, unknown, UnknownAction>): void {
  again ??= setTimeout(() => {
    again = undefined;
    dispatch(api.util.invalidateTags([...mayBeKept]) as never);
  }, againMs);
}

/** The rules, and the version of the site that they were read in. */
export type RulesAnswer = { readonly rules: readonly Rule[]; readonly version: number };

export const api = createApi({
  reducerPath: 'api',
  baseQuery: askSignedIn,
  tagTypes: [
    'Walks',
    'Pairing',
    'Session',
    'Site',
    'Cameras',
    'Rules',
    'Events',
    'EventDetail',
    'Sieve',
    'Phones',
    'SignIns',
    'Logbook',
    'Readings',
    'PromptTests',
  ],
  endpoints: (build) => ({
    session: build.query<Session, void>({ query: () => 'session', providesTags: ['Session'] }),
    signIn: build.mutation<Session, { name: string; password: string; code: string | undefined }>({
      query: (body) => ({ url: body.code === undefined ? 'session' : 'owner', method: 'POST', body }),
      // What was held may have been another person's.
      onQueryStarted: async (_body, { dispatch, queryFulfilled }) => {
        const { data } = await queryFulfilled.catch(() => ({ data: undefined }));
        if (!data) return;
        dispatch(api.util.resetApiState());
        void dispatch(api.util.upsertQueryData('session', undefined, data));
      },
    }),
    confirm: build.mutation<{ confirmed: boolean }, string>({
      query: (password) => ({ url: 'session/confirm', method: 'POST', body: { password } }),
    }),
    signOut: build.mutation<Session, void>({
      query: () => ({ url: 'session', method: 'DELETE' }),
      onQueryStarted: async (_body, { dispatch, queryFulfilled }) => {
        const { data } = await queryFulfilled.catch(() => ({ data: undefined }));
        if (!data) return;
        dispatch(signedOut());
        forgetSaved();
        dispatch(api.util.resetApiState());
        void dispatch(api.util.upsertQueryData('session', undefined, data));
      },
    }),
    site: build.query<Site, void>({ query: () => 'site', providesTags: ['Site'] }),
    cameras: build.query<CameraAnswer[], void>({ query: () => 'cameras', providesTags: ['Cameras'] }),
    paths: build.query<{ days: number; paths: Path[] }, string>({ query: (camera) => `cameras/${camera}/track-paths` }),
    setDrawings: build.mutation<CameraAnswer, { camera: string; version: number; zones: Zone[]; lines: Line[] }>({
      query: ({ camera, version, ...body }) => ({ url: `cameras/${camera}/drawings`, method: 'PUT', body, headers: madeFrom(version) }),
      invalidatesTags: ['Cameras', 'Logbook'],
    }),
    rules: build.query<RulesAnswer, void>({
      query: () => 'rules',
      transformResponse: (rules: Rule[], meta) => ({ rules, version: versionOf(meta) }),
      providesTags: ['Rules'],
    }),
    /** Answers with the version that the change has become. */
    setRule: build.mutation<number, { rule: Rule; version: number }>({
      query: ({ rule, version }) => ({ url: `rules/${rule.id}`, method: 'PUT', body: rule, headers: madeFrom(version) }),
      transformResponse: (_rule, meta) => versionOf(meta),
      invalidatesTags: ['Rules', 'Logbook'],
    }),
    /** Answers with the version by which it is put back. */
    removeRule: build.mutation<{ id: string; version: number }, { id: string; version: number }>({
      query: ({ id, version }) => ({ url: `rules/${id}`, method: 'DELETE', headers: madeFrom(version) }),
      invalidatesTags: ['Rules', 'Logbook'],
    }),
    revert: build.mutation<{ version: number }, number>({
      query: (version) => ({ url: `site/versions/${version}/revert`, method: 'POST' }),
      invalidatesTags: ['Cameras', 'Site', 'Rules', 'Logbook'],
    }),
    events: build.infiniteQuery<{ items: ListItem[]; more: string | null }, EventFilter, string | null>({
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
    event: build.query<EventDetail, string>({
      query: (id) => `events/${id}`,
      providesTags: (_answer, _error, id) => [{ type: 'EventDetail', id }],
    }),
    setMark: build.mutation<{ mark: Mark | null }, { id: string; mark: Mark | null }>({
      query: ({ id, mark }) => ({ url: `events/${id}/mark`, method: 'PUT', body: { mark } }),
      invalidatesTags: (_answer, _error, { id }) => ['Logbook', { type: 'EventDetail', id }],
    }),
    sieve: build.query<SieveOfADay, void>({ query: () => 'sieve', providesTags: ['Sieve'] }),
    phones: build.query<Phone[], void>({ query: () => 'phones', providesTags: ['Phones'] }),
    removePhone: build.mutation<{ id: string }, string>({
      query: (id) => ({ url: `phones/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Phones', 'SignIns', 'Logbook'],
    }),
    logbook: build.query<LogEntry[], void>({ query: () => 'logbook', providesTags: ['Logbook'] }),
  }),
});

export const {
  useConfirmMutation,
  useSessionQuery,
  useSignInMutation,
  useSignOutMutation,
  useSiteQuery,
  useCamerasQuery,
  usePathsQuery,
  useSetDrawingsMutation,
  useRulesQuery,
  useSetRuleMutation,
  useRemoveRuleMutation,
  useRevertMutation,
  useEventsInfiniteQuery,
  useEventQuery,
  useSetMarkMutation,
  useSieveQuery,
  usePhonesQuery,
  useRemovePhoneMutation,
  useLogbookQuery,
} = api;

/** What an error says to people: what happened, and what to do. */
export function problemWords(error: FetchBaseQueryError | SerializedError | undefined): string | undefined {
  if (!error) return undefined;
  if ('status' in error) {
    const said = (error.data as { error?: ServerProblem } | undefined)?.error;
    if (said) return `${said.message} ${said.hint}`;
    if (error.status === 'FETCH_ERROR' || error.status === 'TIMEOUT_ERROR')
      return 'Cannot reach the server. Check your connection. Alerts still arrive while the server is running.';
  }
  return 'Something went wrong. Try again.';
}
