// A rule as a sentence: plain words and parts that can be changed.

import { zoneOf, type Lack } from '@nibber/core/rules';
import type { AskedLooks, Rule } from '@nibber/core/site';
import { counted, listed } from '@nibber/core/words';
import type { CameraAnswer, Site } from '../../state/api/types';
import { channelText } from '@nibber/core/channels';
import { duration } from '../../ui/times';

export type PartName =
  | Lack['part']
  | 'anchor'
  | 'confidence'
  | 'except'
  | 'for'
  | 'schedule'
  | 'looks'
  | 'message'
  | 'presence'
  | 'question'
  | 'cooldown'
  | 'urgent';
export type Part = { readonly part: PartName; readonly words: string };
export type Piece = string | Part;

type Camera = Pick<CameraAnswer, 'id' | 'name' | 'zones' | 'lines'>;
type Place = Pick<Site, 'modes' | 'schedules' | 'people' | 'receivers'>;

export function sentenceOf(rule: Rule, site: Place, cameras: readonly Camera[]): Piece[] {
  const rest = rule.cooldownSeconds ?? 0;
  const schedule = site.schedules.find((h) => h.id === rule.schedule);
  const pieces: Piece[] = [
    ...happening(
      rule,
      cameras.filter((c) => rule.cameras.includes(c.id)),
    ),
    rule.modes ? ' while ' : ' in ',
    { part: 'modes', words: modesWords(rule, site) },
    ...(rule.presence
      ? [' and ', { part: 'presence', words: `${rule.presence === 'no one' ? 'no one' : 'someone'} is on site` } as const]
      : []),
    ', ',
    { part: 'schedule', words: schedule ? scheduleWords(schedule.name) : 'at any time' },
    ...(rule.question ? [', ', { part: 'question', words: questionWords(rule.question) } as const] : []),
    ', notify ',
    { part: 'notify', words: notifyWords(rule, site) },
    ' with ',
    { part: 'message', words: messageWords(rule) },
    ', ',
    rest ? 'at most every ' : '',
    { part: 'cooldown', words: rest ? duration(rest) : 'every time' },
    ...(rule.urgent ? [', ', { part: 'urgent', words: 'urgent' } as const] : []),
    '.',
  ];
  return pieces.filter((p) => p !== '');
}

const plural = (name: string): string => (name === 'person' ? 'people' : name.endsWith('s') ? `${name}es` : `${name}s`);

/** What must happen: the sentence up to its conditions. */
function happening(rule: Rule, own: readonly Camera[]): Piece[] {
  const { behaviour, sensors = [] } = rule;
  const zoneName = (id: string | undefined, none: string) => own.flatMap((c) => c.zones).find((z) => z.id === id)?.name ?? id ?? none;
  const lineName = own.flatMap((c) => c.lines ?? []).find((l) => l.id === behaviour.line)?.name ?? behaviour.line ?? 'which line?';
  const what: Piece[] = [{ part: 'classes', words: listed(rule.classes, 'or') || 'what?' }, ...aboutIt(rule)];
  const zones = own
    .map((c) => zoneOf(behaviour, c.id))
    .map((id, i) => (id === undefined ? `the picture of ${own[i]!.name}` : (own[i]!.zones.find((z) => z.id === id)?.name ?? id)));
  // Several cameras may each have another one.
  const where: Part = {
    part: 'zone',
    words: behaviour.zoneByCamera ? listed([...new Set(zones)], 'or') : zoneName(behaviour.zone, 'the picture'),
  };
  const verb = (words: string): Part => ({ part: 'behaviour', words });
  const long: Piece[] = behaviour.seconds || behaviour.frames ? [' for ', { part: 'for', words: lengthWords(behaviour) }] : [];
  switch (behaviour.kind) {
    case 'goes':
      return [
        'When a ',
        ...what,
        ' ',
        verb('goes'),
        behaviour.bothDirections ? ' between ' : ' from ',
        { part: 'from', words: zoneName(behaviour.from, 'which zone?') },
        behaviour.bothDirections ? ' and ' : ' to ',
        { part: 'to', words: zoneName(behaviour.to, 'which zone?') },
        ...long,
      ];
    case 'crosses': {
      const way = behaviour.direction === 'forward' || behaviour.direction === 'back' ? ` ${behaviour.direction}` : '';
      return ['When a ', ...what, ' ', verb('crosses'), ' ', { part: 'line', words: `${lineName}${way}` }];
    }
    case 'count': {
      const number =
        behaviour.over !== undefined
          ? `more than ${behaviour.over}`
          : behaviour.under !== undefined
            ? `fewer than ${behaviour.under}`
            : 'how many?';
      return [
        'When ',
        verb('there are'),
        ' ',
        { part: 'number', words: number },
        ' ',
        { part: 'classes', words: listed(rule.classes.map(plural), 'or') || 'of what?' },
        ...aboutIt(rule),
        ' in ',
        where,
        ...long,
      ];
    }
    case 'empty':
      return ['When ', verb('there is no'), ' ', ...what, ' in ', where, ...long];
    case 'approaches':
      return [
        'When a ',
        ...what,
        ' ',
        verb('comes'),
        ' within ',
        { part: 'metres', words: behaviour.metres === undefined ? 'how near?' : `${behaviour.metres} m` },
        ' in ',
        where,
        ...long,
      ];
    case 'returns':
      return [
        'When a ',
        ...what,
        ' with ',
        { part: 'returning', words: `${behaviour.known === false ? 'an unknown' : 'a known'} ${behaviour.by ?? 'plate'}` },
        ' ',
        verb('is'),
        ' in ',
        where,
        ...long,
      ];
    case 'reports':
      return [`When ${listed(sensors, 'or')} says ${listed(behaviour.states ?? ['anything'], 'or')}`];
    default:
      return ['When a ', ...what, ' ', verb(behaviour.kind), ' in ', where, ...long];
  }
}

