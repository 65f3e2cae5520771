// The record, as it is asked.

import type { Query } from '@nibber/core/asking';
import { api } from './index';
import type { RecordAnswer } from './types';

/** A question in words, or one that was put right by hand. */
export type Asking = { readonly question: string; readonly before?: Query } | { readonly query: Query };

const askApi = api.injectEndpoints({
  endpoints: (build) => ({
    ask: build.query<RecordAnswer, Asking>({ query: (body) => ({ url: 'ask', method: 'POST', body }) }),
  }),
});

export const { useAskQuery } = askApi;
