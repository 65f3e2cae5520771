// The server, as the plan asks it.

import type { PlanFile } from '@nibber/core/site';
import type { Standing } from '../plan';
import { api, madeFrom } from './index';

const planApi = api.injectEndpoints({
  endpoints: (build) => ({
    plan: build.query<{ plan: PlanFile | null; version: number }, void>({ query: () => 'plan', providesTags: ['Site', 'Cameras'] }),
    setPlan: build.mutation<{ plan: PlanFile | null }, { plan: PlanFile; places: readonly Standing[]; version: number }>({
      query: ({ version, ...body }) => ({ url: 'plan', method: 'PUT', body, headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Cameras', 'Logbook'],
    }),
    planPicture: build.mutation<{ picture: string; width: number; height: number }, Blob>({
      query: (body) => ({ url: 'plan/picture', method: 'POST', body, headers: { 'content-type': body.type || 'image/jpeg' } }),
    }),
  }),
});

export const { usePlanQuery, useSetPlanMutation, usePlanPictureMutation } = planApi;
