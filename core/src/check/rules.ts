// Whether rules can be used: what they name is there, and what they ask can be answered.

import { personChannels } from '../channels';
import { roles, type Camera, type Rule, type SiteFile } from '../site';
import type { Fault } from '../problem';
import { placeholders, unknownIn } from '../rules/message';
import { zoneOf } from '../rules/where';
import { ids, orNone, unknown } from './known';

type Does = Rule['does'];
type Key = Exclude<keyof Does, 'kind'>;

const dwell: readonly Key[] = ['frames', 'seconds', 'graceSeconds'];

/** What each behaviour must be told, and what it may be told besides. */
const parts: { readonly [K in Does['kind']]: { readonly must: readonly Key[]; readonly may: readonly Key[] } } = {
  appears: { must: [], may: ['zone', 'zoneAt', ...dwell] },
  stays: { must: [], may: ['zone', 'zoneAt', ...dwell] },
  goes: { must: ['from', 'to'], may: ['either', ...dwell] },
  crosses: { must: ['line'], may: ['direction', 'margin'] },
  count: { must: [], may: ['zone', 'zoneAt', 'over', 'under', ...dwell] },
  empty: { must: [], may: ['zone', 'zoneAt', ...dwell] },
  approaches: { must: ['metres'], may: ['zone', 'zoneAt', ...dwell] },
  returns: { must: [], may: ['zone', 'zoneAt', 'by', 'known', 'who', ...dwell] },
  reports: { must: [], may: ['states'] },
};

const wanted: Partial<Record<Key, string>> = {
  from: 'the id of a zone',
  to: 'the id of a zone',
  line: 'the id of a line',
  metres: 'a distance',
};

export function ruleFaults(site: SiteFile): Fault[] {
  const people = [...ids(site.people), ...roles];
  return (site.rules ?? []).flatMap((rule, i) => {
    const path = `rules/${i}`;
    return [
      ...rule.cameras.flatMap((id, j) => unknown(ids(site.cameras), id, `${path}/cameras/${j}`, 'camera')),
      ...(rule.sensors ?? []).flatMap((id, j) => unknown(ids(site.sensors), id, `${path}/sensors/${j}`, 'sensor')),
      ...(rule.modes ?? []).flatMap((id, j) => unknown(ids(site.modes), id, `${path}/modes/${j}`, 'mode')),
      ...unknown(ids(site.hours), rule.hours, `${path}/hours`, 'schedule'),
      ...(rule.tell ?? []).flatMap((t, j) => toldFaults(site, people, t, `${path}/tell/${j}`)),
      ...sourceFaults(rule, path),
      ...doesFaults(site, rule, `${path}/does`),
      ...placeFaults(site, rule, `${path}/does`),
      ...aimFaults(site, rule, path),
      ...messageFaults(rule, `${path}/message`),
      ...questionFaults(rule, `${path}/question`),
    ];
  });
}

function questionFaults({ question, does }: Rule, path: string): Fault[] {
  if (!question) return [];
  return [
    ...(question.words === undefined && !question.unlessKnown
      ? [{ path, wrong: 'has no question', allowed: 'words: a question with yes or no, or unlessKnown: true' }]
      : []),
    ...(question.tellIf !== undefined && question.words === undefined
      ? [{ path: `${path}/tellIf`, wrong: 'has no question', allowed: 'words: a question with yes or no' }]
      : []),
    ...(does.kind === 'reports' ? [{ path, wrong: 'needs a picture, and a sensor has none', allowed: 'only for cameras' }] : []),
  ];
}

/** A person or a role is told by what reaches people; another program by its own channel. */
export function toldFaults(
  site: SiteFile,
  people: readonly string[],
  { to, by }: NonNullable<Rule['tell']>[number],
  path: string,
): Fault[] {
  const receiver = site.receivers?.find((r) => r.id === to);
  if (!receiver) {
    const isOfPeople = (personChannels as readonly string[]).includes(by);
    return isOfPeople
      ? unknown(people, to, `${path}/to`, 'person or role')
      : unknown(ids(site.receivers), to, `${path}/to`, `receiver by ${by}`);
  }
  return receiver.by === by ? [] : [{ path: `${path}/by`, wrong: `is ${by}, but ${receiver.name} uses ${receiver.by}`, allowed: receiver.by }]; // prettier-ignore
}

