// Where someone is reached, as it is typed; the same forms as the site file asks for.

/** One mailbox, bare. */
export const isMail = (text: string): boolean => /^[^\s@<>(),;:"]{1,64}@[A-Za-z0-9][A-Za-z0-9.-]{0,250}$/.test(text);
/** With its country (ITU-T E.164). */
export const isPhone = (text: string): boolean => /^\+[1-9][0-9]{4,14}$/.test(text);
/** A number is written with what parts it. */
export const withoutBlanks = (text: string): string => text.replace(/[\s()/-]/g, '');
