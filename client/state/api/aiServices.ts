// The server, as it is asked about AI services, and about every picture that went to one.

import type { ClassName } from '@nibber/core/boxes';
import type { Prompt, AiService, AiUse } from '@nibber/core/site';
import { api, madeFrom } from './index';
import type { AiState, AiTrial, SentPicture } from './types';

export type UnnamedService = Omit<AiService, 'id'>;
type SentPage = { readonly items: SentPicture[]; readonly more: string | null };
type Version = { readonly version: number };
type Key = { readonly key?: string | null };

const describingApi = api.injectEndpoints({
  endpoints: (build) => ({
    services: build.query<AiState, void>({ query: () => 'ai-services', providesTags: ['Site'] }),
    addService: build.mutation<Version & { id: string }, Version & Key & { service: UnnamedService }>({
      query: ({ version, ...body }) => ({ url: 'ai-services', method: 'POST', body, headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    setService: build.mutation<Version, Version & Key & { service: AiService }>({
      query: ({ version, ...body }) => ({ url: `ai-services/${body.service.id}`, method: 'PUT', body, headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    removeService: build.mutation<Version, Version & { id: string }>({
      query: ({ version, id }) => ({ url: `ai-services/${id}`, method: 'DELETE', headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    orderServices: build.mutation<Version, Version & { use: AiUse; services: readonly string[] | null }>({
      query: ({ version, ...body }) => ({ url: 'ai-services/order', method: 'PUT', body, headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    setClassPrompt: build.mutation<Version, Version & { class: ClassName; prompt: Prompt | null }>({
      query: ({ version, ...body }) => ({ url: 'ai-services/prompts', method: 'PUT', body, headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    tryService: build.mutation<AiTrial, Key & { service: UnnamedService; id?: string }>({
      query: (body) => ({ url: 'ai-services/try', method: 'POST', body }),
      invalidatesTags: ['Logbook'],
    }),
    sentPictures: build.infiniteQuery<SentPage, void, string | null>({
      query: ({ pageParam }) => ({ url: 'ai-services/sent', params: pageParam === null ? {} : { before: pageParam } }),
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (last) => last.more ?? undefined },
    }),
  }),
});

export const {
  useServicesQuery,
  useAddServiceMutation,
  useSetServiceMutation,
  useRemoveServiceMutation,
  useOrderServicesMutation,
  useSetClassPromptMutation,
  useTryServiceMutation,
  useSentPicturesInfiniteQuery,
} = describingApi;
