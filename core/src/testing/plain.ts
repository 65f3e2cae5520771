// Plain English, as tests look for it: in the sources and on the screens.

/** Words with a plainer one that is used everywhere instead. */
export const banned = /\b(anew|besides|any more|in vain|amiss|all the same|somebody|nobody|anybody|everybody|whoever|hangs? on|put right|sign(ed|s)? up|sign(ed|s)? off|describing service|wordings?|as it stands|is no (?!longer|rule|alarm)|there (is|are) no such|is told|are told|was told)\b/i; // prettier-ignore

/** The words of a label: of its first line, without numbers and what is in brackets or after a comma. */
export const labelLength = (text: string): number => {
  const [line] = text.replace(/\(.*\)/g, '').split(/[\n,]/, 1);
  return line!.split(/\s+/).filter((w) => /[a-z]/i.test(w)).length;
};
export const maxLabelWords = 4;
