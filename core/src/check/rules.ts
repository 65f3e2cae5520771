// Whether rules can be used: what they name is there, and what they ask can be answered.

import { personChannels } from '../channels';
import { roles, type Camera, type Rule, type SiteFile } from '../site';
import type { FieldProblem } from '../problem';
import { placeholders, unknownIn } from '../rules/message';
import { zoneOf } from '../rules/where';
import { ids, orNone, unknown } from './known';

type RuleBehaviour = Rule['behaviour'];
type Key = Exclude<keyof RuleBehaviour, 'kind'>;

const dwell: readonly Key[] = ['frames', 'seconds', 'graceSeconds'];

/** The fields each behaviour requires, and those it allows. */
const parts: { readonly [K in RuleBehaviour['kind']]: { readonly must: readonly Key[]; readonly may: readonly Key[] } } = {
  appears: { must: [], may: ['zone', 'zoneByCamera', ...dwell] },
  stays: { must: [], may: ['zone', 'zoneByCamera', ...dwell] },
  goes: { must: ['from', 'to'], may: ['bothDirections', ...dwell] },
  crosses: { must: ['line'], may: ['direction', 'margin'] },
  count: { must: [], may: ['zone', 'zoneByCamera', 'over', 'under', ...dwell] },
  empty: { must: [], may: ['zone', 'zoneByCamera', ...dwell] },
  approaches: { must: ['metres'], may: ['zone', 'zoneByCamera', ...dwell] },
  returns: { must: [], may: ['zone', 'zoneByCamera', 'by', 'known', 'who', ...dwell] },
  reports: { must: [], may: ['states'] },
};

const wanted: Partial<Record<Key, string>> = {
  from: 'the id of a zone',
  to: 'the id of a zone',
  line: 'the id of a line',
  metres: 'a distance',
};

export function ruleProblems(site: SiteFile): FieldProblem[] {
  const people = [...ids(site.people), ...roles];
  return (site.rules ?? []).flatMap((rule, i) => {
    const path = `rules/${i}`;
    return [
      ...rule.cameras.flatMap((id, j) => unknown(ids(site.cameras), id, `${path}/cameras/${j}`, 'camera')),
      ...(rule.sensors ?? []).flatMap((id, j) => unknown(ids(site.sensors), id, `${path}/sensors/${j}`, 'sensor')),
      ...(rule.modes ?? []).flatMap((id, j) => unknown(ids(site.modes), id, `${path}/modes/${j}`, 'mode')),
      ...unknown(ids(site.schedules), rule.schedule, `${path}/schedule`, 'schedule'),
      ...(rule.notify ?? []).flatMap((t, j) => notifiedProblems(site, people, t, `${path}/notify/${j}`)),
      ...sourceProblems(rule, path),
      ...behaviourProblems(site, rule, `${path}/behaviour`),
      ...placeProblems(site, rule, `${path}/behaviour`),
      ...aimProblems(site, rule, path),
      ...messageProblems(rule, `${path}/message`),
      ...questionProblems(rule, `${path}/question`),
    ];
  });
}

function questionProblems({ question, behaviour }: Rule, path: string): FieldProblem[] {
  if (!question) return [];
  return [
    ...(question.words === undefined && !question.unlessKnown
      ? [{ path, wrong: 'has no question', allowed: 'words: a question with yes or no, or unlessKnown: true' }]
      : []),
    ...(question.alertIf !== undefined && question.words === undefined
      ? [{ path: `${path}/alertIf`, wrong: 'has no question', allowed: 'words: a question with yes or no' }]
      : []),
    ...(behaviour.kind === 'reports' ? [{ path, wrong: 'needs a picture, and a sensor has none', allowed: 'only for cameras' }] : []),
  ];
}

/** A person or a role is notified by a channel for people; another program by its own channel. */
export function notifiedProblems(
  site: SiteFile,
  people: readonly string[],
  { to, channel }: NonNullable<Rule['notify']>[number],
  path: string,
): FieldProblem[] {
  const receiver = site.receivers?.find((r) => r.id === to);
  if (!receiver) {
    const isOfPeople = (personChannels as readonly string[]).includes(channel);
    return isOfPeople
      ? unknown(people, to, `${path}/to`, 'person or role')
      : unknown(ids(site.receivers), to, `${path}/to`, `receiver by ${channel}`);
  }
  return receiver.by === channel
    ? []
    : [{ path: `${path}/channel`, wrong: `is ${channel}, but ${receiver.name} uses ${receiver.by}`, allowed: receiver.by }];
}

