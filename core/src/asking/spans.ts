// Times in a question, read as people say them: the wall time of a place, looked at from an instant.

import { DateTime } from 'luxon';
import type { Instant } from '../time';

/** From its first millisecond up to, not including, its last; `words` say it back. Without an end it goes on until now. */
export type AskedSpan = { readonly from: Instant | null; readonly to: Instant | null; readonly words: string };
export type FoundSpan = { readonly span: AskedSpan; /** The question without the words of the time. */ readonly rest: string };

const weekdays = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday'];
const months = ['january', 'february', 'march', 'april', 'may', 'june', 'july', 'august', 'september', 'october', 'november', 'december'];
const weekday = '(mon|tues?|wed(?:nes)?|thu(?:rs)?|fri|sat(?:ur)?|sun)(?:day)?';
const month =
  '(jan(?:uary)?|feb(?:ruary)?|mar(?:ch)?|apr(?:il)?|may|june?|july?|aug(?:ust)?|sep(?:t(?:ember)?)?|oct(?:ober)?|nov(?:ember)?|dec(?:ember)?)';
const clock = "(\\d{1,2}(?::\\d{2})? ?(?:am|pm|h|o’clock|o'clock)?|noon|midday|midnight)";
const numbers: { readonly [word: string]: number } = {
  a: 1,
  an: 1,
  one: 1,
  two: 2,
  three: 3,
  four: 4,
  five: 5,
  six: 6,
  seven: 7,
  eight: 8,
  nine: 9,
  ten: 10,
  twelve: 12,
  few: 3,
  couple: 2,
};
const count = `(\\d{1,3}|${Object.keys(numbers).join('|')})`;
const units: { readonly [unit: string]: 'minutes' | 'hours' | 'days' | 'weeks' | 'months' } = {
  minute: 'minutes',
  hour: 'hours',
  day: 'days',
  night: 'days',
  week: 'weeks',
  month: 'months',
};

/** Parts of a day, by the clock on the wall: common practice, and said back with their times. */
const parts: { readonly [part: string]: readonly [from: number, to: number] } = {
  morning: [5 * 60, 12 * 60],
  afternoon: [12 * 60, 18 * 60],
  evening: [18 * 60, 23 * 60],
  // It ends on the next day.
  night: [21 * 60, 30 * 60],
  lunchtime: [12 * 60, 14 * 60],
};

type Day = { readonly day: DateTime; readonly said: string };

/**
 * Finds the times that a question names.
 * @param now the instant from which `yesterday` is counted
 * @param zone IANA zone of the site; both days of a clock change are as long as the wall clock says
 * @returns undefined where it names none
 */
