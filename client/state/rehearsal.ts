// What a rule would have done in the last seven days, asked again while it is changed. An answer comes line by line; one that is overtaken is
// left off, and what was known stays until more is.

import { useEffect, useState, useSyncExternalStore } from 'react';
import type { ChangedItem, DayAlerts, RehearsalLine, RehearsalResult } from '@nibber/core/rehearsal';
import type { Rule } from '@nibber/core/site';

export type Week = {
  /** Of the last whole answer. */
  readonly result: RehearsalResult<ChangedItem> | undefined;
  /** Of the answer that is coming, else of the last one. */
  readonly days: readonly DayAlerts[];
  /** The share of the work that is done, and what it is; nothing while none is under way. */
  readonly work: { readonly words: string; readonly done: number } | undefined;
  readonly failure: string | undefined;
  readonly isStopped: boolean;
};

/** Whoever shows a week listens to it by itself, so that what surrounds it is not drawn again at every line of the answer. */
export type RehearsalAsked = {
  readonly now: () => Week;
  readonly listen: (changed: () => void) => () => void;
  readonly stop: () => void;
  readonly goOn: () => void;
};

/** While a finger still moves nothing is asked. */
const settledMs = 100;
const unreachable = 'The last seven days could not be calculated. Try again.';
const nothing: Week = { result: undefined, days: [], work: undefined, failure: undefined, isStopped: false };
const reading = 'Loading recorded data';

function startAsking(): RehearsalAsked & { ask(rule: string | undefined): void } {
  let week = nothing;
  let asked: string | undefined;
  let own = new AbortController();
  let timer: ReturnType<typeof setTimeout> | undefined;
  const listeners = new Set<() => void>();
  const put = (next: Partial<Week>) => {
    week = { ...week, ...next };
    listeners.forEach((changed) => changed());
  };
  const leave = () => {
    clearTimeout(timer);
    own.abort();
  };
  const take = (line: RehearsalLine) => {
    if (line.kind === 'reading') put({ work: { words: reading, done: line.done } });
    else if (line.kind === 'judging') put({ work: { words: 'Calculating', done: line.done }, days: line.days });
    else if (line.kind === 'done') put({ result: line, days: line.days });
    else put({ failure: line.message });
  };
  const begin = () => {
    leave();
    if (asked === undefined) return;
    const [rule, { signal }] = [asked, (own = new AbortController())];
    timer = setTimeout(() => {
      put({ failure: undefined, work: { words: reading, done: 0 } });
      void askWeek(rule, signal, (line) => signal.aborted || take(line))
        .catch(() => signal.aborted || put({ failure: unreachable }))
        .finally(() => signal.aborted || put({ work: undefined }));
    }, settledMs);
  };
  return {
    now: () => week,
    listen(changed) {
      listeners.add(changed);
      return () => void listeners.delete(changed);
    },
    ask(rule) {
      asked = rule;
      if (week.isStopped) put({ isStopped: false });
      begin();
    },
    stop() {
      leave();
      put({ isStopped: true, work: undefined });
    },
    goOn() {
      put({ isStopped: false });
      begin();
    },
  };
}

/** @param rule as it is now; nothing while it cannot be tried */
export function useRehearsal(rule: Rule | undefined): RehearsalAsked {
  const [asking] = useState(startAsking);
  const asked = rule && JSON.stringify(rule);
  useEffect(() => asking.ask(asked), [asking, asked]);
  useEffect(() => () => asking.ask(undefined), [asking]);
  return asking;
}

/** Why the rule can never fire; changes with a whole answer only. */
export const useNever = (asked: RehearsalAsked): readonly string[] =>
  useSyncExternalStore(asked.listen, () => asked.now().result?.never ?? never);
const never: readonly string[] = [];

export const useRehearsalNow = (asked: RehearsalAsked): Week => useSyncExternalStore(asked.listen, asked.now);

async function askWeek(rule: string, signal: AbortSignal, take: (line: RehearsalLine) => void): Promise<void> {
  const { id } = JSON.parse(rule) as Rule;
  const answer = await fetch(`/api/rules/${encodeURIComponent(id)}/rehearsal`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: rule,
    signal,
  });
  if (!answer.ok) {
    const { error } = (await answer.json()) as { error: { message: string } };
    return take({ kind: 'failed', message: error.message });
  }
  for await (const line of linesOf(answer.body!)) take(JSON.parse(line) as RehearsalLine);
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
