// Who is notified of an event. For each person and each channel that its rule names, five more gates:
// sight → quiet hours → snooze → summary → channel. A channel that does not reach them falls back to their next one. For another program, the
// last of them alone.

import { channelText, personChannels, type Channel, type PersonChannel } from '../channels';
import { compileSchedule, peopleNamed, type Person, type Receiver, type Rule, type SiteFile } from '../site';
import { isOn } from '../schedules';
import { belongsAt, accessOf } from '../people';
import { secondsText } from '../sieve';
import { wallWords, type Instant } from '../time';

export const recipientGates = ['sight', 'quiet hours', 'snooze', 'summary', 'channel'] as const;
export type RecipientGate = (typeof recipientGates)[number];

/** What someone does not want to hear of for a while: all of it, or one rule, camera or area. */
export type Snooze = {
  /** Null: until the mode of the area changes, or of any where it names none. */
  readonly until: Instant | null;
  readonly rule?: string | undefined;
  readonly camera?: string | undefined;
  readonly area?: string | undefined;
};

/** The state of a recipient at the time of an event. */
export type RecipientState = {
  readonly snoozes: readonly Snooze[];
  /** Why a channel does not reach them; undefined while it does. */
  readonly unreachable: (channel: Channel) => string | undefined;
  /** When they were last notified by a channel of an event of this rule. */
  readonly lastNotified: (channel: Channel) => Instant | undefined;
};

export type NotifiedOf = { readonly at: Instant; readonly rule: string; readonly camera: string | undefined; readonly area: string };

export type RecipientStep = { readonly gate: RecipientGate; readonly passes: boolean; readonly found: string; readonly wanted: string };

/** What sends alerts: a rule, or a reminder. */
export type Notifier = Pick<Rule, 'id' | 'name' | 'notify' | 'urgent'>;

export const notifierOf = (site: SiteFile, id: string | null): Notifier | undefined =>
  site.rules?.find((r) => r.id === id) ?? site.reminders?.find((r) => r.id === id);

/** One recipient and channel. `stoppedAt` is null where an alert goes out. */
export type Notified = {
  /** A person's id, or another program's. */
  readonly to: string;
  readonly channel: Channel;
  readonly stoppedAt: RecipientGate | null;
  readonly why: string;
  /** Whether it goes into their morning summary instead. */
  readonly inSummary: boolean;
  readonly steps: readonly RecipientStep[];
};

type Answer = { readonly passes: boolean; readonly found: string; readonly wanted: string; readonly why: string };

/**
 * Everyone whom a rule names, each once for each channel, with what the gates said.
 * @param stateOf how a person or a program stands now, by its id
 * @throws never for a checked site
 */
export function recipientsOf(site: SiteFile, event: NotifiedOf, stateOf: (to: string) => RecipientState): Notified[] {
  const rule = notifierOf(site, event.rule);
  const people = new Map<string, { person: Person; channel: PersonChannel }>();
  const programs = new Map<string, Receiver>();
  for (const { to, channel } of rule?.notify ?? []) {
    const receiver = site.receivers?.find((r) => r.id === to);
    if (receiver) programs.set(to, receiver);
    else for (const person of peopleNamed(site, to)) people.set(`${person.id} ${channel}`, { person, channel: channel as PersonChannel });
  }
  return [
    ...[...people.values()].flatMap(({ person, channel }) =>
      toPerson({ site, rule: rule!, event, person, channel, state: stateOf(person.id) }),
    ),
    ...[...programs.values()].map(({ id, name, by }) => {
      const { passes, why, ...step } = reached(site, event, name, by, stateOf(id));
      const steps = [{ gate: 'channel' as const, passes, ...step }];
      return {
        to: id,
        channel: by,
        stoppedAt: passes ? null : ('channel' as const),
        why: passes ? `${name} is notified by ${channelText[by]}` : why,
        inSummary: false,
        steps,
      };
    }),
  ];
}

type Asked = {
  readonly site: SiteFile;
  readonly rule: Notifier;
  readonly event: NotifiedOf;
  readonly person: Person;
  readonly channel: PersonChannel;
  readonly state: RecipientState;
};

/** What they take a rule by, or the rule's own channel. */
const takenBy = ({ person, rule, channel }: Asked) =>
  (person.alertPreferences as Readonly<Record<string, PersonChannel | 'summary' | 'nothing'>> | undefined)?.[rule.id] ?? channel;

/** A person's channels: the first, and those it falls back to, in their order. */
export const reroutes = (person: Pick<Person, 'channels'>, first: PersonChannel): PersonChannel[] => [
  first,
  ...(person.channels ?? personChannels).filter((c) => c !== first),
];

