// Words as they stand in a sentence.

const lists = {
  and: new Intl.ListFormat('en-GB', { type: 'conjunction' }),
  or: new Intl.ListFormat('en-GB', { type: 'disjunction' }),
} as const;

/** `a`, `a or b`, `a, b or c`; for none of them `none`. */
export const listed = (words: readonly string[], link: keyof typeof lists, none = ''): string =>
  words.length < 2 ? (words[0] ?? none) : lists[link].format(words);
