// Readings: what a camera's picture says at set times, and reminders by it.

export { dueBetween, instantOf, nextDue, type Times, type TimesPlace } from './times';
export { asksOfReading, isOnTarget, questionOfReading, rangeWords, valueIn, valueWords, type Value } from './value';
export { asleep, holds, remind, wantsReading, type ReminderPlace, type ReminderState } from './reminders';
