// The server, as it is asked about people: who belongs here, who is invited, and what each sets for themselves.

import type { Person, Role } from '@nibber/core/site';
import type { Subscription } from '../phone';
import { api, madeFrom } from './index';
import type { Invitation, Me, Session, Someone, WhyAnswer } from './types';

type Access = Person['access'] | null;
export type Invited = { person: string } | { name?: string; role: Role; access?: NonNullable<Access>; until?: string };
/** What an invitation is for. */
export type InvitedAs = { siteName: string; name: string | null; role: Role; madeBy: string; until: string | null; isKnown: boolean };
export type MySettings = {
  [K in 'mail' | 'phone' | 'channels' | 'lockScreen' | 'alertPreferences' | 'summary' | 'cameraGroups']?: Person[K] | null;
};
type OwnQuietHours = { weekly?: object; exceptions?: readonly object[] } | null;

const peopleApi = api.enhanceEndpoints({ addTagTypes: ['People', 'Me'] }).injectEndpoints({
  endpoints: (build) => ({
    people: build.query<{ people: Someone[]; version: number }, void>({
      query: () => 'people',
      providesTags: ['People', 'Phones', 'SignIns', 'Site'],
    }),
    setPerson: build.mutation<{ version: number }, { id: string; version: number; role: Role; access: Access; until: string | null }>({
      query: ({ id, version, ...body }) => ({ url: `people/${id}`, method: 'PUT', body, headers: madeFrom(version) }),
      invalidatesTags: ['People', 'Site', 'Logbook'],
    }),
    removePerson: build.mutation<{ version: number }, { id: string; version: number }>({
      query: ({ id, version }) => ({ url: `people/${id}`, method: 'DELETE', headers: madeFrom(version) }),
      invalidatesTags: ['People', 'Site', 'Rules', 'Phones', 'SignIns', 'Logbook'],
    }),
    endAllOf: build.mutation<{ sessions: number }, string>({
      query: (id) => ({ url: `people/${id}/end`, method: 'POST' }),
      invalidatesTags: ['People', 'Phones', 'SignIns', 'Logbook'],
    }),
    invitations: build.query<Invitation[], void>({ query: () => 'invitations', providesTags: ['People'] }),
    invite: build.mutation<{ id: string; link: string; expiresAt: number }, Invited & { days: number }>({
      query: (body) => ({ url: 'invitations', method: 'POST', body }),
      invalidatesTags: ['People', 'Logbook'],
    }),
    endInvitation: build.mutation<{ id: string }, string>({
      query: (id) => ({ url: `invitations/${id}`, method: 'DELETE' }),
      invalidatesTags: ['People', 'Logbook'],
    }),
    invited: build.query<InvitedAs, string>({ query: (token) => ({ url: 'invited', method: 'POST', body: { token } }) }),
    comeIn: build.mutation<Session, { token: string; name: string; password: string }>({
      query: (body) => ({ url: 'invited/account', method: 'POST', body }),
      onQueryStarted: async (_body, { dispatch, queryFulfilled }) => {
        const { data } = await queryFulfilled.catch(() => ({ data: undefined }));
        if (!data) return;
        dispatch(api.util.resetApiState());
        void dispatch(api.util.upsertQueryData('session', undefined, data));
      },
    }),
    me: build.query<Me, void>({ query: () => 'me', providesTags: ['Me', 'Phones', 'Rules', 'Site'] }),
    setMe: build.mutation<Me, MySettings>({ query: (body) => ({ url: 'me', method: 'PUT', body }), invalidatesTags: ['Me', 'Logbook'] }),
    setQuietHours: build.mutation<Me, OwnQuietHours>({
      query: (schedule) => ({ url: 'me/quiet-hours', method: 'PUT', body: { schedule } }),
      invalidatesTags: ['Me', 'Logbook'],
    }),
    snooze: build.mutation<{ id: string }, { rule?: string; camera?: string; area?: string; until: number | null }>({
      query: (body) => ({ url: 'me/snoozes', method: 'POST', body }),
      invalidatesTags: ['Me', 'Logbook'],
    }),
    endSnooze: build.mutation<{ id: string }, string>({
      query: (id) => ({ url: `me/snoozes/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Me', 'Logbook'],
    }),
    ring: build.mutation<{ phone: string; label: string; state: 'accepted' | 'gone' | 'failed'; why: string | null }[], { phone?: string }>(
      {
        query: (body) => ({ url: 'me/test-alert', method: 'POST', body }),
        invalidatesTags: ['Phones'],
      },
    ),
    pushKey: build.query<{ key: string }, void>({ query: () => 'push-key' }),
    addPhone: build.mutation<{ id: string }, Subscription>({
      query: (body) => ({ url: 'phones', method: 'POST', body }),
      invalidatesTags: ['Phones', 'Me', 'Logbook'],
    }),
    why: build.query<WhyAnswer, { camera: string; at: number; person?: string }>({ query: (params) => ({ url: 'why', params }) }),
    choosePicture: build.mutation<{ id: string }, { id: string; snapshot: number }>({
      query: ({ id, snapshot }) => ({ url: `events/${id}/picture`, method: 'PUT', body: { snapshot } }),
      invalidatesTags: (_answer, _error, { id }) => ['Logbook', { type: 'EventDetail', id }],
    }),
  }),
});

export const {
  usePeopleQuery,
  useSetPersonMutation,
  useRemovePersonMutation,
  useEndAllOfMutation,
  useInvitationsQuery,
  useInviteMutation,
  useEndInvitationMutation,
  useInvitedQuery,
  useComeInMutation,
  useMeQuery,
  useSetMeMutation,
  useSetQuietHoursMutation,
  useSnoozeMutation,
  useEndSnoozeMutation,
  useRingMutation,
  useLazyPushKeyQuery,
  useAddPhoneMutation,
  useWhyQuery,
  useChoosePictureMutation,
} = peopleApi;