/** What else must be so of the thing itself. */
function aboutIt({ looks, confidence, size, anchor }: Rule): Piece[] {
  const anchored =
    anchor === 'centre' ? 'its middle' : typeof anchor === 'object' ? `${Math.round(anchor.overlap * 100)} % of it` : undefined;
  const inner: Piece[][] = [
    ...(confidence ? [[{ part: 'confidence', words: `confidence at least ${Math.round(confidence * 100)} %` }] as Piece[]] : []),
    ...(size ? [[{ part: 'size', words: sizeWords(size) }] as Piece[]] : []),
    ...(anchored ? [['by ', { part: 'anchor', words: anchored }] as Piece[]] : []),
  ];
  return [
    ...(looks?.require ? [' that is ', { part: 'looks', words: looksWords(looks.require) } as const] : []),
    ...(looks?.exclude
      ? [looks.require ? ' and not ' : ' that is not ', { part: 'except', words: looksWords(looks.exclude) } as const]
      : []),
    ...(inner.length ? [' (', ...inner.flatMap((p, i) => (i ? [', ', ...p] : p)), ')'] : []),
  ];
}

export function looksWords({ types, colours, upper, lower, plate, fields }: AskedLooks): string {
  const said = [
    [listed(colours ?? [], 'or'), types ? listed(types, 'or') : ''].filter(Boolean).join(' '),
    upper ? `${listed(upper, 'or')} above` : '',
    lower ? `${listed(lower, 'or')} below` : '',
    plate ? `of the plate ${plate}` : '',
    ...Object.entries((fields ?? {}) as { [name: string]: string }).map(([name, value]) => `${name} ${value}`),
  ].filter(Boolean);
  return listed(said, 'and') || 'how?';
}

export function sizeWords({ min, max, metres }: NonNullable<Rule['size']>): string {
  const percent = (share: number) => `${Math.round(share * 100)} %`;
  const range = (from: string | undefined, to: string | undefined) =>
    from && to ? `${from} to ${to} high` : from ? `at least ${from} high` : to ? `at most ${to} high` : '';
  const said = [
    range(min ? percent(min) : undefined, max !== undefined && max < 1 ? percent(max) : undefined),
    range(metres?.min ? `${metres.min} m` : undefined, metres?.max !== undefined ? `${metres.max} m` : undefined),
  ].filter(Boolean);
  return said.join(', ') || 'of any size';
}

const lengthWords = ({ seconds, frames }: Rule['behaviour']): string =>
  [frames ? counted(frames, 'frame') : '', seconds ? duration(seconds) : ''].filter(Boolean).join(' and ');

