// Small schemas that the site file's parts share.

export const id = { type: 'string', pattern: '^[a-z0-9][a-z0-9-]{0,39}$' } as const;
export const name = { type: 'string', minLength: 1, maxLength: 80 } as const;
export const share = { type: 'number', minimum: 0, maximum: 1 } as const;
export const point = { type: 'array', items: { type: 'number' }, minItems: 2, maxItems: 2 } as const;
export const closed = { additionalProperties: false } as const;
export const clock = { type: 'string', pattern: '^([01]\\d|2[0-3]):[0-5]\\d$' } as const;
export const date = { type: 'string', pattern: '^\\d{4}-\\d{2}-\\d{2}$' } as const;

const end = '(\\d{2}:\\d{2}|(sunrise|sunset)( ?[+-] ?\\d{1,3} ?min)?)';
/** `18:00-08:00`, `sunset-sunrise`, `sunset - 30 min - 23:00`. */
export const spans = { type: 'array', maxItems: 48, items: { type: 'string', pattern: `^${end} ?- ?${end}$` } } as const;
/** `18:00 closed`: when, and the mode from then on. */
export const switches = { type: 'array', maxItems: 24, items: { type: 'string', pattern: `^${end} [a-z0-9][a-z0-9-]*$` } } as const;

/** One list for each day of the week. */
export const ofTheWeek = <T>(each: T) =>
  ({
    type: 'object',
    ...closed,
    properties: { mon: each, tue: each, wed: each, thu: each, fri: each, sat: each, sun: each },
  }) as const;

export const list = <T>(items: T) => ({ type: 'array', items }) as const;
