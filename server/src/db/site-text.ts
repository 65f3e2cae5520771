// The text of a site: read, checked, compared and edited. What is long is worked on in a thread of its own, so that no one waits for it.

import path from 'node:path';
import { Problem } from '@nibber/core/problem';
import { openThreads } from '../base/threads';
import { work, type TextDone, type TextWork } from './site-text.work';

export type { TextDone } from './site-text.work';

export type SiteText = {
  /** @throws Problem 'bad-site' where it takes longer than it may */
  work<T extends TextWork>(task: T): Promise<TextDone<T>>;
  close(): Promise<void>;
};

/** Characters that are worked on at once: some ten milliseconds. */
const short = 8000;
const longestMs = 10_000;
const sizeOf = (task: TextWork) => task.text.length + (task.kind === 'edit' ? JSON.stringify(task.edits).length : 0);
const late = () => new Problem('bad-site', 'Reading the site file takes too long.', 'Make it shorter. Nothing was changed.');

export function openSiteText(): SiteText {
  const threads = openThreads<TextWork, unknown>(path.join(__dirname, `site-text.work${path.extname(__filename)}`), longestMs, late);
  return {
    work: async <T extends TextWork>(task: T) => (sizeOf(task) <= short ? work(task) : await threads.run(task)) as TextDone<T>,
    close: threads.close,
  };
}
