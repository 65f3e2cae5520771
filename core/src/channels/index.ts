// The channels by which an alert reaches someone: names alone, for whoever needs no more of a site than these.

/** Channels that reach a person, in the order in which one hands over to the next where they say no other. */
export const personChannels = ['push', 'mail', 'text'] as const;
/** Channels that reach another program. */
export const receiverChannels = ['webhook', 'mqtt'] as const;
export const channelNames = [...personChannels, ...receiverChannels] as const;

export type PersonChannel = (typeof personChannels)[number];
export type Channel = (typeof channelNames)[number];
