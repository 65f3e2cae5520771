// The server, as it is asked what goes out of it and what it keeps.

import type { Channels, Receiver } from '@nibber/core/site';
import { api, madeFrom } from './index';
import type { ReachAnswer, ReceiverAnswer, StorageAnswer } from './types';

export type ChannelsAnswer = {
  readonly channels: ReachAnswer[];
  readonly settings: Channels;
  readonly receivers: ReceiverAnswer[];
  readonly version: number;
};
export type MailSettings = NonNullable<Channels['mail']>;
export type TextSettings = NonNullable<Channels['text']>;
type Version = { readonly version: number };
type Secret = { readonly secret?: string | null | undefined };
/** What the other side answered. */
type Tried = { readonly accepted: boolean; readonly said: string };

const outgoingApi = api.injectEndpoints({
  endpoints: (build) => ({
    channels: build.query<ChannelsAnswer, void>({ query: () => 'channels', providesTags: ['Phones', 'Site'] }),
    setMail: build.mutation<Version, Version & Secret & { mail: MailSettings | null }>({
      query: ({ version, ...body }) => ({ url: 'channels/mail', method: 'PUT', body, headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    setText: build.mutation<Version, Version & Secret & { text: TextSettings | null }>({
      query: ({ version, ...body }) => ({ url: 'channels/text', method: 'PUT', body, headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    tryMail: build.mutation<Tried, Secret & { mail: MailSettings; to: string }>({
      query: (body) => ({ url: 'channels/mail/try', method: 'POST', body }),
    }),
    tryText: build.mutation<Tried, Secret & { text: TextSettings; to: string }>({
      query: (body) => ({ url: 'channels/text/try', method: 'POST', body }),
    }),
    addReceiver: build.mutation<Version & { id: string; secret: string | null }, Version & Secret & { receiver: Omit<Receiver, 'id'> }>({
      query: ({ version, ...body }) => ({ url: 'receivers', method: 'POST', body, headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    setReceiver: build.mutation<Version, Version & Secret & { receiver: Receiver }>({
      query: ({ version, ...body }) => ({ url: `receivers/${body.receiver.id}`, method: 'PUT', body, headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
    removeReceiver: build.mutation<Version, Version & { id: string }>({
      query: ({ version, id }) => ({ url: `receivers/${id}`, method: 'DELETE', headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Rules', 'Logbook'],
    }),
    tryReceiver: build.mutation<Tried, string>({
      query: (id) => ({ url: `receivers/${id}/try`, method: 'POST' }),
      invalidatesTags: ['Logbook'],
    }),
    storage: build.query<StorageAnswer, void>({ query: () => 'storage', providesTags: ['Site'] }),
    setRetention: build.mutation<Version, Version & { retention: StorageAnswer['retention'] }>({
      query: ({ version, retention }) => ({ url: 'retention', method: 'PUT', body: retention, headers: madeFrom(version) }),
      invalidatesTags: ['Site', 'Logbook'],
    }),
  }),
});

export const {
  useChannelsQuery,
  useSetMailMutation,
  useSetTextMutation,
  useTryMailMutation,
  useTryTextMutation,
  useAddReceiverMutation,
  useSetReceiverMutation,
  useRemoveReceiverMutation,
  useTryReceiverMutation,
  useStorageQuery,
  useSetRetentionMutation,
} = outgoingApi;
