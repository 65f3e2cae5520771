// What is done with the text of a site, in a thread or beside it. Faults are cut to as many as anyone reads before their lines are looked for.

import { editSite, linesOf, readSite, upgradeSite, type SiteEdit } from '@nibber/core/check';
import { siteChanges, type SiteChange } from '@nibber/core/difference';
import type { SiteFile } from '@nibber/core/site';
import type { FieldProblem } from '@nibber/core/problem';

export type TextWork =
  /** Reads it, and says how it differs from another, where one is given. */
  | { readonly kind: 'read'; readonly text: string; readonly against?: SiteFile | undefined }
  /** As `read`, with the lines on which its faults are. */
  | { readonly kind: 'check'; readonly text: string; readonly against: SiteFile }
  | { readonly kind: 'edit'; readonly text: string; readonly edits: readonly SiteEdit[] };

export type ReadText =
  | { readonly ok: true; readonly text: string; readonly site: SiteFile; readonly changes: readonly SiteChange[] }
  /** `count`: of all faults; the first of them are said. `lines` only where they were asked for. */
  | { readonly ok: false; readonly problems: readonly FieldProblem[]; readonly count: number; readonly lines: readonly number[] };

export type TextDone<T extends TextWork> = T extends { kind: 'edit' } ? string : ReadText;

const maxProblems = 100;

export function work(task: TextWork): string | ReadText {
  if (task.kind === 'edit') return editSite(task.text, task.edits);
  const read = readSite(task.text);
  if (read.ok)
    return { ok: true, text: upgradeSite(task.text), site: read.site, changes: task.against ? siteChanges(task.against, read.site) : [] };
  const problems = read.problems.slice(0, maxProblems);
  return { ok: false, problems, count: read.problems.length, lines: task.kind === 'check' ? linesOf(task.text, problems) : [] };
}

export default work;
