import { RRule } from 'rrule';
import { exceptionsFrom, readCalendar, withCalendar } from '.';
import { dateText } from '../time';

const occurrences = (...of: Parameters<typeof readCalendar>) => readCalendar(...of).occurrences;
const calendar = (...lines: string[]) =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//example//EN', ...lines, 'END:VCALENDAR'].join('\r\n');
const event = (...lines: string[]) => [
  'BEGIN:VEVENT',
  'UID:one@example.org',
  'DTSTAMP:20260101T000000Z',
  'SUMMARY:Regatta',
  ...lines,
  'END:VEVENT',
];
const days = (text: string, zone = 'Europe/London', from = '2026-01-01', to = '2027-12-31') =>
  occurrences(text, zone, from, to).map((o) => dateText(o.fromDay));

// RFC 5545, section 3.8.5.3, examples of recurrence rules, begun on 2 September 1997, 09:00 New York; dates as printed there.
test.each([
  [
    'daily for 10 occurrences',
    'FREQ=DAILY;COUNT=10',
    '19970902T090000',
    [
      '1997-09-02',
      '1997-09-03',
      '1997-09-04',
      '1997-09-05',
      '1997-09-06',
      '1997-09-07',
      '1997-09-08',
      '1997-09-09',
      '1997-09-10',
      '1997-09-11',
    ],
  ],
  [
    'weekly on Tuesday and Thursday for five weeks',
    'FREQ=WEEKLY;COUNT=10;WKST=SU;BYDAY=TU,TH',
    '19970902T090000',
    [
      '1997-09-02',
      '1997-09-04',
      '1997-09-09',
      '1997-09-11',
      '1997-09-16',
      '1997-09-18',
      '1997-09-23',
      '1997-09-25',
      '1997-09-30',
      '1997-10-02',
    ],
  ],
  [
    'monthly on the first Friday for 10 occurrences',
    'FREQ=MONTHLY;COUNT=10;BYDAY=1FR',
    '19970905T090000',
    [
      '1997-09-05',
      '1997-10-03',
      '1997-11-07',
      '1997-12-05',
      '1998-01-02',
      '1998-02-06',
      '1998-03-06',
      '1998-04-03',
      '1998-05-01',
      '1998-06-05',
    ],
  ],
  [
    'monthly on the third-to-the-last day',
    'FREQ=MONTHLY;BYMONTHDAY=-3;COUNT=6',
    '19970928T090000',
    ['1997-09-28', '1997-10-29', '1997-11-28', '1997-12-29', '1998-01-29', '1998-02-26'],
  ],
  [
    'every Friday the 13th',
    'FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13;COUNT=5',
    '19970902T090000',
    ['1998-02-13', '1998-03-13', '1998-11-13', '1999-08-13', '2000-10-13'],
  ],
])('%s', (_name, rule, start, expected) => {
  const text = calendar(...event(`DTSTART;TZID=America/New_York:${start}`, 'DURATION:PT1H', `RRULE:${rule}`));
  // The RFC's list leaves the start out where the rule does not hold on it; ical.js counts by the rule alone as well.
  expect(days(text, 'America/New_York', '1997-01-01', '2001-01-01')).toEqual(expected);
});

test.each([
  'FREQ=DAILY;INTERVAL=3;COUNT=40',
  'FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,WE,FR;UNTIL=20270301T000000Z',
  'FREQ=MONTHLY;BYDAY=-1SU;COUNT=12',
  'FREQ=MONTHLY;BYMONTHDAY=31;COUNT=7',
  'FREQ=YEARLY;BYMONTH=4,10;BYDAY=1TU;COUNT=6',
  'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1;COUNT=9',
])('agrees with the general recurrence library rrule on %s', (rule) => {
  const reference = new RRule({ ...RRule.parseString(rule), dtstart: new Date('2026-01-05T10:00:00Z') });
  const text = calendar(...event('DTSTART:20260105T100000Z', 'DTEND:20260105T110000Z', `RRULE:${rule}`));
  const expected = reference.between(new Date('2026-01-01T00:00:00Z'), new Date('2027-12-31T23:59:00Z'), true);
  expect(days(text, 'UTC')).toEqual(expected.map((d) => d.toISOString().slice(0, 10)));
});

