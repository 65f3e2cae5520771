// What this device remembers over a reload: settings and drafts.

type Kept = { settings: unknown; drawing: unknown };

/** What was remembered under a key; undefined where nothing was, or where it cannot be read. */
export function remembered<T>(key: keyof Kept): T | undefined {
  try {
    const text = globalThis.localStorage?.getItem(`nibber ${key}`);
    return text ? (JSON.parse(text) as T) : undefined;
  } catch {
    return undefined;
  }
}

export function keepInStorage(state: () => Kept, subscribe: (listener: () => void) => void): void {
  let last: Partial<Kept> = {};
  subscribe(() => {
    const now = state();
    for (const key of ['settings', 'drawing'] as const) {
      if (now[key] === last[key]) continue;
      try {
        globalThis.localStorage?.setItem(`nibber ${key}`, JSON.stringify(now[key]));
      } catch {
        // A full or forbidden storage loses a draft on reload, nothing else.
      }
    }
    last = { settings: now.settings, drawing: now.drawing };
  });
}
