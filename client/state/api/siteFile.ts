// The server, as the page of the site file asks it.

import { api, madeFrom } from './index';
import type { SiteProblem, SiteVersion } from './types';

type FileAnswer = { readonly text: string; readonly version: number };

const siteFileApi = api.injectEndpoints({
  endpoints: (build) => ({
    siteFile: build.query<FileAnswer, void>({ query: () => 'site/file', providesTags: ['Site', 'Rules', 'Cameras'] }),
    checkSite: build.query<{ problems: readonly SiteProblem[]; changes: readonly string[] }, { text: string; version: number }>({
      query: ({ text }) => ({ url: 'site/check', method: 'POST', body: { text } }),
      keepUnusedDataFor: 0,
    }),
    setSiteFile: build.mutation<FileAnswer, FileAnswer>({
      query: ({ text, version }) => ({ url: 'site/file', method: 'PUT', body: { text }, headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Cameras', 'Rules', 'Logbook'],
    }),
    siteVersions: build.infiniteQuery<readonly SiteVersion[], void, number | null>({
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (last) => last.at(-1)?.version },
      query: ({ pageParam }) => ({ url: 'site/versions', params: pageParam === null ? {} : { before: pageParam } }),
      providesTags: ['Site', 'Rules', 'Cameras'],
    }),
    siteVersion: build.mutation<FileAnswer, number>({ query: (version) => `site/versions/${version}` }),
  }),
});

export const { useSiteFileQuery, useCheckSiteQuery, useSetSiteFileMutation, useSiteVersionsInfiniteQuery, useSiteVersionMutation } =
  siteFileApi;
