// Odd days from a calendar file (iCalendar, RFC 5545): each becomes an exception of a weekly plan.

export * from './read';
export { withCalendar, type Read, type SetException } from './read-again';
