// What this device remembers over a reload: settings and drafts.

const names = {
  settings: 'settings',
  drawing: 'drawing',
  plan: 'plan',
  schedules: 'schedules',
  rule: 'rule',
  siteText: 'siteText',
  tuning: 'tuningDraft',
} as const;
type Key = keyof typeof names;
type Stored = { readonly [K in (typeof names)[Key]]: unknown };

/** What was remembered under a key; undefined where nothing was, or where it cannot be read. */
export function remembered<T>(key: Key): T | undefined {
  try {
    const text = globalThis.localStorage?.getItem(`nibber ${key}`);
    return text ? (JSON.parse(text) as T) : undefined;
  } catch {
    return undefined;
  }
}

export function saveInStorage(state: () => Stored, subscribe: (listener: () => void) => void): void {
  let last: Stored | undefined;
  subscribe(() => {
    const now = state();
    for (const key of Object.keys(names) as Key[]) {
      const part = now[names[key]];
      if (part === last?.[names[key]]) continue;
      try {
        globalThis.localStorage?.setItem(`nibber ${key}`, JSON.stringify(part));
      } catch {
        // A full or forbidden storage loses a draft on reload, nothing else.
      }
    }
    last = now;
  });
}