test('a rule without an end is followed as far as is asked and no farther', () => {
  const text = calendar(...event('DTSTART;VALUE=DATE:20200106', 'RRULE:FREQ=WEEKLY'));
  expect(days(text, 'UTC', '2026-06-01', '2026-06-21')).toEqual(['2026-06-01', '2026-06-08', '2026-06-15']);
});

test('dates taken out are out, a moved one stands where it was moved to, a cancelled one is gone', () => {
  const text = calendar(
    ...event('DTSTART:20260601T090000', 'DTEND:20260601T100000', 'RRULE:FREQ=DAILY;COUNT=5', 'EXDATE:20260602T090000'),
    ...event('RECURRENCE-ID:20260603T090000', 'DTSTART:20260603T150000', 'DTEND:20260603T160000'),
    ...event('DTSTART:20260701T090000', 'DTEND:20260701T100000', 'STATUS:CANCELLED').map((l) => l.replace('one@', 'two@')),
  );
  expect(occurrences(text, 'Europe/London', '2026-01-01', '2026-12-31').map((o) => [dateText(o.fromDay), o.fromMinute])).toEqual([
    ['2026-06-01', 540],
    ['2026-06-03', 900],
    ['2026-06-04', 540],
    ['2026-06-05', 540],
  ]);
});

test.each([
  ['floating times are the site’s own', 'DTSTART:20260701T090000', 'DTEND:20260701T103000', [540, 630]],
  ['UTC becomes the site’s wall time', 'DTSTART:20260701T090000Z', 'DTEND:20260701T103000Z', [600, 690]],
  [
    'a named zone becomes the site’s',
    'DTSTART;TZID=America/New_York:20260701T090000',
    'DTEND;TZID=America/New_York:20260701T103000',
    [840, 930],
  ],
])('%s', (_name, start, end, expected) => {
  const [o] = occurrences(calendar(...event(start, end)), 'Europe/London', '2026-01-01', '2026-12-31');
  expect([o!.fromMinute, o!.toMinute]).toEqual(expected);
});

test('a zone that only the file describes is read from the file', () => {
  const zone = [
    'BEGIN:VTIMEZONE',
    'TZID:Mere time',
    'BEGIN:STANDARD',
    'DTSTART:19700101T000000',
    'TZOFFSETFROM:+0300',
    'TZOFFSETTO:+0300',
    'END:STANDARD',
    'END:VTIMEZONE',
  ];
  const text = calendar(...zone, ...event('DTSTART;TZID=Mere time:20260701T090000', 'DURATION:PT1H'));
  expect(occurrences(text, 'UTC', '2026-01-01', '2026-12-31')[0]).toMatchObject({ fromMinute: 360, toMinute: 420 });
});

const usual = () => [{ from: 570, to: 1080 }];

test('all-day entries close their days, timed ones what they cover, and open ones are the only hours of their day', () => {
  const found = occurrences(
    calendar(
      ...event('DTSTART;VALUE=DATE:20260810', 'DTEND;VALUE=DATE:20260812'),
      ...event('DTSTART:20260901T120000', 'DTEND:20260901T130000').map((l) =>
        l.replace('one@', 'two@').replace('Regatta', 'Staff meeting'),
      ),
    ),
    'Europe/London',
    '2026-01-01',
    '2026-12-31',
  );
  expect(exceptionsFrom(found, 'closed', usual)).toEqual([
    { date: '2026-08-10', name: 'Regatta', spans: [] },
    { date: '2026-08-11', name: 'Regatta', spans: [] },
    { date: '2026-09-01', name: 'Staff meeting', spans: ['09:30-12:00', '13:00-18:00'] },
  ]);
  expect(exceptionsFrom(found, 'open', usual).map((e) => e.spans)).toEqual([['00:00-24:00'], ['00:00-24:00'], ['12:00-13:00']]);
});

test.each([
  ['no calendar', 'hello', /^This is not a calendar/],
  ['something else of the same family', 'BEGIN:VCARD\r\nVERSION:4.0\r\nEND:VCARD', /^This is not a calendar/],
  ['too long', 'x'.repeat(1_000_001), /^The calendar is 1000001 characters long/],
  [
    'an entry every second for ever',
    calendar(...event('DTSTART:20260101T000000Z', 'DURATION:PT1S', 'RRULE:FREQ=SECONDLY')),
    /^The calendar has more than 5000 entries/,
  ],
])('%s is refused with a sentence', (_name, text, words) => {
  expect(() => days(text)).toThrow(words);
});

