// The server, as it is asked who may come in.

import type { Role } from '@nibber/core/site';
import { api } from './index';
import type { SignInAnswer } from './types';

const accessApi = api.injectEndpoints({
  endpoints: (build) => ({
    signIns: build.query<SignInAnswer[], void>({ query: () => 'sign-ins', providesTags: ['SignIns'] }),
    endSignIn: build.mutation<{ id: string }, string>({
      query: (id) => ({ url: `sign-ins/${id}`, method: 'DELETE' }),
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

export const { useSignInsQuery, useEndSignInMutation, useMakeTokenMutation, useChangePasswordMutation } = accessApi;
