// The server, as it is asked what is stored of an event, a camera or a person, and to delete it.

import { api } from './index';

export type OfCamera = { readonly camera: string; /** All of it if absent. */ readonly day?: string | undefined };
type StoredOfCamera = { readonly tracks: number; readonly events: number; readonly clips: number; readonly since: number | null };
type StoredOfPerson = { readonly alerts: number; readonly views: number; readonly logbook: number; readonly snoozes: number };

const pathOfCamera = ({ camera, day }: OfCamera, more = '') => `cameras/${camera}/stored-data${more}${day ? `?day=${day}` : ''}`;
export const exportOf = {
  event: (id: string) => `/api/events/${id}/export`,
  camera: (asked: OfCamera) => `/api/${pathOfCamera(asked, '/export')}`,
  person: (id: string) => `/api/people/${id}/stored-data/export`,
};

const storedDataApi = api.injectEndpoints({
  endpoints: (build) => ({
    storedData: build.query<StoredOfCamera, OfCamera>({ query: (asked) => pathOfCamera(asked), providesTags: ['Events'] }),
    forgetPast: build.mutation<StoredOfCamera, OfCamera>({
      query: (asked) => ({ url: pathOfCamera(asked), method: 'DELETE' }),
      invalidatesTags: ['Events', 'Sieve', 'Logbook'],
    }),
    deleteEvent: build.mutation<{ id: string }, string>({
      query: (id) => ({ url: `events/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Events', 'Sieve', 'Logbook'],
    }),
    storedDataOfPerson: build.query<StoredOfPerson, string>({ query: (id) => `people/${id}/stored-data`, providesTags: ['Logbook'] }),
    forgetPerson: build.mutation<StoredOfPerson, string>({
      query: (id) => ({ url: `people/${id}/stored-data`, method: 'DELETE' }),
      invalidatesTags: ['Logbook', 'Events'],
    }),
  }),
});

export const { useStoredDataQuery, useForgetPastMutation, useDeleteEventMutation, useStoredDataOfPersonQuery, useForgetPersonMutation } =
  storedDataApi;
