// How an area is armed: disarmed → (exit delay) → armed → (entry delay) → alarm → ended by a person, or by time-out into armed.
// A reducer over time-ordered inputs; what is due by the time of an input happens first, at its own time.

import type { Mode, Person } from '../site';
import type { Instant } from '../time';
import { nextSwitch, type SwitchPlan } from './mode-schedules';

export type AreaState = { readonly at: Instant } & (
  | { readonly kind: 'disarmed' | 'armed'; readonly mode: string }
  /** On its way into an armed mode; until then the mode before holds. */
  | { readonly kind: 'exiting'; readonly mode: string; readonly before: string; readonly until: Instant }
  /** Somebody came in by a rule that allows a delay; an alarm unless it is ended in time. */
  | { readonly kind: 'entering'; readonly mode: string; readonly until: Instant; readonly rule: string }
  | { readonly kind: 'alarm'; readonly mode: string; readonly until: Instant | undefined; readonly rule: string }
);

export type Pin = 'right' | 'wrong' | 'none';

export type AreaInput =
  | { readonly kind: 'set'; readonly at: Instant; readonly mode: string; readonly person: Pick<Person, 'id' | 'role'>; readonly pin: Pin }
  /** An event of a rule that raises alarms. */
  | { readonly kind: 'raise'; readonly at: Instant; readonly rule: string; readonly mayDelay: boolean }
  | { readonly kind: 'end'; readonly at: Instant; readonly person: Pick<Person, 'id' | 'role'>; readonly pin: Pin }
  | { readonly kind: 'clock'; readonly at: Instant };

export type AreaOutcome =
  /** The mode that rules go by, from now on. */
  | { readonly kind: 'mode'; readonly at: Instant; readonly mode: string; readonly by: 'person' | 'plan' }
  | { readonly kind: 'leaving' | 'entering'; readonly at: Instant; readonly until: Instant }
  | { readonly kind: 'alarm'; readonly at: Instant; readonly rule: string }
  | { readonly kind: 'alarm-ended'; readonly at: Instant; readonly by: string | 'time-out' }
  | { readonly kind: 'refused'; readonly at: Instant; readonly why: string };

export type AreaSettings = { readonly modes: readonly Mode[]; readonly plan: SwitchPlan | undefined };

export const startArea = (settings: AreaSettings, mode: string, at: Instant): AreaState => ({
  kind: isArmed(settings, mode) ? 'armed' : 'disarmed',
  mode,
  at,
});

/** The mode that rules go by. */
export const effectiveMode = (state: AreaState): string => (state.kind === 'exiting' ? state.before : state.mode);

const modeOf = ({ modes }: AreaSettings, id: string): Mode | undefined => modes.find((m) => m.id === id);
const isArmed = (settings: AreaSettings, id: string): boolean => modeOf(settings, id)?.armed ?? false;

type Stepped = { readonly state: AreaState; readonly outcomes: readonly AreaOutcome[] };

/** @throws never; a mode that is not the site's counts as disarmed */
export function stepArea(settings: AreaSettings, before: AreaState, input: AreaInput): Stepped {
  const { state, outcomes } = settle(settings, before, input.at);
  const next = take(settings, state, input);
  return { state: { ...next.state, at: input.at }, outcomes: [...outcomes, ...next.outcomes] };
}

/** What comes due up to an instant, in order: ends of delays and alarms, and planned switches. */
function settle(settings: AreaSettings, before: AreaState, at: Instant): Stepped {
  let state = before;
  const outcomes: AreaOutcome[] = [];
  for (;;) {
    const until = 'until' in state ? (state.until ?? Infinity) : Infinity;
    const planned = settings.plan && nextSwitch(settings.plan, state.at);
    const due = Math.min(until, planned?.at ?? Infinity);
    if (due > at) return { state, outcomes };
    const next = until <= due ? runOut(state, due) : change(settings, state, planned!.mode, due, 'plan');
    outcomes.push(...next.outcomes);
    state = { ...next.state, at: due };
  }
}

/** A delay or an alarm has run its time. */
function runOut(state: AreaState, at: Instant): Stepped {
  switch (state.kind) {
    case 'exiting':
      return { state: { kind: 'armed', mode: state.mode, at }, outcomes: [{ kind: 'mode', at, mode: state.mode, by: 'person' }] };
    case 'entering':
      return soundAlarm(state.mode, state.rule, at);
    case 'alarm':
      return { state: { kind: 'armed', mode: state.mode, at }, outcomes: [{ kind: 'alarm-ended', at, by: 'time-out' }] };
    default:
      return { state, outcomes: [] };
  }
}

