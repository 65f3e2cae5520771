// The server, as commissioning asks it.

import { api } from '.';
import type { Commissioned } from './types';

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
