// The server, as schedules ask it.

import type { Schedule } from '@nibber/core/site';
import { api, madeFrom } from './index';
import type { CalendarRead, ScheduleNow } from './types';

export type CalendarFile = {
  readonly text: string;
  readonly calendar: string;
  readonly meaning: 'closed' | 'open';
} & Pick<Schedule, 'weekly' | 'exceptions'>;

const schedulesApi = api.injectEndpoints({
  endpoints: (build) => ({
    schedules: build.query<{ schedules: readonly ScheduleNow[]; version: number; now: number }, void>({
      query: () => 'schedules',
      providesTags: ['Site', 'Rules'],
    }),
    setSchedule: build.mutation<{ id: string }, { plan: Schedule; version: number }>({
      query: ({ plan, version }) => ({ url: `schedules/${plan.id}`, method: 'PUT', body: plan, headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    /** Answers with the version by which it is put back. */
    removeSchedule: build.mutation<{ id: string; version: number }, { id: string; version: number }>({
      query: ({ id, version }) => ({ url: `schedules/${id}`, method: 'DELETE', headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    readCalendar: build.mutation<CalendarRead, CalendarFile>({
      query: (body) => ({ url: 'calendars', method: 'POST', body, timeout: 30_000 }),
    }),
  }),
});

export const { useSchedulesQuery, useSetScheduleMutation, useRemoveScheduleMutation, useReadCalendarMutation } = schedulesApi;
