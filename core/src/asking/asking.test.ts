import { DateTime } from 'luxon';
import { answerOf, answerOfReadings, emptyQuery, understand, type AskedSite, type Query } from '.';

const place: AskedSite = {
  zone: 'Europe/London',
  cameras: [
    { id: 'gate', name: 'Lane gate' },
    { id: 'yard', name: 'Yard' },
    { id: 'racks', name: 'Racks' },
    { id: 'jetty', name: 'Jetty' },
    { id: 'workshop', name: 'Workshop' },
    { id: 'porch', name: 'Cottage porch' },
  ],
  areas: [{ id: 'landing', name: 'Landing' }],
  rules: [{ id: 'comes-in', name: 'Somebody comes in' }],
  sensors: [{ id: 'door', name: 'Workshop door' }],
};
const local = (iso: string, zone = 'Europe/London') => DateTime.fromISO(iso, { zone }).toMillis();

/** `last dog @jetty "red" 2026-06-02T00:00..2026-06-03T00:00`: what was understood, in one line. */
function line({ wanted, kinds, cameras, areas, sensors, rules, words, span }: Query, zone = 'Europe/London'): string {
  const at = [...cameras, ...areas, ...sensors, ...rules].map((id) => ` @${id}`).join('');
  const wall = (ms: number | null) => (ms === null ? '' : DateTime.fromMillis(ms, { zone }).toFormat("MM-dd'T'HH:mm"));
  return `${wanted} ${kinds.join(',') || '-'}${at}${words.map((w) => ` "${w}"`).join('')}${span ? ` ${wall(span.from)}..${wall(span.to)}` : ''}`;
}

