// How the parts of a question are called.

import type { Query, Wanted } from '@nibber/core/asking';
import type { GlyphName } from '../../ui/Glyph';

export const wantedWords: Readonly<Record<Wanted, string>> = {
  last: 'Most recent',
  first: 'First',
  count: 'How many',
  whether: 'Yes or no',
  which: 'Which',
};

export const kinds: readonly { readonly value: string; readonly words: string; readonly glyph?: GlyphName }[] = [
  { value: 'person', words: 'person', glyph: 'person' },
  { value: 'vehicle', words: 'vehicle', glyph: 'vehicle' },
  { value: 'pet', words: 'pet', glyph: 'pet' },
  { value: 'car', words: 'car' },
  { value: 'truck', words: 'truck' },
  { value: 'bicycle', words: 'bicycle' },
  { value: 'dog', words: 'dog' },
  { value: 'cat', words: 'cat' },
  { value: 'parcel', words: 'parcel' },
];

/** The lists of a question whose parts can each be taken away. */
export const lists = ['readings', 'kinds', 'words', 'cameras', 'areas', 'sensors', 'rules'] as const satisfies readonly (keyof Query)[];

/** What is written on the screens of this feature. */
export const texts = {
  askAboutPastEvents: 'Ask about past events',
  followUpQuestion: 'Follow-up question',
  question: 'Question',
  andYesterday: 'And yesterday?',
  whenWasSomeoneLastAt: 'When was someone last at the gate?',
  ask: 'Ask',
  startAgain: 'Start again',
  searching: 'Searching…',
  theDoor: 'the door',
  whenWasSomeoneLastAt2: (first: string | number) => `When was someone last at ${first}?`,
  howManyVehiclesCameYesterday: 'How many vehicles came yesterday?',
  wasAnyoneAtLastNight: (last: string | number) => `Was anyone at ${last} last night?`,
  askAboutPeopleVehiclesAnimals:
    'Ask about people, vehicles, animals or parcels: where, when, and what they looked like. A colour, a plate or something they carried can help.',
  nothingWasSentToAn: 'Nothing was sent to an AI service.',
  theTextOfTheQuestion: (by: string | number, why: string | number) =>
    `The text of the question went to ${by}, which could not help: ${why} Nibber interpreted the question itself.`,
  andBelowAsText: (count: string | number) => ` and ${count} below, as text,`,
  theTextOfTheQuestion2: (rows: string | number, by: string | number) =>
    `The text of the question${rows} went to ${by}. No picture was sent.`,
  correctIt: 'Correct it',
  answeredFromStoredEventsOf: (count: string | number, leftWords: string | number) =>
    `Answered from stored events of ${count}. ${leftWords}`,
  basedOn: 'Based on',
  correctTheQuestion: 'Correct the question',
  on: (day: string | number) => `on ${day}`,
  lookingFor: 'Looking for',
  what: 'What',
  where: 'Where',
  when: 'When',
  day: 'Day',
  askAgain: 'Ask again',
  understoodAllTypes: (what: string | number) => `Understood: ${what}, all types`,
  without: (words: string | number) => `Without ${words}`,
  theEvent: 'the event',
  theEvents: (count: string | number) => `the ${count} events`,
  cameras: (count: string | number) => `${count} cameras`,
  theOf: (wanted: string | number, shown: string | number, count: string | number) => `The ${wanted} ${shown} of ${count}`,
  now: (words: string | number) => `Now ${words}.`,
  understoodOf: (value: string | number) => `Understood: ${value}, of`,
} as const;
