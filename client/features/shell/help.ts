// Which section of the guide (docs/guide.md) belongs to a page.

/** The first that fits counts; a section is the id of its heading. */
const sections: readonly (readonly [path: RegExp, section: string])[] = [
  [/^\/first/, 'set-up-the-site'],
  [/^\/cameras\/new/, 'connect-a-camera'],
  [/^\/cameras\/./, 'follow-the-set-up-list'],
  [/^\/cameras/, 'watch-live'],
  [/^\/rules\/walk/, 'test'],
  [/^\/rules\/prompt-tests/, 'ai-services'],
  [/^\/rules/, 'write-rules'],
  [/^\/events/, 'events'],
  [/^\/ask/, 'ask-about-past-events'],
  [/^\/why/, 'why-was-i-not-notified'],
  [/^\/site\/settings/, 'set-up-the-site'],
  [/^\/site\/mine/, 'alerts-on-your-phone'],
  [/^\/site\/(people|access|known)/, 'people'],
  [/^\/site\/schedules/, 'schedules'],
  [/^\/site\/modes/, 'arm-and-disarm'],
  [/^\/site\/readings/, 'readings'],
  [/^\/site\/channels/, 'channels'],
  [/^\/site\/ai-services/, 'ai-services'],
  [/^\/site\/(storage|logbook)/, 'storage'],
  [/^\/site\/file/, 'edit-the-site-as-text'],
  [/^\/site/, 'for-the-owner'],
  [/^\/join/, 'for-the-household'],
  [/^\/$/, 'arm-and-disarm'],
];

/** Where the guide says what a page is for; its beginning for a page it does not name. */
export const helpFor = (path: string): string => {
  const section = sections.find(([fits]) => fits.test(path))?.[1];
  return section ? `/guide.html#${section}` : '/guide.html';
};

export const helpSections = sections.map(([, section]) => section);