// A Wednesday in June, 13:00 by the clock on the wall. Invented questions; what each means is read off a calendar by hand.
const wednesday = local('2026-06-03T13:00');
const questions = `
when was the dog last at the jetty? = last dog @jetty
When did the cat last come to the porch? = last cat @porch
when was somebody last in the workshop = last person @workshop
when was the last time a car came to the lane gate = last car @gate
what time did the van come yesterday = last vehicle "van" 06-02T00:00..06-03T00:00
when did somebody first come to the racks today? = first person @racks 06-03T00:00..06-04T00:00
when was the first vehicle seen this morning? = first vehicle 06-03T05:00..06-03T12:00
who was the first at the yard on Monday = first person @yard 06-01T00:00..06-02T00:00
how many vans came yesterday? = count vehicle "van" 06-02T00:00..06-03T00:00
how many people were at the lane gate last week = count person @gate 05-25T00:00..06-01T00:00
how many dogs this week = count dog 06-01T00:00..
how often was the door of the workshop open = count - @workshop "door"
how often did the workshop door open today = count - @door 06-03T00:00..06-04T00:00
how many cyclists on Sunday = count bicycle 05-31T00:00..06-01T00:00
number of cars at the gate last month = count car @gate 05-01T00:00..06-01T00:00
how many parcels since Monday = count parcel 06-01T00:00..
did the trailer go out again? = whether - "trailer"
did a parcel come? = whether parcel
has a delivery come today? = whether parcel 06-03T00:00..06-04T00:00
was anybody in the workshop after 18:00 on Thursday? = whether person @workshop 05-28T18:00..05-29T00:00
was anyone at the racks last night = whether person @racks 06-02T21:00..06-03T06:00
were there any people on the landing on Tuesday? = whether person @landing 06-02T00:00..06-03T00:00
is anybody at the jetty = whether person @jetty
any parcel since Sunday? = whether parcel 05-31T00:00..
any dogs at the yard in the last 2 hours = whether dog @yard 06-03T11:00..
has anything moved at the racks since yesterday = whether - @racks 06-02T00:00..
have any lorries been this week? = whether truck 06-01T00:00..
did anybody ring at the cottage porch between 10 and 12 = whether person @porch 06-03T10:00..06-03T12:00
did somebody cross the yard overnight? = whether person @yard 06-02T21:00..06-03T06:00
was AB12 here last night = whether - "ab12" 06-02T21:00..06-03T06:00
who is AB12CD? = which person "ab12cd"
plate AB?2? = which - "ab?2?"
was ?K21 here yesterday? = whether - "?k21" 06-02T00:00..06-03T00:00
plate AB?2? on Monday? = which - "ab?2?" 06-01T00:00..06-02T00:00
was the plate ?K21 seen = whether - "?k21"
who was at the gate this morning? = which person @gate 06-03T05:00..06-03T12:00
who came yesterday evening = which person 06-02T18:00..06-02T23:00
who came by after 20:00 yesterday = which person 06-02T20:00..06-03T00:00
show me cyclists at the weekend = which bicycle 05-30T00:00..06-01T00:00
show vehicles = which vehicle
list cats at the porch = which cat @porch
find a person in a red top = which person "red" "top"
which cars were at the gate on 1 June = which car @gate 06-01T00:00..06-02T00:00
what was at the racks on 30 May at night = which - @racks 05-30T21:00..05-31T06:00
what happened at the jetty on Monday afternoon = which - @jetty 06-01T12:00..06-01T18:00
a red car on 1 June between 10 and 12 = which car "red" 06-01T10:00..06-01T12:00
white van = which vehicle "white" "van"
gray lorry at the lane gate = which truck @gate "grey"
blue kayaks at the racks = which - @racks "blue" "kayak"
people with bags at the yard = which person @yard "bag"
somebody carrying a ladder = which person "ladder"
a man with a hat = which person "man" "hat"
women at the jetty = which person @jetty "woman"
children near the jetty on Sunday = which person @jetty "child" 05-31T00:00..06-01T00:00
geese in the yard = which other-animal @yard "goose"
a fox last night = which other-animal "fox" 06-02T21:00..06-03T06:00
vehicles before 9am = which vehicle 06-03T00:00..06-03T09:00
vehicles until noon = which vehicle 06-03T00:00..06-03T12:00
vehicles after 3pm = which vehicle 06-02T15:00..06-03T00:00
people at 10:30 = which person 06-03T10:15..06-03T10:45
people around 18:00 = which person 06-02T17:45..06-02T18:15
people around noon yesterday = which person 06-02T11:45..06-02T12:15
dogs since 8:00 = which dog 06-03T08:00..
dogs since noon = which dog 06-03T12:00..
dogs since midnight = which dog 06-03T00:00..
dogs since yesterday 18:00 = which dog 06-02T18:00..
dogs before yesterday = which dog ..06-02T00:00
dogs before Sunday = which dog ..05-31T00:00
dogs until 1 May = which dog ..05-01T00:00
cars today = which car 06-03T00:00..06-04T00:00
cars tonight = which car 06-03T21:00..06-04T06:00
cars the day before yesterday = which car 06-01T00:00..06-02T00:00
cars on Wednesday = which car 06-03T00:00..06-04T00:00
cars last Wednesday = which car 05-27T00:00..05-28T00:00
cars last Monday = which car 06-01T00:00..06-02T00:00
cars on mon = which car 06-01T00:00..06-02T00:00
cars on Tues = which car 06-02T00:00..06-03T00:00
cars on Thurs = which car 05-28T00:00..05-29T00:00
cars on fri = which car 05-29T00:00..05-30T00:00
cars on Saturday morning = which car 05-30T05:00..05-30T12:00
cars on Saturday between 9:30 and 10:15 = which car 05-30T09:30..05-30T10:15
cars on 2026-05-20 = which car 05-20T00:00..05-21T00:00
cars on 2026-05-20 at noon = which car 05-20T11:45..05-20T12:15
cars on the 20th of May = which car 05-20T00:00..05-21T00:00
cars on May 20 = which car 05-20T00:00..05-21T00:00
cars on May 20th 2026 = which car 05-20T00:00..05-21T00:00
cars on 20 May 2026 after 17:30 = which car 05-20T17:30..05-21T00:00
cars in the last hour = which car 06-03T12:00..
cars in the last 30 minutes = which car 06-03T12:30..
cars in the past two days = which car 06-01T13:00..
cars during the last three weeks = which car 05-13T13:00..
cars over the last month = which car 05-01T00:00..06-01T00:00
cars within the last 12 hours = which car 06-03T01:00..
cars a few days ago = which car 05-31T00:00..06-01T00:00
cars 2 hours ago = which car 06-03T11:00..
cars a week ago = which car 05-27T00:00..05-28T00:00
cars this week = which car 06-01T00:00..
cars this month = which car 06-01T00:00..
cars last weekend = which car 05-30T00:00..06-01T00:00
cars from 9 to 11 = which car 06-03T09:00..06-03T11:00
cars between noon and 3pm = which car 06-03T12:00..06-03T15:00
cars between 22:00 and 4:00 on Monday = which car 06-01T22:00..06-02T04:00
cars at lunchtime = which car 06-03T12:00..06-03T14:00
cars in the evening = which car 06-02T18:00..06-02T23:00
cars this evening = which car 06-03T18:00..06-03T23:00
motorbikes at night = which motorcycle 06-02T21:00..06-03T06:00
was "Somebody comes in" told this week = whether - @comes-in 06-01T00:00..
how many did somebody comes in let through yesterday = count - @comes-in "let" "through" 06-02T00:00..06-03T00:00
anything? = whether -
anything at the jetty? = whether - @jetty
what did the jetty see = which - @jetty
people = which person
an animal at the Yard or the Jetty = which pet @jetty @yard
bus or coach at the lane gate = which bus @gate
delivery van at the gate = which parcel,vehicle @gate "van"
dogs from 8 until 10 yesterday = which dog 06-02T08:00..06-02T10:00
dogs since the 1st of June = which dog 06-01T00:00..
dogs since last Monday = which dog 06-01T00:00..
cars on Saturday the 30th of May = which car 05-30T00:00..05-31T00:00
did the dog come back to the porch in the last three days? = whether dog @porch 05-31T13:00..
when was the last delivery? = last parcel
when did a bike last cross the yard after 22:00 = last bicycle @yard 06-02T22:00..06-03T00:00
how many customers came at lunchtime on Monday = count person 06-01T12:00..06-01T14:00
any strangers at the workshop door this week? = whether person @door 06-01T00:00..
a parcel at the porch since Sunday 09:30 = which parcel @porch 05-31T09:30..
`
  .trim()
  .split('\n')
  .map((row) => row.split(' = ') as [string, string]);

