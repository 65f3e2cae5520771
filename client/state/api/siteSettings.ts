// The server, as the pages of the site ask it.

import type { TemplateKind } from '@nibber/core/templates';
import type { SiteFile } from '@nibber/core/site';
import { api, madeFrom } from './index';

type Answer = { readonly version: number };
/** With the version that it was made from. */
type From<T> = T & { readonly version: number };

const siteSettingsApi = api.injectEndpoints({
  endpoints: (build) => {
    const put = <T extends object>(url: string) =>
      build.mutation<Answer, From<T>>({
        query: ({ version, ...body }) => ({ url, method: 'PUT', body, headers: madeFrom(version) }),
        invalidatesTags: ['Site', 'Rules', 'Cameras', 'Logbook'],
      });
    return {
      setSiteSettings: put<SiteFile['site']>('site/settings'),
      replaceAreas: put<{ areas: SiteFile['areas'] }>('areas'),
      setKnown: put<{ known: NonNullable<SiteFile['known']> }>('known'),
      setModeSchedules: put<{ modeSchedules: NonNullable<SiteFile['modeSchedules']> }>('mode-schedules'),
      begin: build.mutation<Answer, From<{ kind: TemplateKind }>>({
        query: ({ version, ...body }) => ({ url: 'site/template', method: 'POST', body, headers: madeFrom(version) }),
        invalidatesTags: ['Site', 'Logbook'],
      }),
      saveAsKnown: build.mutation<Answer & { readonly id: string }, { name: string; event: string; plate?: string }>({
        query: (body) => ({ url: 'known', method: 'POST', body }),
        invalidatesTags: ['Site', 'Logbook'],
      }),
    };
  },
});

export const {
  useSetSiteSettingsMutation,
  useReplaceAreasMutation,
  useSetKnownMutation,
  useSetModeSchedulesMutation,
  useBeginMutation,
  useSaveAsKnownMutation,
} = siteSettingsApi;
