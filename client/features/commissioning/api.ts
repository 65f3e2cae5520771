// The server, as commissioning asks it.

import type { CommissioningStep, StepState } from '@nibber/core/commissioning';
import { api } from '../api/api';

export type StepAnswer = { step: CommissioningStep; state: StepState; words: string };
export type Commissioned = { camera: string; name: string; isFinished: boolean; steps: StepAnswer[] };

const commissioningApi = api.injectEndpoints({
  endpoints: (build) => ({
    commissioning: build.query<{ cameras: Commissioned[] }, void>({
      query: () => 'commissioning',
      providesTags: ['Cameras', 'Rules', 'Walks'],
    }),
    commissioned: build.query<Commissioned, string>({
      query: (camera) => `cameras/${camera}/commissioning`,
      providesTags: ['Cameras', 'Rules', 'Walks'],
    }),
  }),
});

export const { useCommissioningQuery, useCommissionedQuery } = commissioningApi;
