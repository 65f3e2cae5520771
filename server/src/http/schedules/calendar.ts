// A calendar file is read in a thread of its own, and not for longer than it may take.

import path from 'node:path';
import { Problem } from '@nibber/core/problem';
import { openThreads } from '../../base/threads';
import type { Answer, Calendar, CalendarDays } from './calendar.worker';

const longestMs = 20_000;
const late = () =>
  new Problem('bad-input', 'Reading this calendar takes too long.', 'Use a calendar with fewer entries. Nothing was changed.');

/** @throws Problem 'bad-input' for what is no calendar, is too large, or takes too long */
export async function readCalendar(calendar: Calendar, limitMs = longestMs): Promise<CalendarDays> {
  const threads = openThreads<Calendar, Answer>(path.join(__dirname, `calendar.worker${path.extname(__filename)}`), limitMs, late);
  try {
    const answer = await threads.run(calendar);
    if ('exceptions' in answer) return answer;
    throw new Problem('bad-input', answer.message, answer.hint);
  } finally {
    await threads.close();
  }
}
