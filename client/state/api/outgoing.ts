// The server, as it is asked what goes out of it and what it keeps.

import { api } from './index';
import type { ReachAnswer, ServiceAnswer, StorageAnswer } from './types';

const outgoingApi = api.injectEndpoints({
  endpoints: (build) => ({
    channels: build.query<ReachAnswer[], void>({ query: () => 'channels', providesTags: ['Phones'] }),
    services: build.query<ServiceAnswer[], void>({ query: () => 'services' }),
    storage: build.query<StorageAnswer, void>({ query: () => 'storage' }),
  }),
});

export const { useChannelsQuery, useServicesQuery, useStorageQuery } = outgoingApi;