test('a calendar that is read again brings its own days up to date and leaves the others', () => {
  const day = (date: string, name: string, spans: string[] = [], calendar?: string) => ({
    date,
    name,
    spans,
    ...(calendar ? { calendar } : {}),
  });
  const before = [
    day('2026-01-05', 'Last winter', [], 'Regattas'),
    day('2026-06-05', 'Day off'),
    day('2026-06-06', 'Regatta', ['08:00-20:00'], 'Regattas'),
    day('2026-06-07', 'Regatta', ['08:00-20:00'], 'Regattas'),
    day('2026-06-08', 'Bank holiday', [], 'Holidays'),
  ];
  const found = ['2026-06-05', '2026-06-06', '2026-06-08', '2026-06-13'].map((date) => day(date, 'Regatta', ['08:00-21:00']));
  const read = withCalendar(before, found, 'Regattas', '2026-06-01');
  expect(read).toMatchObject({
    added: ['2026-06-13'],
    changed: ['2026-06-06'],
    removed: ['2026-06-07'],
    kept: ['2026-06-05', '2026-06-08'],
  });
  expect(read.exceptions.map((e) => [e.date, e.calendar])).toEqual([
    ['2026-01-05', 'Regattas'],
    ['2026-06-05', undefined],
    ['2026-06-06', 'Regattas'],
    ['2026-06-08', 'Holidays'],
    ['2026-06-13', 'Regattas'],
  ]);
  expect(withCalendar(read.exceptions, found, 'Regattas', '2026-06-01')).toMatchObject({ added: [], changed: [], removed: [] });
});