function sourceFaults(rule: Rule, path: string): Fault[] {
  const isOfSensors = rule.does.kind === 'reports';
  if (isOfSensors)
    return [
      ...(rule.sensors?.length ? [] : [{ path, wrong: 'has no sensor', allowed: 'sensors: ids of sensors' }]),
      ...(rule.cameras.length ? [{ path: `${path}/cameras`, wrong: 'are given with reports', allowed: 'none: only sensors report' }] : []),
    ];
  return [
    ...(rule.cameras.length ? [] : [{ path: `${path}/cameras`, wrong: 'is empty', allowed: 'at least one camera' }]),
    ...(rule.classes.length ? [] : [{ path: `${path}/classes`, wrong: 'is empty', allowed: 'at least one class or type' }]),
    ...(rule.sensors ? [{ path: `${path}/sensors`, wrong: `are given with ${rule.does.kind}`, allowed: 'only with reports' }] : []),
  ];
}

function doesFaults(site: SiteFile, { does }: Rule, path: string): Fault[] {
  const { must, may } = parts[does.kind];
  const given = (Object.keys(does) as (keyof Does)[]).filter((k): k is Key => k !== 'kind');
  const faults: Fault[] = [
    ...must.filter((k) => does[k] === undefined).map((k) => ({ path, wrong: `${k} is missing`, allowed: wanted[k] ?? 'required' })),
    ...given
      .filter((k) => !must.includes(k) && !may.includes(k))
      .map((k) => ({ path: `${path}/${k}`, wrong: `does not belong to ${does.kind}`, allowed: [...must, ...may].join(', ') })),
  ];
  if (does.kind === 'goes' && does.from !== undefined && does.from === does.to)
    faults.push({ path: `${path}/to`, wrong: `is ${does.to}, the same as from`, allowed: 'another zone' });
  if (does.kind === 'count' && (does.over === undefined) === (does.under === undefined))
    faults.push({ path, wrong: 'needs over or under', allowed: 'one of them' });
  if (does.kind === 'returns') {
    const by = does.by ?? 'plate';
    const able = (site.known ?? []).filter(
      (k) => (by === 'plate' ? k.plate : (k.fields as Record<string, string> | undefined)?.[by]) !== undefined,
    );
    (does.who ?? []).forEach((id, j) => faults.push(...unknown(ids(able), id, `${path}/who/${j}`, `entry of known with a ${by}`)));
    if (able.length === 0) faults.push({ path, wrong: `nothing is known by its ${by}`, allowed: `known: entries with a ${by}` });
  }
  return faults;
}

/** Zones and lines must be on every camera that the rule watches. */
function placeFaults(site: SiteFile, { does, cameras }: Rule, path: string): Fault[] {
  const watched = (c: Camera) => ids((c.zones ?? []).filter((z) => z.purpose === 'watch'));
  const strange = Object.keys(does.zoneAt ?? {}).flatMap((id) => unknown([...cameras], id, `${path}/zoneAt/${id}`, 'camera of the rule'));
  const own = cameras.flatMap((cameraId) => {
    const camera = site.cameras.find((c) => c.id === cameraId);
    if (!camera) return [];
    const asked = { zone: zoneOf(does, cameraId), from: does.from, to: does.to };
    const zones = (['zone', 'from', 'to'] as const).flatMap(
      (key) =>
      unknown(watched(camera), asked[key], key === 'zone' && does.zoneAt ? `${path}/zoneAt/${cameraId}` : `${path}/${key}`, `watched zone of ${camera.id}`), // prettier-ignore
    );
    return [...zones, ...unknown(ids(camera.lines), does.line, `${path}/line`, `line of ${camera.id}`)];
  });
  return [...strange, ...own];
}

function aimFaults(site: SiteFile, rule: Rule, path: string): Fault[] {
  const asks = [...(rule.does.kind === 'approaches' ? [`${path}/does`] : []), ...(rule.size?.metres ? [`${path}/size/metres`] : [])];
  const unaimed = site.cameras.filter((c) => rule.cameras.includes(c.id) && !c.aim);
  return unaimed.length
    ? asks.map((at) => ({ path: at, wrong: `uses metres, but ${orNone(ids(unaimed))} has no aim`, allowed: 'cameras with an aim' }))
    : [];
}

const messageFaults = ({ message = {} }: Rule, path: string): Fault[] =>
  (['title', 'text'] as const).flatMap((key) =>
    unknownIn(message[key] ?? '').map((name) => ({
      path: `${path}/${key}`,
      wrong: `{${name}} is not a placeholder`,
      allowed: placeholders.map((p) => `{${p}}`).join(' '),
    })),
  );
