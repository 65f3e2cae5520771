// A question put to the record in plain words: what is asked for, of what, where and when. Nothing is guessed that is not said back.

export * from './understand';
export type { AskedSpan } from './spans';
export { answerOf, answerOfReadings, type Found, type FoundRead } from './answers';
