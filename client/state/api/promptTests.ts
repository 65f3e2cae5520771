// The API of prompt tests.

import type { Prompt } from '@nibber/core/site';
import { api } from './index';
import type { PromptTestsAnswer } from './types';

export type PromptTestExample = { readonly event: string; readonly checks: readonly string[] };

const promptTestsApi = api.injectEndpoints({
  endpoints: (build) => ({
    promptTests: build.query<PromptTestsAnswer, string>({ query: (rule) => `rules/${rule}/prompt-tests`, providesTags: ['PromptTests'] }),
    setExamples: build.mutation<PromptTestsAnswer, { rule: string; examples: readonly PromptTestExample[] }>({
      query: ({ rule, ...body }) => ({ url: `rules/${rule}/prompt-tests/examples`, method: 'PUT', body }),
      invalidatesTags: ['PromptTests'],
    }),
    testPrompts: build.mutation<
      PromptTestsAnswer,
      { rule: string; promptVersions: readonly { prompt: Prompt }[]; services: readonly string[] }
    >({
      query: ({ rule, ...body }) => ({ url: `rules/${rule}/prompt-tests`, method: 'POST', body }),
      invalidatesTags: ['PromptTests'],
    }),
    stopPromptTests: build.mutation<PromptTestsAnswer, string>({
      query: (rule) => ({ url: `rules/${rule}/prompt-tests/stop`, method: 'POST' }),
      invalidatesTags: ['PromptTests'],
    }),
    deletePrompt: build.mutation<PromptTestsAnswer, { rule: string; promptVersion: string }>({
      query: ({ rule, promptVersion }) => ({ url: `rules/${rule}/prompt-tests/${promptVersion}`, method: 'DELETE' }),
      invalidatesTags: ['PromptTests'],
    }),
  }),
});

export const { usePromptTestsQuery, useSetExamplesMutation, useTestPromptsMutation, useStopPromptTestsMutation, useDeletePromptMutation } =
  promptTestsApi;
