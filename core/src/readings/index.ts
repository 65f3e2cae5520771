// Readings: what a camera's picture says at set times, and reminders by it.

export { dueBetween, instantOf, nextDue, type Times, type ReadingSite } from './times';
export { promptOfReading, isOnTarget, questionOfReading, rangeWords, valueIn, valueWords, type Value } from './value';
export { asleep, holds, remind, wantsReading, type ReminderSite, type ReminderState } from './reminders';
