// What a rule would have done in the last seven days, asked anew while it is changed. An answer comes line by line; one that is overtaken is
// left off, and what was known stays until more is.

import { useEffect, useRef, useState } from 'react';
import type { ChangedItem, DayTold, WeekLine, WeekResult } from '@nibber/core/rehearsal';
import type { Rule } from '@nibber/core/site';

export type Week = {
  /** Of the last whole answer. */
  readonly result: WeekResult<ChangedItem> | undefined;
  /** Of the answer that is coming, else of the last one. */
  readonly days: readonly DayTold[];
  /** The share of the work that is done, and what it is; nothing while none is under way. */
  readonly work: { readonly words: string; readonly done: number } | undefined;
  readonly failure: string | undefined;
  readonly isStopped: boolean;
  readonly stop: () => void;
  readonly goOn: () => void;
};

/** While a finger still moves nothing is asked. */
const settledMs = 100;
const unreachable = 'The last seven days could not be worked out. Try again in a moment.';

/** @param rule as it is now; nothing while it cannot be tried */
export function useWeek(rule: Rule | undefined): Week {
  const [result, setResult] = useState<WeekResult<ChangedItem>>();
  const [days, setDays] = useState<readonly DayTold[]>([]);
  const [work, setWork] = useState<Week['work']>();
  const [failure, setFailure] = useState<string>();
  const [stoppedAt, setStoppedAt] = useState<string>();
  const leave = useRef(new AbortController());
  const asked = rule && JSON.stringify(rule);
  const isStopped = asked !== undefined && stoppedAt === asked;
  useEffect(() => {
    if (asked === undefined || isStopped) return;
    const own = (leave.current = new AbortController());
    const timer = setTimeout(() => {
      setFailure(undefined);
      setWork({ words: 'Reading what was recorded', done: 0 });
      const take = (line: WeekLine) => {
        if (own.signal.aborted) return;
        if (line.kind === 'reading') setWork({ words: 'Reading what was recorded', done: line.done });
        else if (line.kind === 'judging') {
          setWork({ words: 'Going through the days', done: line.done });
          setDays(line.days);
        } else if (line.kind === 'done') {
          setResult(line);
          setDays(line.days);
        } else setFailure(line.message);
      };
      void askWeek(asked, own.signal, take)
        .catch(() => own.signal.aborted || setFailure(unreachable))
        .finally(() => own.signal.aborted || setWork(undefined));
    }, settledMs);
    return () => {
      clearTimeout(timer);
      own.abort();
    };
  }, [asked, isStopped]);
  return {
    result,
    days,
    work: isStopped ? undefined : work,
    failure,
    isStopped,
    stop() {
      leave.current.abort();
      setStoppedAt(asked);
      setWork(undefined);
    },
    goOn: () => setStoppedAt(undefined),
  };
}

async function askWeek(rule: string, signal: AbortSignal, take: (line: WeekLine) => void): Promise<void> {
  const { id } = JSON.parse(rule) as Rule;
  const answer = await fetch(`/api/rules/${encodeURIComponent(id)}/week`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: rule,
    signal,
  });
  if (!answer.ok) {
    const { error } = (await answer.json()) as { error: { message: string } };
    return take({ kind: 'failed', message: error.message });
  }
  for await (const line of linesOf(answer.body!)) take(JSON.parse(line) as WeekLine);
}

/** The lines of a body as they come. */
export async function* linesOf(body: ReadableStream<Uint8Array>): AsyncGenerator<string> {
  const reader = body.getReader();
  const decoder = new TextDecoder();
  let rest = '';
  for (;;) {
    const { done, value } = await reader.read();
    rest += decoder.decode(value, { stream: !done });
    const lines = rest.split('\n');
    rest = lines.pop() ?? '';
    yield* lines.filter((line) => line !== '');
    if (done) break;
  }
  if (rest !== '') yield rest;
}