describe('what other programs write', () => {
  const at = (text: string, zone = 'Europe/London') =>
    occurrences(text, zone, '2026-01-01', '2026-12-31').map((o) => `${dateText(o.fromDay)} ${o.fromMinute / 60}-${o.toMinute / 60}`);
  const series = event(
    'DTSTART;TZID=Europe/London:20260601T090000',
    'DTEND;TZID=Europe/London:20260601T100000',
    'RRULE:FREQ=DAILY;COUNT=4',
  );
  const newYork = 'TZID=America/New_York';

  // RFC 5545, 3.8.4.4 and 3.8.1.11.
  test('one time of a series that was cancelled is gone', () => {
    const gone = event(
      'RECURRENCE-ID;TZID=Europe/London:20260602T090000',
      'DTSTART;TZID=Europe/London:20260602T090000',
      'STATUS:CANCELLED',
    );
    expect(at(calendar(...series, ...gone))).toEqual(['2026-06-01 9-10', '2026-06-03 9-10', '2026-06-04 9-10']);
  });

  // 3.8.5.2: the recurrence set holds the start as well.
  test('further dates without a rule leave the first in', () => {
    expect(at(calendar(...event('DTSTART:20260601T090000Z', 'DURATION:PT1H', 'RDATE:20260608T090000Z,20260615T090000Z')))).toEqual([
      '2026-06-01 10-11',
      '2026-06-08 10-11',
      '2026-06-15 10-11',
    ]);
  });

  // 3.8.5.1: the same instant, however it is written. 09:00 in London in June is 08:00 UTC.
  test('a date left out in UTC is left out of a series with a zone', () => {
    expect(at(calendar(...series.slice(0, -1), 'EXDATE:20260602T080000Z', 'END:VEVENT'))).toEqual([
      '2026-06-01 9-10',
      '2026-06-03 9-10',
      '2026-06-04 9-10',
    ]);
  });

  // New York in June is five hours behind London.
  test('a time that was moved into another zone, and an end in another zone, are read in their own', () => {
    const moved = event(
      'RECURRENCE-ID;TZID=Europe/London:20260602T090000',
      `DTSTART;${newYork}:20260602T090000`,
      `DTEND;${newYork}:20260602T103000`,
    );
    expect(at(calendar(...series, ...moved))).toContain('2026-06-02 14-15.5');
    const flight = event('DTSTART;TZID=Europe/London:20260701T130000', `DTEND;${newYork}:20260701T160000`);
    expect(at(calendar(...flight))).toEqual(['2026-07-01 13-21']);
  });

  test.each(['/mere.example/America/New_York', '/mere.example/20260101_1/America/New_York', 'America/New_York'])(
    'the zone %s is New York',
    (tzid) => expect(at(calendar(...event(`DTSTART;TZID=${tzid}:20260701T090000`, 'DURATION:PT1H')))).toEqual(['2026-07-01 14-15']),
  );

  // 3.3.9 and 3.8.5.2: a period says its own length.
  test('further dates as periods', () => {
    const text = calendar(
      ...event('DTSTART:20260601T090000Z', 'DURATION:PT1H', 'RDATE;VALUE=PERIOD:20260608T090000Z/PT3H,20260615T090000Z/20260615T093000Z'),
    );
    expect(at(text)).toEqual(['2026-06-01 10-11', '2026-06-08 10-13', '2026-06-15 10-10.5']);
  });

  test('a day left out of an all-day series, with its value named or not', () => {
    const days = (exdate: string) => at(calendar(...event('DTSTART;VALUE=DATE:20260601', 'RRULE:FREQ=DAILY;COUNT=3', exdate)));
    for (const exdate of ['EXDATE:20260602', 'EXDATE;VALUE=DATE:20260602', 'EXDATE:20260602T000000'])
      expect(days(exdate)).toEqual(['2026-06-01 0-0', '2026-06-03 0-0']);
  });

  test('two calendars in one file, with a byte order mark before them, and lines that end in LF', () => {
    const two = event('DTSTART:20260702T090000Z', 'DURATION:PT1H').map((l) => l.replace('one@', 'two@'));
    const text = `\uFEFF${calendar(...event('DTSTART:20260701T090000Z', 'DURATION:PT1H'))}\r\n${calendar(...two)}`;
    expect(at(text.replaceAll('\r\n', '\n'))).toEqual(['2026-07-01 10-11', '2026-07-02 10-11']);
  });

  // 3.2.13.
  test('from one time on, later ones are moved as it was', () => {
    const from = event(
      'RECURRENCE-ID;RANGE=THISANDFUTURE;TZID=Europe/London:20260603T090000',
      'DTSTART;TZID=Europe/London:20260603T110000',
      'DURATION:PT2H',
    );
    expect(at(calendar(...series, ...from))).toEqual(['2026-06-01 9-10', '2026-06-02 9-10', '2026-06-03 11-13', '2026-06-04 11-13']);
  });

  // 3.3.10: UNTIL in UTC. The last at 09:00 London (08:00 UTC) is within it, to the second.
  test('a rule that ends at an instant of UTC ends with it', () => {
    const until = (last: string) =>
      at(calendar(...event('DTSTART;TZID=Europe/London:20260601T090000', 'DURATION:PT1H', `RRULE:FREQ=DAILY;UNTIL=${last}`))).length;
    expect([until('20260603T080000Z'), until('20260603T075959Z')]).toEqual([3, 2]);
  });

  test('the clock changes within a series, and the wall time stays', () => {
    const text = calendar(...event('DTSTART;TZID=Europe/London:20261024T090000', 'DURATION:PT1H', 'RRULE:FREQ=DAILY;COUNT=2'));
    expect(at(text, 'UTC')).toEqual(['2026-10-24 8-9', '2026-10-25 9-10']);
  });

  test('a time whose series is not in the file stands by itself', () => {
    expect(at(calendar(...event('RECURRENCE-ID:20260601T090000Z', 'DTSTART:20260601T100000Z', 'DURATION:PT1H')))).toEqual([
      '2026-06-01 11-12',
    ]);
  });

  test.each([
    ['no start', event('DURATION:PT1H'), /^“Regatta” \(line 4\): it has no start/],
    ['a zone nobody knows', event('DTSTART;TZID=Mere/Standard:20260701T090000'), /its time zone Mere\/Standard is unknown$/],
    ['no time where one should be', event('DTSTART:tomorrow'), /^“Regatta” \(line 4\): /],
    ['a rule that is none', event('DTSTART:20260701T090000Z', 'RRULE:FREQ=SOMETIMES'), /^“Regatta” \(line 4\): /],
  ])('an entry with %s is named, and the others are read', (_what, broken, words) => {
    const good = event('DTSTART:20260702T090000Z', 'DURATION:PT1H').map((l) => l.replace('one@', 'two@'));
    const read = readCalendar(calendar(...broken, ...good), 'Europe/London', '2026-01-01', '2026-12-31');
    expect(read.occurrences).toHaveLength(1);
    expect(read.unread).toEqual([expect.stringMatching(words)]);
  });
});
