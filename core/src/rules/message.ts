// What a notification says, in one's own words: text with placeholders that the event fills in.

export const placeholders = ['rule', 'camera', 'zone', 'area', 'class', 'time', 'count', 'sensor', 'mode'] as const;
export type Placeholder = (typeof placeholders)[number];

export type MessageValues = { readonly [P in Placeholder]?: string | undefined };

const form = /\{([^{}]*)\}/g;

/** Names in braces that are no placeholders. */
export const unknownIn = (text: string): string[] =>
  [...text.matchAll(form)].map((m) => m[1]!).filter((name) => !(placeholders as readonly string[]).includes(name));

/** The text as it is sent; what an event does not have is left out, with the space before it. */
export const filledIn = (text: string, values: MessageValues): string =>
  text
    .replace(form, (_whole, name: string) => values[name as Placeholder] ?? '')
    .replace(/ {2,}/g, ' ')
    .replace(/ ([,.;:!?])/g, '$1')
    .trim();
