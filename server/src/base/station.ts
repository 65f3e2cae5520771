// What every station of a site has: a name, its problems, and an end.

/** outage: no alert can be sent; degraded: something is not watched, not sent or late; notice: worth a look, no alert is affected. */
export const severities = ['outage', 'degraded', 'notice'] as const;
export type Severity = (typeof severities)[number];
/** `text` says what is wrong, and what it means where the severity alone does not. */
export type StationProblem = { readonly severity: Severity; readonly text: string };

export type Station = {
  readonly name: string;
  /** What does not work now; nothing while all is well. */
  problems(): readonly StationProblem[];
  close(): Promise<void>;
};

/** Problems of one severity; what is undefined is none. */
export const problemsOf = (severity: Severity, ...texts: readonly (string | undefined)[]): readonly StationProblem[] =>
  texts.flatMap((text) => (text === undefined ? [] : [{ severity, text }]));

/** A station without problems of its own, or with nothing to end. */
export const station = (name: string, { problems = () => [], close = async () => {} }: Partial<Station>): Station => ({
  name,
  problems,
  close,
});
