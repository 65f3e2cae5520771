// Asking again and again, while someone looks.

/** Options of a query: asked every so many milliseconds, not while the page is in the background; 0: not again. */
export const every = (ms: number) => ({ pollingInterval: ms, skipPollingIfUnfocused: true }) as const;
