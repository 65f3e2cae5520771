// Channels in words.

import type { Channel } from '@nibber/core/channels';

export const channelNamesOf: { readonly [C in Channel]: string } = {
  push: 'Notification',
  mail: 'Mail',
  text: 'Text message',
  webhook: 'Webhook',
  mqtt: 'MQTT',
};
