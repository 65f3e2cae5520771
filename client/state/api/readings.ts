// The server, as it is asked about readings and reminders.

import type { Reading, Reminder } from '@nibber/core/site';
import { api, madeFrom } from './index';
import type { ReadingAnswer, ReminderAnswer, ReadingValue } from './types';

export type ReadingsAnswer = { readonly readings: ReadingAnswer[]; readonly reminders: ReminderAnswer[]; readonly version: number };
export type UnnamedReading = Omit<Reading, 'id'>;
export type UnnamedReminder = Omit<Reminder, 'id'>;
type Version = { readonly version: number };

const readingsApi = api.injectEndpoints({
  endpoints: (build) => ({
    readings: build.query<ReadingsAnswer, void>({ query: () => 'readings', providesTags: ['Site', 'Readings'] }),
    readingValues: build.query<ReadingValue[], { reading: string; since: number }>({
      query: ({ reading, since }) => ({ url: `readings/${reading}/values`, params: { since: String(since) } }),
      providesTags: ['Readings'],
    }),
    takeReading: build.mutation<ReadingValue, string>({
      query: (id) => ({ url: `readings/${id}/take`, method: 'POST' }),
      invalidatesTags: ['Readings'],
    }),
    correctValue: build.mutation<ReadingValue, { id: string; corrected: ReadingValue['corrected'] }>({
      query: ({ id, ...body }) => ({ url: `reading-values/${id}`, method: 'PUT', body }),
      invalidatesTags: ['Readings'],
    }),
    addReading: build.mutation<Version & { id: string }, Version & { reading: UnnamedReading }>({
      query: ({ version, ...body }) => ({ url: 'readings', method: 'POST', body, headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    setReading: build.mutation<Version, Version & { reading: Reading }>({
      query: ({ version, ...body }) => ({ url: `readings/${body.reading.id}`, method: 'PUT', body, headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    removeReading: build.mutation<Version, Version & { id: string }>({
      query: ({ version, id }) => ({ url: `readings/${id}`, method: 'DELETE', headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    addReminder: build.mutation<Version & { id: string }, Version & { reminder: UnnamedReminder }>({
      query: ({ version, ...body }) => ({ url: 'reminders', method: 'POST', body, headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    setReminder: build.mutation<Version, Version & { reminder: Reminder }>({
      query: ({ version, ...body }) => ({ url: `reminders/${body.reminder.id}`, method: 'PUT', body, headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    removeReminder: build.mutation<Version, Version & { id: string }>({
      query: ({ version, id }) => ({ url: `reminders/${id}`, method: 'DELETE', headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
  }),
});

export const {
  useReadingsQuery,
  useReadingValuesQuery,
  useTakeReadingMutation,
  useCorrectValueMutation,
  useAddReadingMutation,
  useSetReadingMutation,
  useRemoveReadingMutation,
  useAddReminderMutation,
  useSetReminderMutation,
  useRemoveReminderMutation,
} = readingsApi;