const modesWords = (rule: Rule, site: Pick<Site, 'modes'>): string =>
  rule.modes
    ? listed(
        rule.modes.map((m) => site.modes.find((k) => k.id === m)?.name ?? m),
        'or',
      ) || 'no mode'
    : 'any mode';

const lowerFirst = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);
const scheduleWords = (name: string) =>
  /^(outside|during|within|at|before|after)\b/i.test(name) ? lowerFirst(name) : `during ${lowerFirst(name)}`;

export const roles = ['owner', 'member', 'installer'] as const;
const roleWords: { readonly [role: string]: string } = { owner: 'the owner', member: 'the members', installer: 'the installer' };
/** Someone, a role, or another program. */
export const personWords = (to: string, site: Pick<Site, 'people' | 'receivers'>): string =>
  [...site.people, ...site.receivers].find((p) => p.id === to)?.name ?? roleWords[to] ?? to;

export const notifiesEverybody = ({ notify = [] }: Pick<Rule, 'notify'>): boolean =>
  roles.every((role) => notify.some((t) => t.to === role));

function notifyWords(rule: Rule, site: Pick<Site, 'people' | 'receivers'>): string {
  const notify = rule.notify ?? [];
  const isProgram = (to: string) => site.receivers.some((r) => r.id === to);
  const notified = [...new Set(notify.map((t) => t.to))].filter((to) => !notifiesEverybody(rule) || isProgram(to));
  const names = [...(notifiesEverybody(rule) ? ['everyone'] : []), ...notified.map((to) => personWords(to, site))];
  // A notification is the usual; what else there is is said.
  const ways = [...new Set(notify.filter((t) => !isProgram(t.to)).map((t) => t.channel))];
  const by = ways.some((w) => w !== 'push')
    ? ` by ${listed(
        ways.map((w) => channelText[w]),
        'and',
      )}`
    : '';
  return names.length ? `${listed(names, 'and')}${by}` : 'no one';
}

export function messageWords({ message }: Rule): string {
  const [picture, description] = [message?.picture ?? true, message?.description ?? false];
  const own = message?.text ? `“${message.text}”` : '';
  const shown = picture ? (description ? 'a picture and a description' : 'a picture') : description ? 'a description' : '';
  return [own, shown].filter(Boolean).join(' and ') || 'text only';
}

export function questionWords({ words, alertIf, unlessKnown }: NonNullable<Rule['question']>): string {
  const asked = words ? `if “${words}” is ${alertIf ?? 'yes'}` : '';
  return [asked, unlessKnown ? 'unless it is known' : ''].filter(Boolean).join(' and ') || 'if what?';
}

/** The optional parts of a rule, and how each is added. */
export const optionalParts: readonly { readonly part: PartName; readonly words: string; readonly isIn: (rule: Rule) => boolean }[] = [
  { part: 'for', words: 'Duration', isIn: ({ behaviour }) => behaviour.kind === 'crosses' || !!behaviour.seconds || !!behaviour.frames },
  { part: 'confidence', words: 'Confidence', isIn: (r) => !!r.confidence },
  { part: 'size', words: 'Size', isIn: (r) => r.size !== undefined },
  { part: 'looks', words: 'Appearance', isIn: (r) => r.looks?.require !== undefined },
  { part: 'except', words: 'Exclude', isIn: (r) => r.looks?.exclude !== undefined },
  { part: 'anchor', words: 'Reference point', isIn: (r) => r.anchor !== undefined && r.anchor !== 'feet' },
  { part: 'presence', words: 'Presence', isIn: (r) => r.presence !== undefined },
  { part: 'question', words: 'Check before alerting', isIn: (r) => r.question !== undefined },
  { part: 'urgent', words: 'Urgent', isIn: (r) => r.urgent === true },
];

/** Parts whose words differ from another sentence's. */
export function differingParts(pieces: readonly Piece[], others: readonly Piece[]): ReadonlySet<PartName> {
  const wordsOf = (list: readonly Piece[]) => new Map(list.filter((p): p is Part => typeof p !== 'string').map((p) => [p.part, p.words]));
  const [own, other] = [wordsOf(pieces), wordsOf(others)];
  return new Set([...own].filter(([part, words]) => other.get(part) !== words).map(([part]) => part));
}
