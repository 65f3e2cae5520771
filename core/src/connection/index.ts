// Whether a camera still sends: lost, back, flapping, and what to do about it after so many silent periods. A reducer over instants.

import type { Instant } from '../time';

export type ConnectionPolicy = {
  /** One silent period. Common practice: 30 s. */
  readonly periodSeconds: number;
  /** Silent periods after which each step is taken; none where absent. */
  readonly alertAfter: number;
  readonly reopenAfter: number | undefined;
  readonly restartAfter: number | undefined;
  /** How often it is repeated until the camera is back; once if absent. */
  readonly repeatSeconds: number | undefined;
  /** More changes an hour than this are one event. */
  readonly changesAnHour: number;
};

export const defaultConnection: ConnectionPolicy = {
  periodSeconds: 30,
  alertAfter: 1,
  reopenAfter: 2,
  restartAfter: 5,
  repeatSeconds: undefined,
  changesAnHour: 6,
};

/** The site's policy with what it leaves open filled in. */
export const policyOf = (text: Partial<ConnectionPolicy> | undefined): ConnectionPolicy => ({ ...defaultConnection, ...text });

export type ConnectionState = {
  readonly lastHeard: Instant;
  readonly lostAt: Instant | undefined;
  /** Steps that were taken in this silence. */
  readonly reopened: boolean;
  readonly restarted: boolean;
  readonly notifiedAt: Instant | undefined;
  /** When it was lost or came back, within the last hour. */
  readonly changes: readonly Instant[];
  readonly isFlapping: boolean;
};

export type ConnectionOutcome =
  | { readonly kind: 'lost' | 'still-lost'; readonly at: Instant; readonly silentMs: number }
  | { readonly kind: 'back'; readonly at: Instant; readonly afterMs: number }
  /** It goes and comes too often: said once, and no longer each time, until it has been steady for an hour. */
  | { readonly kind: 'flapping'; readonly at: Instant; readonly changes: number }
  | { readonly kind: 'steady'; readonly at: Instant }
  | { readonly kind: 'reopen' | 'restart'; readonly at: Instant };

export const startConnection = (at: Instant): ConnectionState => ({
  lastHeard: at,
  lostAt: undefined,
  reopened: false,
  restarted: false,
  notifiedAt: undefined,
  changes: [],
  isFlapping: false,
});

export type ConnectionInput = { readonly kind: 'heard' | 'clock'; readonly at: Instant };

const hourMs = 3_600_000;

/** What is due by the time of the input happens at its own time. @param canRestart whether the camera can be asked to */
export function stepConnection(
  policy: ConnectionPolicy,
  before: ConnectionState,
  input: ConnectionInput,
  canRestart = false,
): { readonly state: ConnectionState; readonly outcomes: readonly ConnectionOutcome[] } {
  const outcomes: ConnectionOutcome[] = [];
  let state = settle(policy, before, input.at, canRestart, outcomes);
  if (input.kind === 'heard') {
    if (state.lostAt !== undefined) {
      const wasFlapping = state.isFlapping;
      state = noteChange(policy, state, input.at, outcomes);
      if (!wasFlapping && !state.isFlapping) outcomes.push({ kind: 'back', at: input.at, afterMs: input.at - state.lastHeard });
    }
    state = { ...state, lastHeard: input.at, lostAt: undefined, reopened: false, restarted: false, notifiedAt: undefined };
  }
  return { state, outcomes };
}

function settle(
  policy: ConnectionPolicy,
  before: ConnectionState,
  at: Instant,
  canRestart: boolean,
  outcomes: ConnectionOutcome[],
): ConnectionState {
  const dueAt = (periods: number) => before.lastHeard + periods * policy.periodSeconds * 1000;
  let state = before;
  const lost = dueAt(policy.alertAfter);
  const [reopen, restart] = [policy.reopenAfter, policy.restartAfter].map((p) => (p === undefined ? Infinity : dueAt(p))) as [
    number,
    number,
  ];
  const steps: [Instant, () => void][] = [];
  if (state.lostAt === undefined && lost <= at)
    steps.push([
      lost,
      () => {
        state = noteChange(policy, { ...state, lostAt: lost, notifiedAt: lost }, lost, outcomes);
        if (!state.isFlapping) outcomes.push({ kind: 'lost', at: lost, silentMs: lost - before.lastHeard });
      },
    ]);
  if (!state.reopened && reopen <= at)
    steps.push([
      reopen,
      () => {
        state = { ...state, reopened: true };
        outcomes.push({ kind: 'reopen', at: reopen });
      },
    ]);
  if (!state.restarted && restart <= at && canRestart)
    steps.push([
      restart,
      () => {
        state = { ...state, restarted: true };
        outcomes.push({ kind: 'restart', at: restart });
      },
    ]);
  for (const [, take] of steps.sort((a, b) => a[0] - b[0])) take();
  if (state.lostAt !== undefined && policy.repeatSeconds !== undefined && !state.isFlapping)
    for (let next = state.notifiedAt! + policy.repeatSeconds * 1000; next <= at; next += policy.repeatSeconds * 1000) {
      outcomes.push({ kind: 'still-lost', at: next, silentMs: next - state.lastHeard });
      state = { ...state, notifiedAt: next };
    }
  const steadyAt = (state.changes.at(-1) ?? -Infinity) + hourMs;
  if (state.isFlapping && steadyAt <= at) {
    outcomes.push({ kind: 'steady', at: steadyAt });
    state = { ...state, isFlapping: false, changes: [] };
  }
  return state;
}

function noteChange(policy: ConnectionPolicy, state: ConnectionState, at: Instant, outcomes: ConnectionOutcome[]): ConnectionState {
  const changes = [...state.changes.filter((c) => c > at - hourMs), at];
  const flaps = changes.length > policy.changesAnHour;
  if (flaps && !state.isFlapping) outcomes.push({ kind: 'flapping', at, changes: changes.length });
  return { ...state, changes, isFlapping: state.isFlapping || flaps };
}
