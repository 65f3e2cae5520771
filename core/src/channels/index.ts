// The channels by which an alert reaches someone: their names alone, for code that needs nothing else of a site.

/** Channels that reach a person, in the default order in which one falls back to the next. */
export const personChannels = ['push', 'mail', 'text'] as const;
/** Channels that reach another program. */
export const receiverChannels = ['webhook', 'mqtt'] as const;
export const channelNames = [...personChannels, ...receiverChannels] as const;

export type PersonChannel = (typeof personChannels)[number];
export type Channel = (typeof channelNames)[number];

/** A channel in a sentence: *Sent by e-mail*. */
export const channelText: { readonly [C in Channel]: string } = {
  push: 'push notification',
  mail: 'e-mail',
  text: 'text message',
  webhook: 'webhook',
  mqtt: 'MQTT',
};