export function spanIn(question: string, now: Instant, zone: string): FoundSpan | undefined {
  const here = DateTime.fromMillis(now, { zone, locale: 'en-GB' });
  let rest = ` ${question.toLowerCase().replace(/[!,;]/g, ' ').replace(/\s+/g, ' ').trim()} `;
  const take = (pattern: RegExp): string[] | undefined => {
    const found = pattern.exec(rest);
    if (!found) return undefined;
    rest = `${rest.slice(0, found.index)} ${rest.slice(found.index + found[0].length)}`;
    return found.slice(1);
  };
  const at = (pattern: string) => new RegExp(`(?<![\\w:-])${pattern}(?![\\w:-])`);

  // Since when: everything after a day, or a time of it.
  const isSince =
    take(
      at(
        `(?!from ${clock} (?:to|until|till|and) )(?:ever )?(?:since|from)(?= (?:last |this |the )?(?:yesterday|today|noon|midday|midnight|morning|week|month|\\d|${weekday}|${month}))`,
      ),
    ) !== undefined;
  const isBefore =
    !isSince &&
    take(
      at('(?<!the day )(?:before|until|till|up to)(?= (?:last |this )?(?:yesterday|today|' + weekday + '|\\d{1,2} ' + month + '|\\d{4}-))'),
    ) !== undefined;

  const lasting =
    take(at(`(?:in|over|for|during|within)? ?(?:the )?(?:last|past|previous) (?:${count} )?(minute|hour|day|night|week|month)s`)) ??
    take(at(`(?:in|over|during|within) the (?:last|past|previous) (?:${count} )?(minute|hour|day)`));
  if (lasting) {
    const [many = 'one', unit] = lasting as [string | undefined, string];
    const n = numbers[many] ?? Number(many);
    const from = here.minus({ [units[unit]!]: n });
    return {
      span: { from: from.toMillis(), to: null, words: `in the last ${n === 1 ? '' : `${n} `}${unit}${n === 1 ? '' : 's'}` },
      rest: tidy(rest),
    };
  }
  const ago = take(at(`${count} (minute|hour|day|week|month)s? ago`));
  if (ago) {
    const n = numbers[ago[0]!] ?? Number(ago[0]);
    const then = here.minus({ [units[ago[1]!]!]: n });
    if (ago[1] === 'minute' || ago[1] === 'hour')
      return { span: { from: then.toMillis(), to: null, words: `since ${n} ${ago[1]}${n === 1 ? '' : 's'} ago` }, rest: tidy(rest) };
    return finish({ day: then.startOf('day'), said: dayWords(then, here) });
  }
  const week = take(at('(?:at |on |over )?(this|last|the last|past|the) (week|month|weekend)'));
  if (week) {
    const [which, unit] = week as [string, 'week' | 'month' | 'weekend'];
    const isThis = which === 'this' || (which === 'the' && (unit !== 'weekend' || here.weekday >= 6));
    if (unit === 'weekend') {
      const saturday = here
        .startOf('week')
        .minus({ weeks: isThis ? 0 : 1 })
        .plus({ days: 5 });
      return finishSpan(saturday, saturday.plus({ days: 2 }), `at the weekend of ${saturday.toFormat('d LLLL')}`);
    }
    const start = here.startOf(unit).minus(isThis ? {} : { [`${unit}s`]: 1 });
    return finishSpan(start, isThis ? null : start.plus({ [`${unit}s`]: 1 }), `${isThis ? 'this' : 'last'} ${unit}`);
  }

  const day = dayIn();
  if (day) return finish(day);
  // A part of a day or a clock alone is of today.
  return finish(undefined);

  function dayIn(): Day | undefined {
    const named = take(
      at('(?:on )?(the day before yesterday|yesterday|today|tonight|last night|this (?:morning|afternoon|evening)|overnight)'),
    );
    if (named) {
      const word = named[0]!;
      const of = (days: number) => here.startOf('day').minus({ days });
      if (word === 'yesterday') return { day: of(1), said: 'yesterday' };
      if (word === 'the day before yesterday') return { day: of(2), said: dayWords(of(2), here) };
      if (word === 'last night' || word === 'overnight') {
        rest += 'night ';
        return { day: of(1), said: 'last night' };
      }
      if (word === 'tonight') rest += 'night ';
      if (word.startsWith('this ')) rest += `${word.slice(5)} `;
      return { day: of(0), said: 'today' };
    }
    const iso = take(at('(?:on )?(\\d{4}-\\d{2}-\\d{2})'));
    if (iso) {
      const then = DateTime.fromISO(iso[0]!, { zone, locale: 'en-GB' });
      if (then.isValid) return { day: then.startOf('day'), said: dayWords(then, here) };
    }
    const dated =
      take(at(`(?:on )?(?:the )?(\\d{1,2})(?:st|nd|rd|th)?(?: of)? ${month}(?: (\\d{4}))?`)) ??
      swap(take(at(`(?:on )?${month} (?:the )?(\\d{1,2})(?:st|nd|rd|th)?(?: (\\d{4}))?`)));
    if (dated) {
      const [number, name, year] = dated as [string, string, string | undefined];
      const wanted = { month: months.findIndex((m) => m.startsWith(name.slice(0, 3))) + 1, day: Number(number) };
      let then = DateTime.fromObject({ year: Number(year ?? here.year), ...wanted }, { zone, locale: 'en-GB' });
      // What is still to come was not seen: it is of the year before.
      if (year === undefined && then.isValid && then > here)
        then = DateTime.fromObject({ year: here.year - 1, ...wanted }, { zone, locale: 'en-GB' });
      // The weekday beside a date says nothing more.
      if (then.isValid) take(at(weekday));
      if (then.isValid) return { day: then, said: dayWords(then, here) };
    }
    const onWeekday = take(at(`(?:on )?(last |this )?${weekday}`));
    if (onWeekday) {
      const wanted = weekdays.findIndex((d) => d.startsWith(onWeekday[1]!.slice(0, 3))) + 1;
      // The newest of them: today's, unless it is the last one that is meant.
      const back = (here.weekday - wanted + 7) % 7 || (onWeekday[0] === 'last ' ? 7 : 0);
      const then = here.startOf('day').minus({ days: back });
      return { day: then, said: dayWords(then, here) };
    }
    return undefined;
  }

  function finish(day: Day | undefined): FoundSpan | undefined {
    const of = day?.day ?? here.startOf('day');
    const between = take(at(`(?:between|from) ${clock} (?:and|to|until|till) ${clock}`));
    if (between) {
      const [from, to] = between.map((c) => minutesOf(c!)) as [number, number];
      if (from !== undefined && to !== undefined) return ofDay(of, from, to <= from ? to + 1440 : to, day);
    }
    const part = take(at(`(?:in the |at |during the |around |over )?(${Object.keys(parts).join('|')})`));
    if (part && parts[part[0]!]) {
      // A part of today that has not begun is yesterday's.
      const [from, to] = parts[part[0]!]!;
      const notYet = !day && clockOn(of, from) > here ? of.minus({ days: 1 }) : of;
      // In the small hours the night is the one that is going on.
      const start = part[0] === 'night' && day?.said === 'today' && here.hour < 6 ? of.minus({ days: 1 }) : notYet;
      return ofDay(start, from, to, day ?? { day: start, said: dayWords(start, here) });
    }
    const edge = take(at(`(after|since|before|until|till|by|from) ${clock}`));
    if (edge) {
      const isFrom = /after|since|from/.test(edge[0]!);
      const minute = isFrom ? fromMinute(edge[1]!) : minutesOf(edge[1]!);
      if (minute !== undefined) {
        const start = !day && isFrom && clockOn(of, minute) > here ? of.minus({ days: 1 }) : of;
        if (edge[0] === 'since')
          return finishSpan(clockOn(start, minute), null, `since ${bare(day?.said ?? dayWords(start, here))} ${clockWords(minute)}`);
        return isFrom ? ofDay(start, minute, 1440, day) : ofDay(start, 0, minute, day);
      }
    }
    const around = take(at(`(?:at|around|about) ${clock}`));
    if (around) {
      const minute = minutesOf(around[0]!);
      if (minute !== undefined)
        return ofDay(!day && clockOn(of, minute) > here ? of.minus({ days: 1 }) : of, minute - 15, minute + 15, day);
    }
    if (isSince) {
      const minute = fromMinute(take(at(`(?:at )?${clock}`))?.[0] ?? '');
      if (!day && minute === undefined) return undefined;
      if (!day) {
        const start = clockOn(of, minute!) > here ? of.minus({ days: 1 }) : of;
        return finishSpan(clockOn(start, minute!), null, `since ${bare(dayWords(start, here))} ${clockWords(minute!)}`);
      }
      return finishSpan(
        minute === undefined ? of : clockOn(of, minute),
        null,
        `since ${bare(day.said)}${minute === undefined ? '' : ` ${clockWords(minute)}`}`,
      );
    }
    if (!day) return undefined;
    if (isBefore) return { span: { from: null, to: of.toMillis(), words: `before ${bare(day.said)}` }, rest: tidy(rest) };
    return finishSpan(of, of.plus({ days: 1 }), day.said);
  }

  function ofDay(of: DateTime, from: number, to: number, day: Day | undefined): FoundSpan {
    const said = day?.said ?? dayWords(of, here);
    return finishSpan(clockOn(of, from), clockOn(of, to), `${said}, ${clockWords(from)} to ${clockWords(to)}`);
  }
  function finishSpan(from: DateTime, to: DateTime | null, words: string): FoundSpan {
    return { span: { from: from.toMillis(), to: to?.toMillis() ?? null, words }, rest: tidy(rest) };
  }
}

