// Who is told of an event: for each person and channel that its rule names, three more gates: quiet hours → snooze → channel.

import { isOn } from '../hours';
import { compileHours, peopleNamed, type Person, type Rule, type SiteFile } from '../site';
import { secondsText } from '../sieve';
import { wallWords, type Instant } from '../time';

export const recipientGates = ['quiet hours', 'snooze', 'channel'] as const;
export type RecipientGate = (typeof recipientGates)[number];
export type Channel = NonNullable<Rule['tell']>[number]['by'];

/** What somebody does not want to hear of for a while: all of it, or one rule, camera or area. */
export type Snooze = { readonly until: Instant; readonly rule?: string; readonly camera?: string; readonly area?: string };

/** How a person stands at the time of an event. */
export type PersonState = {
  readonly snoozes: readonly Snooze[];
  /** Why a channel does not reach her; undefined while it does. */
  readonly unreachable: (channel: Channel) => string | undefined;
  /** When she was last told by a channel of an event of this rule. */
  readonly lastTold: (channel: Channel) => Instant | undefined;
};

export type ToldOf = { readonly at: Instant; readonly rule: string; readonly camera: string | undefined; readonly area: string };

export type RecipientStep = { readonly gate: RecipientGate; readonly passes: boolean; readonly found: string; readonly wanted: string };

/** One person and channel. `stoppedAt` is null where an alert goes out. */
export type Told = {
  readonly person: Person;
  readonly channel: Channel;
  readonly stoppedAt: RecipientGate | null;
  readonly why: string;
  readonly steps: readonly RecipientStep[];
};

type Answer = { readonly passes: boolean; readonly found: string; readonly wanted: string; readonly why: string };

/**
 * Everybody whom a rule names, each once for each channel, with what the gates said.
 * @param stateOf how a person stands now
 * @throws never for a checked site
 */
export function recipientsOf(site: SiteFile, event: ToldOf, stateOf: (person: Person) => PersonState): Told[] {
  const rule = site.rules?.find((r) => r.id === event.rule);
  const asked = new Map<string, { person: Person; channel: Channel }>();
  for (const { to, by } of rule?.tell ?? [])
    for (const person of peopleNamed(site, to)) asked.set(`${person.id} ${by}`, { person, channel: by });
  return [...asked.values()].map(({ person, channel }) => {
    const state = stateOf(person);
    const steps: RecipientStep[] = [];
    for (const [gate, ask] of gates) {
      const { passes, found, wanted, why } = ask({ site, rule: rule!, event, person, channel, state });
      steps.push({ gate, passes, found, wanted });
      if (!passes) return { person, channel, stoppedAt: gate, why, steps };
    }
    return { person, channel, stoppedAt: null, why: `${person.name} is told by ${channel}`, steps };
  });
}

type Asked = {
  readonly site: SiteFile;
  readonly rule: Rule;
  readonly event: ToldOf;
  readonly person: Person;
  readonly channel: Channel;
  readonly state: PersonState;
};

const gates: readonly (readonly [RecipientGate, (asked: Asked) => Answer])[] = [
  ['quiet hours', quietHours],
  ['snooze', snoozed],
  ['channel', reached],
];

function quietHours({ site, rule, event, person }: Asked): Answer {
  const when = wallWords(site.site.timezone, event.at);
  if (person.quietHours === undefined) return { passes: true, found: when, wanted: 'no quiet hours', why: '' };
  const { name, plan } = compileHours(site, person.quietHours);
  const isQuiet = isOn(plan, event.at);
  const wanted = rule.urgent ? 'any time, being urgent' : `outside ${name}`;
  return { passes: !isQuiet || rule.urgent === true, found: when, wanted, why: `${when} is in ${person.name}’s quiet hours, ${name}` };
}

function snoozed({ site, rule, event, person, state }: Asked): Answer {
  const is = (asked: string | undefined, own: string | undefined) => asked === undefined || asked === own;
  const snooze = state.snoozes.find(
    (s) => s.until > event.at && is(s.rule, event.rule) && is(s.camera, event.camera) && is(s.area, event.area),
  );
  if (!snooze) return { passes: true, found: 'not snoozed', wanted: 'not snoozed', why: '' };
  const until = wallWords(site.site.timezone, snooze.until);
  const wanted = rule.urgent ? 'snoozed or not, being urgent' : 'not snoozed';
  return { passes: rule.urgent === true, found: `snoozed until ${until}`, wanted, why: `${person.name} snoozed it until ${until}` };
}

function reached({ site, event, person, channel, state }: Asked): Answer {
  const why = state.unreachable(channel);
  if (why !== undefined) return { passes: false, found: why, wanted: `a way to reach ${person.name} by ${channel}`, why };
  const restMs = (site.channels?.[channel]?.restSeconds ?? 0) * 1000;
  const last = state.lastTold(channel);
  const since = last === undefined ? Infinity : event.at - last;
  const wanted = restMs ? `${secondsText(restMs)} after the last` : 'no rest';
  if (since >= restMs)
    return { passes: true, found: since === Infinity ? 'the first' : `${secondsText(since)} after the last`, wanted, why: '' };
  return {
    passes: false,
    found: `${secondsText(since)} after the last`,
    wanted,
    why: `${person.name} was told ${secondsText(since)} before; ${channel} rests ${secondsText(restMs)}`,
  };
}