const soundAlarm = (mode: string, rule: string, at: Instant): Stepped => ({
  state: { kind: 'alarm', mode, rule, until: undefined, at },
  outcomes: [{ kind: 'alarm', at, rule }],
});

function take(settings: AreaSettings, state: AreaState, input: AreaInput): Stepped {
  const refused = (why: string): Stepped => ({ state, outcomes: [{ kind: 'refused', at: input.at, why }] });
  switch (input.kind) {
    case 'clock':
      return { state, outcomes: [] };
    case 'raise':
      return withTimeOut(settings, raised(settings, state, input));
    case 'end': {
      if (state.kind !== 'alarm' && state.kind !== 'entering') return refused('No alarm is active');
      const why = mayNot(settings, state.mode, input.person, input.pin);
      if (why) return refused(why);
      const kind = isArmed(settings, state.mode) ? 'armed' : 'disarmed';
      return {
        state: { kind, mode: state.mode, at: input.at },
        outcomes: [{ kind: 'alarm-ended', at: input.at, by: input.person.id }],
      };
    }
    case 'set': {
      const isSilencing = state.kind === 'alarm' || state.kind === 'entering';
      const isDisarming = state.kind === 'armed' && !isArmed(settings, input.mode);
      if (isSilencing || isDisarming) {
        const why = isSilencing ? mayNot(settings, state.mode, input.person, input.pin) : pinProblem(input.pin);
        if (why) return refused(why);
      }
      const ended: AreaOutcome[] = isSilencing ? [{ kind: 'alarm-ended', at: input.at, by: input.person.id }] : [];
      const calm: AreaState = isSilencing ? { kind: 'armed', mode: state.mode, at: input.at } : state;
      const next = change(settings, calm, input.mode, input.at, 'person');
      return { state: next.state, outcomes: [...ended, ...next.outcomes] };
    }
  }
}

function raised(settings: AreaSettings, state: AreaState, { at, rule, mayDelay }: Extract<AreaInput, { kind: 'raise' }>): Stepped {
  if (state.kind !== 'armed' && state.kind !== 'entering') return { state, outcomes: [] };
  const delay = mayDelay ? (modeOf(settings, state.mode)?.entryDelaySeconds ?? 0) : 0;
  if (delay === 0) return soundAlarm(state.mode, rule, at);
  if (state.kind === 'entering') return { state, outcomes: [] };
  const until = at + delay * 1000;
  return { state: { kind: 'entering', mode: state.mode, rule, until, at }, outcomes: [{ kind: 'entering', at, until }] };
}

/** An alarm that the mode ends by itself knows when. */
function withTimeOut(settings: AreaSettings, stepped: Stepped): Stepped {
  const { state } = stepped;
  const seconds = modeOf(settings, state.mode)?.alarmSeconds;
  return state.kind === 'alarm' && state.until === undefined && seconds !== undefined
    ? { ...stepped, state: { ...state, until: state.at + seconds * 1000 } }
    : stepped;
}

const pinProblem = (pin: Pin): string | undefined =>
  pin === 'right' ? undefined : pin === 'wrong' ? 'The PIN was wrong' : 'A PIN is needed for this';

function mayNot(settings: AreaSettings, mode: string, person: Pick<Person, 'id' | 'role'>, pin: Pin): string | undefined {
  const may = modeOf(settings, mode)?.endedBy;
  if (may && !may.includes(person.id) && !may.includes(person.role)) return 'This person may not end an alarm here';
  return pinProblem(pin);
}

/** Into another mode. An alarm goes on whatever the plan says; only a person ends it. */
function change(settings: AreaSettings, state: AreaState, mode: string, at: Instant, by: 'person' | 'plan'): Stepped {
  if (state.kind === 'alarm') return { state: { ...state, mode, at }, outcomes: [{ kind: 'mode', at, mode, by }] };
  const before = effectiveMode(state);
  const delay = modeOf(settings, mode)?.exitDelaySeconds ?? 0;
  if (isArmed(settings, mode) && !isArmed(settings, before) && delay > 0) {
    const until = at + delay * 1000;
    return { state: { kind: 'exiting', mode, before, until, at }, outcomes: [{ kind: 'leaving', at, until }] };
  }
  const kind = isArmed(settings, mode) ? 'armed' : 'disarmed';
  return { state: { kind, mode, at }, outcomes: mode === before ? [] : [{ kind: 'mode', at, mode, by }] };
}
