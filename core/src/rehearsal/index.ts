// Rehearsal: changed settings over what was recorded, run through the very sieve that runs live. What would be kept, gained and lost.

export * from './rehearse';
export { startFollowing, type Followed, type Following } from './followed';
export { judge, judged, type Notified, type RehearsedEvent, type Stop } from './judge';
export type { ChangedItem, DayAlerts, RehearsalLine, RehearsalResult } from './week';
export { eventKey, eventsIn } from './recorded';
export { quieter, type Effect, type Mark, type Progress, type Proposal, type QuieterResult } from './quieter';