/** `June 3` as `3 June`. */
const swap = (found: string[] | undefined) => found && [found[1]!, found[0]!, found[2]!];
const tidy = (text: string) => text.replace(/\s+/g, ' ').trim();

/** The instant at which the clock on the wall shows a minute of a day; past midnight of the days after. */
function clockOn(day: DateTime, minute: number): DateTime {
  const days = Math.floor(minute / 1440);
  const within = minute - days * 1440;
  return day
    .startOf('day')
    .plus({ days })
    .set({ hour: Math.floor(within / 60), minute: within % 60 });
}

const clockWords = (minute: number): string => {
  const m = ((minute % 1440) + 1440) % 1440;
  return minute === 1440 ? '24:00' : `${String(Math.floor(m / 60)).padStart(2, '0')}:${String(m % 60).padStart(2, '0')}`;
};

/** Minutes after midnight; undefined where it is no time. */
function minutesOf(text: string): number | undefined {
  if (text === 'noon' || text === 'midday') return 720;
  if (text === 'midnight') return 1440;
  const found = /^(\d{1,2})(?::(\d{2}))? ?(am|pm)?/.exec(text);
  if (!found) return undefined;
  const [hour, minute] = [Number(found[1]), Number(found[2] ?? 0)];
  if (minute > 59 || hour > 24 || (found[3] && (hour === 0 || hour > 12))) return undefined;
  const of = found[3] ? (hour % 12) + (found[3] === 'pm' ? 12 : 0) : hour;
  return of * 60 + minute;
}

/** Where something begins, midnight is the day's first minute. */
const fromMinute = (text: string): number | undefined => {
  const minute = minutesOf(text);
  return minute === 1440 ? 0 : minute;
};

const bare = (said: string) => said.replace(/^on /, '');

/** How a day is said back: with its date, so that no one has to guess which was meant. */
const dayWords = (day: DateTime, here: DateTime): string =>
  day.hasSame(here, 'day')
    ? 'today'
    : day.hasSame(here.minus({ days: 1 }), 'day')
      ? 'yesterday'
      : `on ${day.toFormat(day.hasSame(here, 'year') ? 'cccc d LLLL' : 'cccc d LLLL yyyy')}`;
