// The server, as it is asked about describing services, and about every picture that went to one.

import type { ClassName } from '@nibber/core/boxes';
import type { Asks, DescribingService, DescribingUse } from '@nibber/core/site';
import { api, madeFrom } from './index';
import type { DescribingState, DescribingTrial, SentPicture } from './types';

export type UnnamedService = Omit<DescribingService, 'id'>;
type SentPage = { readonly items: SentPicture[]; readonly more: string | null };
type Version = { readonly version: number };
type Key = { readonly key?: string | null };

const describingApi = api.injectEndpoints({
  endpoints: (build) => ({
    services: build.query<DescribingState, void>({ query: () => 'services', providesTags: ['Site'] }),
    addService: build.mutation<Version & { id: string }, Version & Key & { service: UnnamedService }>({
      query: ({ version, ...body }) => ({ url: 'services', method: 'POST', body, headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    setService: build.mutation<Version, Version & Key & { service: DescribingService }>({
      query: ({ version, ...body }) => ({ url: `services/${body.service.id}`, method: 'PUT', body, headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    removeService: build.mutation<Version, Version & { id: string }>({
      query: ({ version, id }) => ({ url: `services/${id}`, method: 'DELETE', headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    orderServices: build.mutation<Version, Version & { use: DescribingUse; services: readonly string[] | null }>({
      query: ({ version, ...body }) => ({ url: 'services/order', method: 'PUT', body, headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    askOfClass: build.mutation<Version, Version & { class: ClassName; asks: Asks | null }>({
      query: ({ version, ...body }) => ({ url: 'services/asks', method: 'PUT', body, headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    tryService: build.mutation<DescribingTrial, Key & { service: UnnamedService; id?: string }>({
      query: (body) => ({ url: 'services/try', method: 'POST', body }),
      invalidatesTags: ['Logbook'],
    }),
    sentPictures: build.infiniteQuery<SentPage, void, string | null>({
      query: ({ pageParam }) => ({ url: 'services/sent', params: pageParam === null ? {} : { before: pageParam } }),
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (last) => last.more ?? undefined },
    }),
  }),
});

export const { useServicesQuery, useAddServiceMutation, useSetServiceMutation, useRemoveServiceMutation, useOrderServicesMutation, useAskOfClassMutation, useTryServiceMutation, useSentPicturesInfiniteQuery } = describingApi; // prettier-ignore
