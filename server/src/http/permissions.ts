// What somebody may do, and who may do it.

import type { Role } from '@nibber/core/site';

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
  'be told': everybody,
  /** One's own sign-ins and password. */
  'own account': everybody,
  /** Cameras, rules, drawings, the plan, walk tests, the site file. */
  'set up': settersUp,
  /** Restart a camera. */
  restart: settersUp,
  /** Invite people, say what they may see, end what they come in by. */
  invite: settersUp,
  /** See and end everybody's sign-ins, sign off everybody's phones. */
  'end sign-ins': ['owner'],
  'end phones': settersUp,
  /** Make tokens. */
  'let in': ['owner'],
} as const satisfies { readonly [permission: string]: readonly Role[] };

export type Permission = keyof typeof permissions;

export const may = (role: Role, permission: Permission): boolean => (permissions[permission] as readonly Role[]).includes(role);