test.each(questions)('%s', (question, meant) => {
  expect(line(understand(question, place, wednesday))).toBe(meant);
});

// Both days on which the clock is changed in Europe/London in 2026 (IANA zone data): 29 March has 23 hours, 25 October 25.
test.each([
  ['2026-03-29T12:00', 'cars today', 23],
  ['2026-03-30T12:00', 'cars yesterday', 23],
  ['2026-04-01T12:00', 'cars on Sunday', 23],
  ['2026-04-01T12:00', 'cars on 29 March', 23],
  ['2026-04-01T12:00', 'cars on 28 March', 24],
  ['2026-03-29T12:00', 'cars last night', 8],
  ['2026-03-29T12:00', 'cars between 0:30 and 3:30', 2],
  ['2026-04-01T12:00', 'cars last week', 167],
  ['2026-04-01T12:00', 'cars last weekend', 47],
  ['2026-10-25T12:00', 'cars today', 25],
  ['2026-10-26T12:00', 'cars yesterday', 25],
  ['2026-10-28T12:00', 'cars on Sunday', 25],
  ['2026-10-28T12:00', 'cars on October 25', 25],
  ['2026-10-25T12:00', 'cars last night', 10],
  ['2026-10-25T12:00', 'cars between 0:30 and 3:30', 4],
  ['2026-10-25T12:00', 'cars before 6:00', 7],
  ['2026-10-28T12:00', 'cars last week', 169],
  ['2026-10-28T12:00', 'cars last weekend', 49],
  ['2026-11-02T12:00', 'cars last month', 31 * 24 + 1],
])('asked on %s, %s is %d hours', (now, question, schedules) => {
  const { span } = understand(question, place, local(now));
  expect((span!.to! - span!.from!) / 3_600_000).toBe(schedules);
});

test('what is still to come was not seen: a date without a year is of the year before', () => {
  expect(line(understand('cars on 24 December', place, local('2026-01-10T09:00')))).toBe('which car 12-24T00:00..12-25T00:00');
  const { span } = understand('cars on 24 December', place, local('2026-01-10T09:00'));
  expect(span!.words).toBe('on Wednesday 24 December 2025');
});

test('in the small hours the night is the one that is going on', () => {
  expect(line(understand('anybody tonight?', place, local('2026-06-03T02:00')))).toBe('whether person 06-02T21:00..06-03T06:00');
});

test('a question that follows on keeps what it does not say again', () => {
  const first = understand('how many vans came to the gate yesterday?', place, wednesday);
  const follow = (question: string, before: Query) => understand(question, place, wednesday, before);
  expect(line(follow('and at the yard?', first))).toBe('count vehicle @yard "van" 06-02T00:00..06-03T00:00');
  expect(line(follow('what about Monday?', first))).toBe('count vehicle @gate "van" 06-01T00:00..06-02T00:00');
  expect(line(follow('and dogs?', first))).toBe('count dog @gate 06-02T00:00..06-03T00:00');
  expect(line(follow('and when was the last?', first))).toBe('last vehicle @gate "van" 06-02T00:00..06-03T00:00');
  // One that does not follow on begins again.
  expect(line(follow('was there a dog?', first))).toBe('whether dog');
});

