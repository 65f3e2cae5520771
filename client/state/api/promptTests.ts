// The server, as it is asked about wordings that are tried.

import type { Asks } from '@nibber/core/site';
import { api } from './index';
import type { TriesAnswer } from './types';

export type TryExample = { readonly event: string; readonly checks: readonly string[] };

const triesApi = api.injectEndpoints({
  endpoints: (build) => ({
    tries: build.query<TriesAnswer, string>({ query: (rule) => `rules/${rule}/tries`, providesTags: ['Tries'] }),
    setExamples: build.mutation<TriesAnswer, { rule: string; examples: readonly TryExample[] }>({
      query: ({ rule, ...body }) => ({ url: `rules/${rule}/tries/examples`, method: 'PUT', body }),
      invalidatesTags: ['Tries'],
    }),
    tryWordings: build.mutation<TriesAnswer, { rule: string; wordings: readonly { asks: Asks }[]; services: readonly string[] }>({
      query: ({ rule, ...body }) => ({ url: `rules/${rule}/tries`, method: 'POST', body }),
      invalidatesTags: ['Tries'],
    }),
    stopTries: build.mutation<TriesAnswer, string>({ query: (rule) => ({ url: `rules/${rule}/tries/stop`, method: 'POST' }), invalidatesTags: ['Tries'] }), // prettier-ignore
    dropWording: build.mutation<TriesAnswer, { rule: string; wording: string }>({
      query: ({ rule, wording }) => ({ url: `rules/${rule}/tries/${wording}`, method: 'DELETE' }),
      invalidatesTags: ['Tries'],
    }),
  }),
});

export const { useTriesQuery, useSetExamplesMutation, useTryWordingsMutation, useStopTriesMutation, useDropWordingMutation } = triesApi;
