// AI services in words.

import { numberText } from '@nibber/core/words';
import type { ClassName } from '@nibber/core/boxes';
import type { Prompt, AiUse } from '@nibber/core/site';
import type { ServiceState } from '../../state/api/types';
import type { Filled } from '../../ui/texts';

export const useWords: { readonly [U in AiUse]: { readonly name: string; readonly says: string } } = {
  descriptions: { name: 'Descriptions', says: 'descriptions added to alerts' },
  questions: { name: 'Questions', says: 'whether an alert goes out' },
  readings: { name: 'Readings', says: 'values read from pictures at set times' },
  asking: { name: 'Questions about past events', says: 'text only, no pictures; Nibber itself if none is chosen' },
};

/** Of what something may be asked once for all rules. */
export const classWords: { readonly [C in ClassName]?: string } = {
  person: 'Every person',
  vehicle: 'Every vehicle',
  pet: 'Every animal',
  parcel: 'Every parcel',
};

/** What is asked, in short: *a sentence; colour, plate*. */
export function promptWords({ sentence, fields = [] }: Prompt): string {
  const named = fields.map((f) => f.name).join(', ');
  return [...(sentence === false && named ? [] : ['a sentence']), ...(named ? [named] : [])].join('; ');
}

export const secondsWords = (seconds: number): string => `${numberText(seconds, seconds < 10 ? 1 : 0)} s`;

/** *€0.42*; what is less than a hundredth is shown as it is. */
export function moneyWords(amount: number, currency: string | null | undefined): string {
  if (amount > 0 && amount < 0.00005) return `under ${moneyWords(0.0001, currency)}`;
  const digits = amount !== 0 && amount < 0.1 ? 4 : 2;
  return currency
    ? new Intl.NumberFormat('en-GB', { style: 'currency', currency, minimumFractionDigits: digits, maximumFractionDigits: digits }).format(
        amount,
      )
    : numberText(amount, digits);
}

/** *In the last day 12 questions were sent, 1 of them came to nothing; an answer took 2.1 s, the slowest 9.4 s*. */
export function recentWords({ sent, failed, medianSeconds, worstSeconds }: ServiceState['recentFrames']): string {
  if (sent === 0) return 'Not used in the last 24 hours.';
  const went = `Used ${sent === 1 ? 'once' : `${sent} times`} in the last 24 hours`;
  const lost = failed === 0 ? '' : `, ${failed} failed`;
  const took =
    medianSeconds === null || worstSeconds === null
      ? ''
      : `; typical answer ${secondsWords(medianSeconds)}, slowest ${secondsWords(worstSeconds)}`;
  return `${went}${lost}${took}.`;
}

/** *Today 12 answers, €0.42, of 200 answers and €1.00.* */
export function todayWords({ today, service: { price, aDay } }: ServiceState): string {
  const spent = `Today ${today.answers === 1 ? 'one answer' : `${today.answers} answers`}${price ? `, ${moneyWords(today.cost, price.currency)}` : ''}`;
  const max = [
    ...(aDay?.answers === undefined ? [] : [`${aDay.answers} answers`]),
    ...(aDay?.money === undefined ? [] : [moneyWords(aDay.money, price?.currency)]),
  ];
  return `${spent}${max.length ? `, of ${max.join(' and ')}` : ''}.`;
}

/** What is written on the screens of this feature. */
export const texts = {
  fieldsSaved: (of: Filled) => `${of}: fields saved.`,
  usedWhenARuleHas: 'Used when a rule has a description but no fields.',
  orderSaved: (name: string | number) => `${name}: order saved.`,
  theFirstIsUsedIf: 'The first is used. If it fails or reaches its daily limit, the next takes over.',
  wholeNumber: 'whole number',
  required: 'Required.',
  anAddressThatBeginsWith: 'An address that begins with https.',
  threeLettersSuchAsEur: 'Three letters, such as EUR.',
  enterThePricesAboveToo: 'Enter the prices above too.',
  aiService: 'AI service',
  anyServiceWithAChat: 'Any service with a chat-completions API, hosted or your own.',
  name: 'Name',
  address: 'Address',
  withoutChatCompletionsAtThe: 'Without /chat/completions at the end.',
  model: 'Model',
  key: 'Key',
  leaveEmptyToKeepThe: 'Leave empty to keep the saved one. A new host needs it again.',
  sentOnlyToThisService: 'Sent only to this service.',
  headersOnePerLine: 'Headers, one per line',
  keyIsReplacedByThe: '{key} is replaced by the key.',
  timeoutSeconds: 'Timeout, seconds',
  n20IfEmpty: '20 if empty.',
  parallelRequests: 'Parallel requests',
  n4IfEmpty: '4 if empty.',
  priceOf1000Tokens: 'Price of 1,000 tokens',
  sent: 'Sent',
  answered: 'Answered',
  currency: 'Currency',
  dailyLimit: 'Daily limit',
  answers: 'Answers',
  money: 'Money',
  atTheLimitTheNext: 'At the limit, the next service takes over until midnight.',
  testing: 'Testing…',
  tryIt: 'Try it',
  wasRemoved: (name: string | number) => `${name} was removed.`,
  reachable: 'Reachable',
  login: 'Login',
  picture: 'Picture',
  shape: 'Shape',
  itTookItWasTested: (secondsWords: string | number, more: string | number) =>
    `It took ${secondsWords}${more}. It was tested with a drawn picture, not with one of yours.`,
  earlier: (name: string | number) => `${name}: earlier`,
  later: (name: string | number) => `${name}: later`,
  aFromTo: (wholeNumber: string | number, min: string | number, max: string | number) => `A ${wholeNumber} from ${min} to ${max}.`,
  saved: (name: string | number) => `${name} saved.`,
  andCost: (money: string | number) => ` and cost ${money}`,
} as const;
