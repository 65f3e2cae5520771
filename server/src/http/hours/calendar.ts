// A calendar file is read in a thread of its own, and not for longer than it may take.

import { once } from 'node:events';
import path from 'node:path';
import type { DayException } from '@nibber/core/calendar';
import { Trouble } from '@nibber/core/trouble';
import { startThread } from '../../watch/thread';
import type { Answer, Calendar } from './calendar.worker';

const longestMs = 20_000;

/** @throws Trouble 'bad-input' for what is no calendar, is too large, or takes too long */
export async function readCalendar(calendar: Calendar, limitMs = longestMs): Promise<readonly DayException[]> {
  const thread = startThread(path.join(__dirname, `calendar.worker${path.extname(__filename)}`), calendar);
  const late = new AbortController();
  const timer = setTimeout(() => late.abort(), limitMs);
  try {
    const [answer] = (await once(thread, 'message', { signal: late.signal })) as [Answer];
    if ('exceptions' in answer) return answer.exceptions;
    throw new Trouble('bad-input', answer.message, answer.remedy);
  } catch (thrown) {
    if (thrown instanceof Trouble) throw thrown;
    throw new Trouble(
      'bad-input',
      late.signal.aborted ? 'This calendar takes too long to read.' : 'This calendar cannot be read.',
      'Save a calendar of fewer entries, or of a shorter time; nothing was changed.',
    );
  } finally {
    clearTimeout(timer);
    await thread.terminate();
  }
}