/** One answer; more where a channel does not reach them and another one is used. */
function toPerson(asked: Asked): Notified[] {
  const { site, event, person, state } = asked;
  const taken = takenBy(asked);
  const first = taken === 'summary' || taken === 'nothing' ? asked.channel : taken;
  const before: RecipientStep[] = [];
  for (const [gate, ask, keeps] of gates) {
    const { passes, found, wanted, why } = ask(asked);
    before.push({ gate, passes, found, wanted });
    if (!passes) return [{ to: person.id, channel: first, stoppedAt: gate, why, inSummary: keeps(asked), steps: before }];
  }
  const tried: Notified[] = [];
  for (const channel of reroutes(person, first)) {
    const { passes, why, ...step } = reached(site, event, person.name, channel, state);
    const steps = [...before, { gate: 'channel' as const, passes, ...step }];
    const notified = { to: person.id, channel, inSummary: false, steps };
    if (passes) {
      const instead = channel === first ? '' : `, as ${tried[0]!.why.charAt(0).toLowerCase()}${tried[0]!.why.slice(1)}`;
      return [{ ...notified, stoppedAt: null, why: `${person.name} is notified by ${channelText[channel]}${instead}` }];
    }
    tried.push({ ...notified, stoppedAt: 'channel', why });
    // A channel that reaches them and is in its interval has notified them: there is no fallback.
    if (state.unreachable(channel) === undefined) break;
  }
  return [tried[0]!];
}

const gates: readonly (readonly [RecipientGate, (asked: Asked) => Answer, inSummary: (asked: Asked) => boolean])[] = [
  ['sight', sighted, () => false],
  ['quiet hours', quietHours, ({ person }) => person.summary?.quietHours === true],
  ['snooze', snoozed, () => false],
  ['summary', summed, (asked) => takenBy(asked) === 'summary'],
];

function sighted({ site, event, person }: Asked): Answer {
  if (!belongsAt(person, site.site.timezone, event.at))
    return {
      passes: false,
      found: `until ${person.until}`,
      wanted: 'someone from this site',
      why: `${person.name} had access until ${person.until}`,
    };
  const passes = accessOf(site, person).happened(event);
  const where = site.cameras.find((c) => c.id === event.camera)?.name ?? site.areas.find((a) => a.id === event.area)?.name ?? event.area;
  return { passes, found: where, wanted: `what ${person.name} may see`, why: `${person.name} may not see ${where}` };
}

function quietHours({ site, rule, event, person }: Asked): Answer {
  const when = wallWords(site.site.timezone, event.at);
  if (person.quietHours === undefined) return { passes: true, found: when, wanted: 'no quiet hours', why: '' };
  const { name, plan } = compileSchedule(site, person.quietHours);
  const isQuiet = isOn(plan, event.at);
  const wanted = rule.urgent ? 'any time, as it is urgent' : `outside ${name}`;
  return { passes: !isQuiet || rule.urgent === true, found: when, wanted, why: `${when} is in ${person.name}’s quiet hours, ${name}` };
}

function snoozed({ site, rule, event, person, state }: Asked): Answer {
  const is = (asked: string | undefined, own: string | undefined) => asked === undefined || asked === own;
  const snooze = state.snoozes.find(
    (s) => (s.until === null || s.until > event.at) && is(s.rule, event.rule) && is(s.camera, event.camera) && is(s.area, event.area),
  );
  if (!snooze) return { passes: true, found: 'not snoozed', wanted: 'not snoozed', why: '' };
  const until = snooze.until === null ? 'the mode changes' : wallWords(site.site.timezone, snooze.until);
  const wanted = rule.urgent ? 'any time, as it is urgent' : 'not snoozed';
  return { passes: rule.urgent === true, found: `snoozed until ${until}`, wanted, why: `${person.name} snoozed it until ${until}` };
}

/** The default time of the morning summary. */
export const defaultSummary = '07:30';

function summed(asked: Asked): Answer {
  const { person, rule } = asked;
  const taken = takenBy(asked);
  const found = rule.urgent ? 'urgent' : taken === 'summary' ? 'held for the summary' : taken === 'nothing' ? 'not taken' : 'at once';
  if (rule.urgent || (taken !== 'summary' && taken !== 'nothing')) return { passes: true, found, wanted: 'notified at once', why: '' };
  const why =
    taken === 'nothing'
      ? `${person.name} has turned off ${rule.name}`
      : `${person.name} gets it in the summary at ${person.summary?.at ?? defaultSummary}`;
  return { passes: false, found, wanted: 'notified at once', why };
}

function reached(site: SiteFile, event: NotifiedOf, name: string, channel: Channel, state: RecipientState): Answer {
  const why = state.unreachable(channel);
  if (why !== undefined) return { passes: false, found: why, wanted: `a way to reach ${name} by ${channelText[channel]}`, why };
  const restMs = (site.channels?.[channel]?.cooldownSeconds ?? 0) * 1000;
  const last = state.lastNotified(channel);
  const since = last === undefined ? Infinity : event.at - last;
  const wanted = restMs ? `${secondsText(restMs)} after the last` : 'no minimum interval';
  if (since >= restMs)
    return { passes: true, found: since === Infinity ? 'the first' : `${secondsText(since)} after the last`, wanted, why: '' };
  return {
    passes: false,
    found: `${secondsText(since)} after the last`,
    wanted,
    why: `${name} was notified ${secondsText(since)} earlier; alerts by ${channelText[channel]} are at least ${secondsText(restMs)} apart`,
  };
}