test('the record’s answer in words, with what was asked, and since when it was looking', () => {
  const of = (question: string) => understand(question, place, wednesday);
  const found = { count: 3, first: local('2026-06-01T08:00'), last: local('2026-06-02T17:12'), lookingSince: local('2026-05-31T09:30') };
  const none = { ...found, count: 0, first: null, last: null };
  expect(answerOf(of('when was the dog last at the jetty?'), found, place, wednesday)).toBe(
    'The last dog was detected at Jetty yesterday at 17:12.',
  );
  expect(answerOf(of('when did the first dog come?'), found, place, wednesday)).toBe(
    'The first dog was detected on Monday 1 June at 08:00.',
  );
  expect(answerOf(of('how many people came on Monday?'), found, place, wednesday)).toBe('3 people were detected on Monday 1 June.');
  expect(answerOf(of('was a white van at the gate?'), found, place, wednesday)).toBe(
    'Yes: 3 vehicles described with “white” and “van” were detected at Lane gate, the last yesterday at 17:12.',
  );
  expect(answerOf(of('did a parcel come?'), none, place, wednesday)).toBe(
    'No: no parcel was detected. Data goes back to Sunday 31 May at 09:30.',
  );
  // It was looking all the while.
  expect(answerOf(of('did a parcel come yesterday?'), none, place, wednesday)).toBe('No: no parcel was detected yesterday.');
  expect(answerOf(of('any cat at the jetty?'), { ...none, lookingSince: null }, place, wednesday)).toBe(
    'No: no cat was detected at Jetty. No data is stored for it.',
  );
});

test('what nothing here tells apart, or no one described, is said to be that', () => {
  const none = { count: 0, first: null, last: null, lookingSince: local('2026-05-31T09:30') };
  const of = (question: string) => understand(question, place, wednesday);
  expect(answerOf(of('did a parcel come?'), { ...none, isKindKnown: false }, place, wednesday)).toBe(
    'No: no parcel was detected. Nibber has never detected a parcel, so this is not conclusive.',
  );
  expect(answerOf(of('white van at the gate yesterday'), { ...none, others: { seen: 7, described: 1 } }, place, wednesday)).toBe(
    'No vehicle described with “white” and “van” was detected at Lane gate yesterday. 7 vehicles were detected there then, of which 1 was described.',
  );
});

test.each(['', '?', '   ', '(((', 'a'.repeat(300), '\u0000\u202e', "'; DROP TABLE events; --", '*', '"'])(
  '%j is a question like any other',
  (question) => {
    expect(() => understand(question, place, wednesday)).not.toThrow();
  },
);
test('nothing in a question asks for nothing', () => expect(understand('', place, wednesday)).toEqual(emptyQuery));

describe('what is read off pictures', () => {
  const read = {
    ...place,
    readings: [
      { id: 'canoes', name: 'Canoes on the rack', unit: 'canoes' },
      { id: 'people', name: 'People inside', unit: 'people' },
      { id: 'door-state', name: 'Door state' },
    ],
  };
  test.each([
    ['how many canoes were there yesterday?', ['canoes'], []],
    ['was a canoe missing?', ['canoes'], ['missing']],
    ['when was the door state ajar?', ['door-state'], ['ajar']],
    ['how many canoes on the rack today?', ['canoes'], []],
    ['how many dogs were there?', undefined, []],
    // Whoever was seen, and not what was counted in a still.
    ['how many people came yesterday?', undefined, []],
  ])('%s', (question, readings, words) => {
    const query = understand(question, read, wednesday);
    expect([query.readings, query.words]).toEqual([readings, words]);
  });

  test('a question follows on a reading until something else is asked about', () => {
    const before = understand('how many canoes today?', read, wednesday);
    expect(understand('and yesterday?', read, wednesday, before)).toMatchObject({ readings: ['canoes'] });
    expect(understand('and dogs?', read, wednesday, before).readings).toBeUndefined();
  });

  test('it is answered by what was read last, and between what the others lay', () => {
    const query = { ...emptyQuery, readings: ['canoes'] };
    const shown = { at: wednesday - 3_600_000, name: 'Canoes', words: '11 canoes' };
    const one = answerOfReadings(query, { count: 1, shown, range: ['11', '11 canoes'] }, read, wednesday);
    expect(one).toMatch(/^Canoes: 11 canoes, read today at \d\d:\d\d\.$/);
    expect(answerOfReadings(query, { count: 14, shown, range: ['9', '12 canoes'] }, read, wednesday)).toBe(
      `${one} 14 readings, from 9 to 12 canoes.`,
    );
    expect(answerOfReadings({ ...query, words: ['ajar'] }, { count: 0, shown: null, range: null }, read, wednesday)).toBe(
      'There is no reading of Canoes on the rack that says “ajar”.',
    );
  });
});
