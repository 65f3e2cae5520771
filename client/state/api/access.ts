// The server, as it is asked who may come in.

import type { Role } from '@nibber/core/site';
import { api } from './index';
import type { SessionAnswer } from './types';

const accessApi = api.injectEndpoints({
  endpoints: (build) => ({
    sessions: build.query<SessionAnswer[], void>({ query: () => 'sessions', providesTags: ['SignIns'] }),
    endSession: build.mutation<{ id: string }, string>({
      query: (id) => ({ url: `sessions/${id}`, method: 'DELETE' }),
      invalidatesTags: ['SignIns', 'Logbook'],
    }),
    makeToken: build.mutation<{ token: string }, { name: string; role: Role; days: number }>({
      query: (body) => ({ url: 'tokens', method: 'POST', body }),
      invalidatesTags: ['SignIns', 'Logbook'],
    }),
    changePassword: build.mutation<{ changed: true }, { present: string; next: string }>({
      query: (body) => ({ url: 'password', method: 'PUT', body }),
      invalidatesTags: ['SignIns', 'Logbook'],
    }),
  }),
});

export const { useSessionsQuery, useEndSessionMutation, useMakeTokenMutation, useChangePasswordMutation } = accessApi;
