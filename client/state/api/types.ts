// What the server answers, as its description says (openapi.d.ts is made from it: npm run types).

import type { components } from './openapi';

type Schemas = components['schemas'];

export type Session = Schemas['Session'];
export type Site = Schemas['Site'];
export type AreaMode = Schemas['AreaMode'];
/** `unseenMs`: for how long it has not been seen; its box is where it should be. */
export type SeenTrack = Schemas['SeenTrack'];
export type CameraAnswer = Schemas['Camera'];
export type CameraHealth = Schemas['CameraHealth'];
export type EventItem = Extract<Schemas['ListItem'], { kind: 'event' }>;
export type TrackItem = Extract<Schemas['ListItem'], { kind: 'track' }>;
export type ListItem = EventItem | TrackItem;
export type Moment = Schemas['Moment'];
export type TrailAnswer = Schemas['Trail'];
export type AlertAnswer = Schemas['Alert'];
export type Mark = NonNullable<EventItem['mark']>;
export type SieveOfADay = Schemas['SieveOfADay'];
export type SignInAnswer = Schemas['SignIn'];
export type Phone = Schemas['Phone'];
export type Invitation = Schemas['Invitation'];
export type Someone = Schemas['Someone'];
export type Me = Schemas['Me'];
export type WhyAnswer = Schemas['Why'];
export type WhyFound = Schemas['WhyFound'];
export type ReceiverAnswer = Schemas['Receiver'];
export type LogEntry = Schemas['LogEntry'];
export type LiveMessage = Schemas['LiveMessage'];
export type SiteFault = Schemas['SiteFault'];
export type SiteVersion = Schemas['SiteVersion'];
export type Arming = Schemas['Arming'];
export type ModeWarning = Schemas['ModeWarning'];
export type PlannedSwitch = Schemas['PlannedSwitch'];
export type HoursNow = Schemas['HoursNow'];
export type CalendarRead = Schemas['CalendarRead'];
export type Commissioned = Schemas['Commissioned'];
export type SearchAnswer = Schemas['Search'];
export type Found = SearchAnswer['found'][number];
export type AttemptAnswer = Schemas['Attempt'];
export type ChannelAnswer = AttemptAnswer['channels'][number];
export type ReachAnswer = Schemas['Channel'];
export type ServiceAnswer = Schemas['Service'];
export type StorageAnswer = Schemas['Storage'];
export type PairingAnswer = Schemas['Pairing'];
export type DeliveryAnswer = PairingAnswer['deliveries'][number];
export type Reports = Schemas['Reports'];
export type ChainAnswer = Schemas['Chain'];
export type WalkNow = Schemas['WalkNow'];
export type ItemNow = WalkNow['items'][number];
export type WalkKept = Schemas['WalkKept'];
export type ItemKept = WalkKept['items'][number];
export type LatelyEntry = Schemas['LatelyEntry'];
export type ServerTrouble = Schemas['Error']['error'];
export type StepName = AttemptAnswer['steps'][number]['step'];
export type AttemptStep = AttemptAnswer['steps'][number];
export type CommissioningAnswer = Commissioned['steps'][number];