function sourceProblems(rule: Rule, path: string): FieldProblem[] {
  const isOfSensors = rule.behaviour.kind === 'reports';
  if (isOfSensors)
    return [
      ...(rule.sensors?.length ? [] : [{ path, wrong: 'has no sensor', allowed: 'sensors: ids of sensors' }]),
      ...(rule.cameras.length ? [{ path: `${path}/cameras`, wrong: 'are given with reports', allowed: 'none: only sensors report' }] : []),
    ];
  return [
    ...(rule.cameras.length ? [] : [{ path: `${path}/cameras`, wrong: 'is empty', allowed: 'at least one camera' }]),
    ...(rule.classes.length ? [] : [{ path: `${path}/classes`, wrong: 'is empty', allowed: 'at least one class or type' }]),
    ...(rule.sensors ? [{ path: `${path}/sensors`, wrong: `are given with ${rule.behaviour.kind}`, allowed: 'only with reports' }] : []),
  ];
}

function behaviourProblems(site: SiteFile, { behaviour }: Rule, path: string): FieldProblem[] {
  const { must, may } = parts[behaviour.kind];
  const given = (Object.keys(behaviour) as (keyof RuleBehaviour)[]).filter((k): k is Key => k !== 'kind');
  const problems: FieldProblem[] = [
    ...must.filter((k) => behaviour[k] === undefined).map((k) => ({ path, wrong: `${k} is missing`, allowed: wanted[k] ?? 'required' })),
    ...given
      .filter((k) => !must.includes(k) && !may.includes(k))
      .map((k) => ({ path: `${path}/${k}`, wrong: `does not belong to ${behaviour.kind}`, allowed: [...must, ...may].join(', ') })),
  ];
  if (behaviour.kind === 'goes' && behaviour.from !== undefined && behaviour.from === behaviour.to)
    problems.push({ path: `${path}/to`, wrong: `is ${behaviour.to}, the same as from`, allowed: 'another zone' });
  if (behaviour.kind === 'count' && (behaviour.over === undefined) === (behaviour.under === undefined))
    problems.push({ path, wrong: 'needs over or under', allowed: 'one of them' });
  if (behaviour.kind === 'returns') {
    const by = behaviour.by ?? 'plate';
    const able = (site.known ?? []).filter(
      (k) => (by === 'plate' ? k.plate : (k.fields as Record<string, string> | undefined)?.[by]) !== undefined,
    );
    (behaviour.who ?? []).forEach((id, j) => problems.push(...unknown(ids(able), id, `${path}/who/${j}`, `entry of known with a ${by}`)));
    if (able.length === 0) problems.push({ path, wrong: `nothing is known by its ${by}`, allowed: `known: entries with a ${by}` });
  }
  return problems;
}

/** Zones and lines must be on every camera that the rule watches. */
function placeProblems(site: SiteFile, { behaviour, cameras }: Rule, path: string): FieldProblem[] {
  const watched = (c: Camera) => ids((c.zones ?? []).filter((z) => z.purpose === 'watch'));
  const strange = Object.keys(behaviour.zoneByCamera ?? {}).flatMap((id) =>
    unknown([...cameras], id, `${path}/zoneByCamera/${id}`, 'camera of the rule'),
  );
  const own = cameras.flatMap((cameraId) => {
    const camera = site.cameras.find((c) => c.id === cameraId);
    if (!camera) return [];
    const asked = { zone: zoneOf(behaviour, cameraId), from: behaviour.from, to: behaviour.to };
    const zones = (['zone', 'from', 'to'] as const).flatMap((key) =>
      unknown(
        watched(camera),
        asked[key],
        key === 'zone' && behaviour.zoneByCamera ? `${path}/zoneByCamera/${cameraId}` : `${path}/${key}`,
        `watched zone of ${camera.id}`,
      ),
    );
    return [...zones, ...unknown(ids(camera.lines), behaviour.line, `${path}/line`, `line of ${camera.id}`)];
  });
  return [...strange, ...own];
}

function aimProblems(site: SiteFile, rule: Rule, path: string): FieldProblem[] {
  const prompt = [
    ...(rule.behaviour.kind === 'approaches' ? [`${path}/behaviour`] : []),
    ...(rule.size?.metres ? [`${path}/size/metres`] : []),
  ];
  const unaimed = site.cameras.filter((c) => rule.cameras.includes(c.id) && !c.aim);
  return unaimed.length
    ? prompt.map((at) => ({ path: at, wrong: `uses metres, but ${orNone(ids(unaimed))} has no aim`, allowed: 'cameras with an aim' }))
    : [];
}

const messageProblems = ({ message = {} }: Rule, path: string): FieldProblem[] =>
  (['title', 'text'] as const).flatMap((key) =>
    unknownIn(message[key] ?? '').map((name) => ({
      path: `${path}/${key}`,
      wrong: `{${name}} is not a placeholder`,
      allowed: placeholders.map((p) => `{${p}}`).join(' '),
    })),
  );
