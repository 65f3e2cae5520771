// The entries of a calendar file, each read by itself, so that one that cannot be read takes no other with it (iCalendar, RFC 5545).

import ICAL from 'ical.js';
import { Problem } from '../problem';

/** An entry as it stands in the file, with what it is called where it has to be named. */
export type Entry = { readonly component: ICAL.Component; readonly name: string; readonly uid: string };
/** The zones that a file describes by itself, by the name that it gives them. */
export type Zones = ReadonlyMap<string, ICAL.Timezone>;
export type Entries = { readonly entries: readonly Entry[]; readonly zones: Zones; readonly unread: readonly string[] };

const notOne = (why = '') =>
  new Problem('bad-input', `This is not a calendar${why && `: ${why}`}`, 'Allowed: an iCalendar file (RFC 5545, .ics).');

/**
 * Cuts a file into its entries: one calendar, or several one after the other, with a byte order mark before them or without.
 * @throws Problem 'bad-input' for what holds no calendar
 */
export function entriesOf(text: string): Entries {
  const lines = unfolded(text.replace(/^\uFEFF/, ''));
  if (!lines.some((l) => /^BEGIN:VCALENDAR\s*$/i.test(l))) throw notOne();
  if (!lines.some((l) => /^END:VCALENDAR\s*$/i.test(l))) throw notOne('its end is missing');
  const zones = new Map<string, ICAL.Timezone>();
  const entries: Entry[] = [];
  const unread: string[] = [];
  for (const block of blocksOf(lines)) {
    const name = called(block.lines, block.line);
    try {
      const component = componentOf(block.lines);
      if (component.name === 'vtimezone') zones.set(String(component.getFirstPropertyValue('tzid')), new ICAL.Timezone(component));
      else entries.push({ component, name, uid: String(component.getFirstPropertyValue('uid') ?? `line ${block.line}`) });
    } catch (thrown) {
      unread.push(`${name}: ${(thrown as Error).message}`);
    }
  }
  return { entries, zones, unread };
}

/** Long lines are folded: one that begins with a blank goes on with the one before (3.1). */
const unfolded = (text: string): string[] =>
  text
    .replace(/\r\n?/g, '\n')
    .replace(/\n[ \t]/g, '')
    .split('\n');

type Block = { readonly lines: readonly string[]; readonly line: number };
const kept = /^(BEGIN|END):(VEVENT|VTIMEZONE)\s*$/i;

function* blocksOf(lines: readonly string[]): Generator<Block> {
  let from: number | undefined;
  for (const [i, line] of lines.entries()) {
    const found = kept.exec(line);
    if (!found) continue;
    if (found[1]!.toUpperCase() === 'BEGIN') from = i;
    else if (from !== undefined) {
      yield { lines: lines.slice(from, i + 1), line: from + 1 };
      from = undefined;
    }
  }
}

const called = (lines: readonly string[], line: number): string => {
  const summary = lines
    .find((l) => /^SUMMARY[;:]/i.test(l))
    ?.replace(/^[^:]*:/, '')
    .trim();
  return summary ? `“${summary.slice(0, 60)}” (line ${line})` : `The entry at line ${line}`;
};

/** Many programs leave VALUE=DATE out where a date alone stands (3.2.20 asks for it). */
const asDates = (line: string): string =>
  /^(DTSTART|DTEND|RECURRENCE-ID|EXDATE|RDATE)(;(?![^:]*VALUE=)[^:]*)?:\d{8}(,\d{8})*\s*$/i.test(line)
    ? line.replace(/^([A-Z-]+)/i, '$1;VALUE=DATE')
    : line;

function componentOf(lines: readonly string[]): ICAL.Component {
  const parsed = ICAL.parse(['BEGIN:VCALENDAR', ...lines.map(asDates), 'END:VCALENDAR'].join('\r\n')) as never;
  return new ICAL.Component(parsed).getAllSubcomponents()[0]!;
}
