// Plain English, as tests look for it: in the sources and on the screens.

/** Words with a plainer one that is used everywhere instead. */
export const banned =
  /\b(anew|besides|any more|in vain|amiss|all the same|somebody|nobody|anybody|everybody|whoever|hangs? on|put right|sign(ed|s)? up|sign(ed|s)? off|describing service|wordings?|as it stands|is no (?!longer|rule|alarm)|there (is|are) no such|is told|are told|was told)\b/i;

/** The words of a label: of its first line, without numbers and what is in brackets or after a comma. */
export const labelLength = (text: string): number => {
  const [line] = text.replace(/\(.*\)/g, '').split(/[\n,]/, 1);
  return line!.split(/\s+/).filter((w) => /[a-z]/i.test(w)).length;
};
export const maxLabelWords = 4;

/** Texts that are no one's to read, or that must say one of these words, each with its reason. */
export const exceptions: readonly (readonly [place: RegExp, why: string])[] = [
  [/^core\/src\/asking\//, 'the words in which people ask'],
  [/^core\/src\/describing\/(asking|request)\.ts/, 'prompts, which keep their wording'],
  [/^server\/src\/db\/(steps|found|jobs|media|database)\.ts/, 'SQL'],
  [/^standins\/src\/(describer\/|cameras\/cast\.ts)/, 'what a model says by itself, and what stands on a sign'],
];

/** Labels that may be longer, by their test id or text, each with its reason. */
export const longLabels: readonly (readonly [known: RegExp, why: string])[] = [
  [/^part-/, 'a part of the sentence of a rule'],
  [/^ask-example-/, 'a question as people ask it'],
  [/^[A-Z].*\.$/, 'an answer is a sentence'],
  [/^Camera with its own app$/, 'no shorter name is as clear'],
];
