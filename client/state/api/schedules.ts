// The server, as plans of hours ask it.

import type { Hours } from '@nibber/core/site';
import { api, madeFrom } from './index';
import type { CalendarRead, HoursNow } from './types';

export type CalendarFile = {
  readonly text: string;
  readonly calendar: string;
  readonly meaning: 'closed' | 'open';
} & Pick<Hours, 'weekly' | 'exceptions'>;

const hoursApi = api.injectEndpoints({
  endpoints: (build) => ({
    hours: build.query<{ hours: readonly HoursNow[]; version: number; now: number }, void>({
      query: () => 'hours',
      providesTags: ['Site', 'Rules'],
    }),
    setHours: build.mutation<{ id: string }, { plan: Hours; version: number }>({
      query: ({ plan, version }) => ({ url: `hours/${plan.id}`, method: 'PUT', body: plan, headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    /** Answers with the version by which it is put back. */
    removeHours: build.mutation<{ id: string; version: number }, { id: string; version: number }>({
      query: ({ id, version }) => ({ url: `hours/${id}`, method: 'DELETE', headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    readCalendar: build.mutation<CalendarRead, CalendarFile>({
      query: (body) => ({ url: 'calendars', method: 'POST', body, timeout: 30_000 }),
    }),
  }),
});

export const { useHoursQuery, useSetHoursMutation, useRemoveHoursMutation, useReadCalendarMutation } = hoursApi;
