// What a person of the site sees, and until when they belong to it.

import type { Person, SiteFile } from '../site';
import { dayMs, wallTime, type Instant } from '../time';
import { Problem } from '../problem';
import { may, type Actor } from '../permissions';

/** What someone may see: asked for a camera, an area, and whatever happened at either. */
export type PersonAccess = {
  /** Whether nothing is kept from her. */
  readonly isWhole: boolean;
  camera(id: string): boolean;
  /** The area itself: its mode, its sensors, with every camera in it. */
  area(id: string): boolean;
  /** What happened: at a camera they see, or, where it is of none, in an area that they see. */
  happened(of: { readonly camera: string | null | undefined; readonly area: string }): boolean;
};

const whole: PersonAccess = { isWhole: true, camera: () => true, area: () => true, happened: () => true };

/** @param person who looks; everything for a script, which is of no one */
export function accessOf(site: Pick<SiteFile, 'cameras'>, person: Pick<Person, 'access'> | undefined): PersonAccess {
  const access = person?.access;
  if (!access) return whole;
  const areas = new Set(access.areas ?? []);
  const single = new Set(access.cameras ?? []);
  const cameras = new Set(site.cameras.filter((c) => single.has(c.id) || areas.has(c.area)).map((c) => c.id));
  const area = (id: string) => areas.has(id);
  return {
    isWhole: false,
    camera: (id) => cameras.has(id),
    area,
    happened: (of) => (typeof of.camera === 'string' ? cameras.has(of.camera) : area(of.area)),
  };
}

/** Whether they are let in at an instant: their last day ends with it, by the clock on the wall of the site. */
export function belongsAt(person: Pick<Person, 'until'>, zone: string, at: Instant): boolean {
  if (person.until === undefined) return true;
  return wallTime(zone, at).day <= Math.floor(Date.parse(`${person.until}T00:00:00Z`) / dayMs);
}

/** The site as far as someone sees it: areas, cameras, sensors, rules of these, and what switches by itself there. */
export function siteSeen(site: SiteFile, visible: PersonAccess): SiteFile {
  if (visible.isWhole) return site;
  const cameras = site.cameras.filter((c) => visible.camera(c.id));
  const sensors = (site.sensors ?? []).filter((s) => visible.area(s.area));
  const watches = (ids: readonly string[] | undefined, there: readonly { readonly id: string }[]) =>
    (ids ?? []).filter((id) => there.some((t) => t.id === id));
  return {
    ...site,
    areas: site.areas.filter((a) => visible.area(a.id)),
    cameras,
    sensors,
    rules: (site.rules ?? []).flatMap((rule) => {
      const [seen, heard] = [watches(rule.cameras, cameras), watches(rule.sensors, sensors)];
      return seen.length + heard.length === 0 ? [] : [{ ...rule, cameras: seen, ...(rule.sensors ? { sensors: heard } : {}) }];
    }),
    modeSchedules: (site.modeSchedules ?? []).flatMap((s) => {
      const areas = s.areas.filter(visible.area);
      return areas.length === 0 ? [] : [{ ...s, areas }];
    }),
    known: [],
    plan: undefined,
  };
}

/** People as others see them: by name and role. Addresses and alert settings are visible to that person, owners and installers. */
export const peopleSeen = (people: readonly Person[], looks: { readonly person: string | undefined; readonly setsUp: boolean }): Person[] =>
  people.map((p) => (looks.setsUp || p.id === looks.person ? p : { id: p.id, name: p.name, role: p.role }));

/** What decides whether an owner is let in, what they see, and how they are reached; how they take their alerts is no part of it. */
const guarded = ['name', 'role', 'until', 'mail', 'phone', 'channels'] as const satisfies readonly (keyof Person)[];

type Peopled = Pick<SiteFile, 'people' | 'cameras' | 'areas'>;
const ownersOf = ({ people = [] }: Peopled) => people.filter((p) => p.role === 'owner');
/** Owners who stay: those whose last day is not set. */
export const lastingOwners = (site: Peopled): Person[] => ownersOf(site).filter((p) => p.until === undefined);

function isSameOwner(was: Person | undefined, is: Person | undefined, after: Peopled): boolean {
  if (!was || !is) return false;
  // What an owner sees is no less where what went was taken out of the site.
  const there = (p: Person) => p.access && seenStill(p.access, after);
  const shown = (p: Person) => JSON.stringify([...guarded.map((name) => p[name] ?? null), there(p) ?? null]);
  return shown(was) === shown(is);
}

/** Whether it changes who comes in: someone more or less, another role, another last day, more or less that they see. */
export function changesAccess(before: Peopled, after: Peopled): boolean {
  const access = ({ people = [] }: Peopled) =>
    JSON.stringify(people.map(({ id, role, until, access }) => [id, role, until ?? null, access ?? null]).sort());
  // What went of the site is no less to see.
  const still: Peopled = { ...before, people: before.people?.map((p) => (p.access ? { ...p, access: seenStill(p.access, after) } : p)) };
  return access(still) !== access(after);
}
const seenStill = (access: NonNullable<Person['access']>, after: Peopled): NonNullable<Person['access']> => ({
  ...(access.areas ? { areas: access.areas.filter((a) => after.areas.some((o) => o.id === a)) } : {}),
  ...(access.cameras ? { cameras: access.cameras.filter((c) => after.cameras.some((o) => o.id === c)) } : {}),
});

/**
 * Whether a change of the site leaves its owners as they may be left, whichever way it comes.
 * @throws Problem 'not-allowed' where an owner is made, changed or removed by one who may not; 'conflict' where no owner would stay
 */
export function refuseChangedOwners(before: Peopled, after: Peopled, by: Actor): void {
  const ids = new Set([...ownersOf(before), ...ownersOf(after)].map((p) => p.id));
  for (const id of ids) {
    const [was, is] = [before, after].map(({ people }) => people?.find((p) => p.id === id));
    if (!may(by.role, 'change owners') && !isSameOwner(was, is, after))
      throw new Problem(
        'not-allowed',
        `Only an owner can change the owner ${was?.name ?? is!.name}.`,
        'Ask the owner. Nothing was changed.',
      );
  }
  const [staying] = lastingOwners(before);
  // A site file that is named where the program is started may begin a site again; the set-up code then makes an owner.
  if (staying && !by.isProgram && lastingOwners(after).length === 0)
    throw new Problem('conflict', `${staying.name} is the only owner.`, 'Make someone else an owner first. Nothing was changed.');
}
