// The one error that people may read: a code for programs, what happened, and what to do about it.

export type ProblemCode =
  | 'bad-input'
  | 'bad-site'
  | 'bad-line'
  | 'not-found'
  | 'not-signed-in'
  | 'not-allowed'
  /** Whoever asks has to say once more who they are. */
  | 'not-confirmed'
  | 'conflict'
  | 'too-many-tries'
  | 'too-large'
  | 'unavailable';

/** One fault of an input: where it is, what is wrong, what is allowed. */
export type FieldProblem = { readonly path: string; readonly wrong: string; readonly allowed: string };

export class Problem extends Error {
  constructor(
    readonly code: ProblemCode,
    message: string,
    readonly hint: string,
    readonly problems: readonly FieldProblem[] = [],
  ) {
    super(message);
    this.name = 'Problem';
  }
}

/** A fault as one line: `cameras/0/zones/1/polygon: crosses itself …; allowed: …`. */
export const problemLine = (f: FieldProblem): string => `${f.path || '(whole file)'}: ${f.wrong}; allowed: ${f.allowed}`;

/** Whether a value that came from outside is an object with keys. */
export const isRecord = (v: unknown): v is Record<string, unknown> => typeof v === 'object' && v !== null && !Array.isArray(v);
