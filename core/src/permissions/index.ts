// What someone may do, and who may do it.

import type { Role } from '../site';
import { Problem } from '../problem';

/** Characters of a password that is chosen, at least (ASVS 4.0.3, 2.1.1). */
export const minPassword = 12;

const everybody: readonly Role[] = ['installer', 'owner', 'member', 'guest'];
const household: readonly Role[] = ['installer', 'owner', 'member'];
const settersUp: readonly Role[] = ['installer', 'owner'];

/** Who may: by what is done, not by whom. `anyone` needs no sign-in. */
export const permissions = {
  /** See what the cameras see and what happened. */
  look: everybody,
  /** Set an area's mode. */
  arm: household,
  /** Say whether an event was worth having. */
  judge: household,
  /** Switch a camera's lamp or siren, ask it for a picture. */
  command: household,
  /** Sign up a phone, or sign one's own off. */
  'get alerts': everybody,
  /** One's own sign-ins and password. */
  'own account': everybody,
  /** Cameras, rules, drawings, the plan, walk tests, the site file. */
  'set up': settersUp,
  /** Restart a camera. */
  restart: settersUp,
  /** Invite people, say what they may see, end what they come in by. */
  invite: settersUp,
  /** Make someone owner, and change one who is: role, name, how long, what they see, how they are reached. */
  'change owners': ['owner'],
  /** See and end everyone's sign-ins, sign off everyone's phones. */
  'end sessions': ['owner'],
  'remove phones': settersUp,
  /** Make tokens. */
  'let in': ['owner'],
} as const satisfies { readonly [permission: string]: readonly Role[] };

export type Permission = keyof typeof permissions;

export const may = (role: Role, permission: Permission): boolean => (permissions[permission] as readonly Role[]).includes(role);

/**
 * Who does something: a person, a script by its token, or the program by itself.
 * `confirmedAt`: when they gave their password last, by the machine's clock; absent of a script and of the program, which have none.
 */
export type Actor = {
  readonly name: string;
  readonly role: Role;
  readonly person?: string | undefined;
  readonly confirmedAt?: number | undefined;
  readonly isProgram?: true;
};

/** So long a password that was given is enough for what changes who comes in, and what is let in. */
export const confirmedMs = 15 * 60_000;

/** @throws Problem 'not-confirmed' */
export function refuseUnconfirmed({ confirmedAt }: Pick<Actor, 'confirmedAt'>, now: number): void {
  if (confirmedAt === undefined || (now - confirmedAt < confirmedMs && now >= confirmedAt)) return;
  throw new Problem('not-confirmed', 'This needs your password again.', 'Enter it to continue. Nothing was changed.');
}

/** The program itself, on the machine where it runs: a person who can start it there may do everything. */
export const theProgram = (name: string): Actor => ({ name, role: 'owner', isProgram: true });
