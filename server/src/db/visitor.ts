// Who asks, as what they may see; and what is offered to let people in.

import type { Transaction } from 'sequelize';
import type { PersonAccess } from '@nibber/core/people';
import type { Role } from '@nibber/core/site';

/** Who asks. A bearer token has a role and no person. `session` names the sign-in or the token, without giving it away. */
export type Visitor = {
  readonly role: Role;
  readonly name: string;
  readonly person: string | undefined;
  readonly session: string;
  /** When they gave their password last, by the machine's clock; undefined of a script, which has none. */
  readonly confirmedAt: number | undefined;
  /** What they may see, as the site is now. */
  readonly visible: PersonAccess;
};

export type SessionAnswer = {
  readonly id: string;
  readonly kind: 'browser' | 'bearer';
  /** The person, or what the token was called. */
  readonly name: string;
  readonly person: string | undefined;
  readonly role: Role;
  readonly label: string | null;
  readonly madeAt: number | null;
  readonly lastSeenAt: number | null;
  readonly expiresAt: number;
};

export type Access = {
  /** Whether there is no one yet who could set the place up: then the set-up code makes an owner. */
  needsOwner(): Promise<boolean>;
  /** To be printed where only the person who runs the program sees it. */
  readonly setUpCode: string;
  addAccount(account: { name: string; person: string; role: Role; password: string }): Promise<void>;
  /** Makes the first owner, person and account in one. @throws Problem 'conflict' where there is one, 'not-allowed' for a wrong code */
  makeOwner(owner: { name: string; password: string; code: string }): Promise<void>;
  /** @returns a new sign-in's token; undefined for a name or password that is wrong */
  signIn(name: string, password: string, label: string | null): Promise<string | undefined>;
  /** @returns the person whose account a name is, if there is one */
  personOf(name: string): Promise<string | undefined>;
  makeBearer(token: { role: Role; name: string; days: number }): Promise<string>;
  visitor(token: string): Promise<Visitor | undefined>;
  /** Whoever is signed in gives their password once more. @throws Problem 'not-allowed' where it is wrong */
  confirm(visitor: Visitor, password: string): Promise<void>;
  /** Also ends every other sign-in of that person. @throws Problem 'not-allowed' where the present one is wrong */
  changePassword(visitor: Visitor, present: string, next: string): Promise<void>;
  /** Those that hold, newest first; of one person, or of all. */
  sessions(of: string | undefined): Promise<SessionAnswer[]>;
  /** Ends a session or a token; a phone registered in it gets no more alerts. */
  end(id: string): Promise<void>;
  /** Ends everything of a person: sign-ins, phones, invitations. @returns how many sign-ins there were */
  endAllOf(person: string): Promise<number>;
  /** The people who can sign in. */
  withAccounts(): Promise<ReadonlySet<string>>;
  /** What an author may be now, by `authorOf`; undefined for one who is not let in any more. */
  roleNow(author: string | null): Promise<Role | undefined>;
  /** What a person may see now; everything for a script; undefined for who is not let in. */
  visibleNow(person: string): PersonAccess | undefined;
  /** Gives an account a password, in the transaction in which an invitation is used; makes the account where there is none. */
  givePassword(of: { name: string; person: string; role: Role }, passwordHash: string, transaction: Transaction): Promise<void>;
  hashOf(password: string): Promise<string>;
  /** Calls back when someone's password is another one. */
  onPassword(listener: (person: string) => void): void;
  /** Calls back when someone may no longer be let in. */
  onEnded(listener: () => void): void;
};

/** Who made something that ends with what they may: a person, or a token. */
export const authorOf = ({ person, session }: Pick<Visitor, 'person' | 'session'>): string =>
  person ? `person ${person}` : `session ${session}`;
