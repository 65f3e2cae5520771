// What a site file may say and this server does not act on yet. It is said where people look, so that no one relies on it.

import type { SiteFile } from '@nibber/core/site';

export function notYet(site: SiteFile): string[] {
  const { modes = [], rules = [], sensors = [] } = site;
  const names = (list: readonly { readonly name: string }[]) => list.map((e) => e.name).join(', ');
  const delayed = modes.filter((m) => m.exitDelaySeconds || m.entryDelaySeconds);
  return [
    ...(sensors.length ? [`${names(sensors)}: sensors cannot report yet.`] : []),
    ...(rules.some((r) => r.alarm) ? ['Alarms are not available yet. Their rules send normal alerts.'] : []),
    ...(delayed.length ? [`${names(delayed)}: exit and entry delays are not available yet. The mode applies at once.`] : []),
    ...(rules.some((r) => r.presence) ? ['Presence is not available yet. Rules that use it are always active.'] : []),
    ...(site.connection ? ['The connection policy is not used yet. A silent camera is reported and retried.'] : []),
  ];
}
