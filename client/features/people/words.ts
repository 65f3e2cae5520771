// People in words.

import type { Person, Role } from '@nibber/core/site';
import { counted, listed } from '@nibber/core/words';
import type { Site } from '../../state/api/types';
import type { Filled } from '../../ui/texts';

export const roleSays: { readonly [R in Role]: string } = {
  installer: 'Sets up cameras and rules',
  owner: 'Full access; can invite others',
  member: 'Own alerts, can set modes; cannot change rules or cameras',
  guest: 'View-only access until a set date',
};

type Named = readonly { readonly id: string; readonly name: string }[];

/** `Yard and the camera Porch`. */
export function accessWords(access: Person['access'] | null | undefined, site: Pick<Site, 'areas'>, cameras: Named): string {
  if (!access) return 'Everything';
  const named = (ids: readonly string[] | undefined, all: Named) => (ids ?? []).map((id) => all.find((e) => e.id === id)?.name ?? id);
  return listed([...named(access.areas, site.areas), ...named(access.cameras, cameras)], 'and', 'Nothing yet');
}

/** What is written on the screens of this feature. */
/** How much is stored of a person. */
export const storedOfPersonText = ({ alerts, views, logbook }: { alerts: number; views: number; logbook: number }): string =>
  `${listed([counted(alerts, 'alert'), counted(views, 'viewed event'), counted(logbook, 'logbook entry', 'logbook entries')], 'and')} are stored.`;

export const texts = {
  storedData: 'Stored data',
  deletesOfPerson: (name: string | number) =>
    `Alerts to ${name}, what they viewed and what they snoozed are deleted. What they did stays in the logbook, without their name.`,
  newPasswordFor: (name: string | number) => `New password for ${name}`,
  inviteSomeone: 'Invite someone',
  done: 'Done',
  createInvitation: 'Create invitation',
  setsANewPasswordWith: (name: string | number) => `${name} sets a new password with a one-time link. All sessions of ${name} will end.`,
  nameTheyCanChangeIt: 'Name (they can change it)',
  role: 'Role',
  copied: 'Copied.',
  invitationToNibber: 'Invitation to Nibber',
  joinHereTheLinkWorks: (link: string | number) => `Join here. The link works once:
${link}
`,
  canScanThisCodeOr: (name: string | number, when: string | number) =>
    `${name} can scan this code or open the link. It works once, until ${when}.`,
  invitationCodeToScan: 'Invitation code to scan',
  copy: 'Copy',
  sendByMail: 'Send by e-mail',
  thisLinkIsIncomplete: 'This link is incomplete.',
  openTheLinkAsIt: 'Open the link as it was sent, or ask for a new one.',
  required: 'Required.',
  atLeastCharacters: (minPassword: string | number) => `At least ${minPassword} characters.`,
  letsYouChooseANew: (madeBy: string | number, name: Filled) => `${madeBy} lets you choose a new password, ${name}.`,
  invitesYouAs: (madeBy: string | number, role: string | number, role2: string | number, until: string | number) =>
    `${madeBy} invites you as ${role}. ${role2}${until}.`,
  yourNameForSigningIn: 'Your name, for signing in',
  newPassword: 'New password',
  password: 'Password',
  join: 'Join',
  accessTo: 'Access to',
  until: 'Until',
  day: 'Day',
  everything: 'Everything',
  areasWithAllTheirCameras: 'Areas, with all their cameras',
  areas: 'Areas',
  singleCameras: 'Single cameras',
  cameras: 'Cameras',
  undo: 'Undo',
  saved: (name: string | number) => `${name} saved.`,
  wasRemoved: (name: string | number) => `${name} was removed.`,
  isSignedOutEverywhereTheir: (name: string | number) => `${name} is signed out everywhere. Their phones get no alerts.`,
  access: 'Access',
  newPasswordByLink: 'New password by link',
  invite: 'Invite',
  signOutEverywhere: 'Sign out everywhere',
  lastActive: (ago: string | number) => `, last active ${ago}`,
  noSessions: 'No sessions',
  oneSession: 'One session',
  unregister: 'Unregister',
  unregister2: (label: string | number) => `Unregister ${label}`,
  they: 'They',
  until2: (until: string | number) => `, until ${until}`,
  untilOptional: 'Until (optional)',
  sessions: (sessions: string | number) => `${sessions} sessions`,
} as const;
