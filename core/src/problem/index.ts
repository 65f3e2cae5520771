// The one error that people may read: a code for programs, what happened, and what to do about it.

export type TroubleCode =
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
export type Fault = { readonly path: string; readonly wrong: string; readonly allowed: string };

export class Trouble extends Error {
  constructor(
    readonly code: TroubleCode,
    message: string,
    readonly remedy: string,
    readonly faults: readonly Fault[] = [],
  ) {
    super(message);
    this.name = 'Trouble';
  }
}

/** A fault as one line: `cameras/0/zones/1/polygon: crosses itself …; allowed: …`. */
export const faultLine = (f: Fault): string => `${f.path || '(whole file)'}: ${f.wrong}; allowed: ${f.allowed}`;

/** Whether a value that came from outside is an object with keys. */
export const isRecord = (v: unknown): v is Record<string, unknown> => typeof v === 'object' && v !== null && !Array.isArray(v);
