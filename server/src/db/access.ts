// Accounts, sign-ins and bearer tokens. Passwords are kept as argon2id hashes, tokens as SHA-256 of themselves. An account is of a person
// of the site, and may what that person may now: who is taken out of the site, or given another role, is so at once.

import { createHash, randomBytes, randomInt, randomUUID, timingSafeEqual } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import type { Transaction } from 'sequelize';
import { belongsAt, accessOf } from '@nibber/core/people';
import type { Role, SiteFile } from '@nibber/core/site';
import { Problem } from '@nibber/core/problem';
import { log } from '../base/log';
import type { Clock } from '../base/clock';
import type { AccountRow, Record } from './index';
import { openSignIns } from './sign-ins';
import { nameKey, tidyName } from './names';
import { checkPassword } from './passwords';
import type { SiteBook } from './site';
import type { Access, SessionAnswer, Visitor } from './visitor';

export { authorOf } from './visitor';
export type { Access, SessionAnswer, Visitor } from './visitor';

const sessionDays = 30;
export const maxBearerDays = 365;
const dayMs = 86_400_000;
const seenEveryMs = 3600_000;
const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');
const settersUp: readonly Role[] = ['owner', 'installer'];
/** Without characters that look alike. */
export const codeCharacters = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789';

type People = Pick<SiteBook, 'file' | 'addOwner'>;

const fullAccess = accessOf({ cameras: [] }, undefined);
type Person = NonNullable<SiteFile['people']>[number];

/** @param site whose people may come in; without it (a command beside the server) accounts can be made and no one let in */
export function openAccess(record: Record, clock: Clock, site?: People): Access {
  const { accounts, sessions, phones, invitations } = record.tables;
  const listeners: (() => void)[] = [];
  const passwordListeners: ((person: string) => void)[] = [];
  const hasPassword = (person: string) => passwordListeners.forEach((l) => l(person));
  const signIns = openSignIns(record.tables, () => site?.file);
  const ended = () => {
    signIns.forget();
    listeners.forEach((l) => l());
  };
  // A wrong name takes as long as a wrong password.
  const decoy = hash(randomBytes(16).toString('hex'));
  const people = (): readonly Person[] => site?.file.people ?? [];
  /** By the machine's clock: what a time server says must not let anyone in. */
  const isLetIn = (p: Person) => belongsAt(p, site!.file.site.timezone, clock.machine());
  const personOf = (account: AccountRow): Person | undefined => people().find((p) => p.id === account.person && isLetIn(p));
  /** Ends sign-ins with the phones that go with them. */
  const endSessions = async (ids: readonly string[], transaction: Transaction) => {
    await sessions.destroy({ where: { id: [...ids] }, transaction });
    await phones.update({ goneAt: clock.now() }, { where: { session: [...ids], goneAt: null }, transaction });
  };
  /** By the name that the person has now. */
  const accountOf = async (name: string): Promise<AccountRow | undefined> => {
    const named = people().filter((p) => isLetIn(p) && nameKey(p.name) === nameKey(name));
    if (named.length === 0) return undefined;
    const found = await accounts.findAll({ where: { person: named.map((p) => p.id) } });
    return found[0]?.get({ plain: true });
  };
  const addSession = async (
    session: { account: string | null; role: Role; kind: 'browser' | 'bearer'; label: string | null },
    days: number,
  ): Promise<string> => {
    const token = randomBytes(32).toString('base64url');
    const now = clock.machine();
    const row = {
      ...session,
      id: randomUUID(),
      tokenHash: hashOf(token),
      madeAtMachine: now,
      lastSeenAtMachine: now,
      expiresAtMachine: now + days * dayMs,
      confirmedAtMachine: session.kind === 'browser' ? now : null,
    };
    await record.writeAnyway((transaction) => sessions.create(row, { transaction }));
    return token;
  };
  const rowOf = async (
    { name, person, role }: { name: string; person: string; role: Role },
    transaction: Transaction,
    passwordHash: string,
  ) => {
    if (await accounts.findOne({ where: { person }, transaction }))
      throw new Problem('conflict', `${name} already has an account.`, 'Change its password instead.');
    if (await accounts.findOne({ where: { name }, transaction }))
      throw new Problem('conflict', `The account ${name} already exists.`, 'Choose another name.');
    await accounts.create({ id: randomUUID(), name, person, role, passwordHash, createdAtMachine: clock.machine() }, { transaction });
  };
  /** @throws Problem 'not-allowed' where it is not their password */
  const accountWith = async ({ person }: Visitor, password: string) => {
    const account = await accounts.findOne({ where: { person: person ?? '' } });
    if (!account) throw new Problem('not-allowed', 'A token has no password.', 'Sign in as that person.');
    if (!(await verify(account.passwordHash, password)))
      throw new Problem('not-allowed', 'The password is wrong.', 'Try again. Nothing was changed.');
    return account;
  };
  const needsOwner = async (transaction?: Transaction) => {
    const known = new Set((await accounts.findAll({ attributes: ['person'], transaction })).map((a) => a.person));
    return !people().some((p) => settersUp.includes(p.role) && known.has(p.id));
  };
  const setUpCode = [0, 1].map(() => Array.from({ length: 5 }, () => codeCharacters[randomInt(codeCharacters.length)]).join('')).join('-');
  const isCode = (given: string) => {
    const [a, b] = [given, setUpCode].map((c) => createHash('sha256').update(c.replace(/[\s-]/g, '').toUpperCase()).digest());
    return timingSafeEqual(a!, b!);
  };

  return {
    needsOwner: () => needsOwner(),
    setUpCode,
    async addAccount(account) {
      checkPassword(account.password);
      const passwordHash = await hash(account.password);
      await record.write((transaction) => rowOf(account, transaction, passwordHash));
    },
    async makeOwner({ name: typedName, password, code }) {
      const name = tidyName(typedName);
      if (!(await needsOwner())) throw new Problem('conflict', 'This site already has an owner.', 'Sign in instead.');
      if (!isCode(code))
        throw new Problem(
          'not-allowed',
          'The set-up code is wrong.',
          'It is shown where Nibber was started. Restart Nibber to see it again.',
        );
      checkPassword(password);
      const passwordHash = await hash(password);
      await site!.addOwner(name, async (person, transaction) => {
        if (!(await needsOwner(transaction))) throw new Problem('conflict', 'This site already has an owner.', 'Sign in instead.');
        // An account that no one of the site has any more gives its name free.
        await accounts.destroy({ where: { person }, transaction });
        await accounts.destroy({ where: { name }, transaction });
        await rowOf({ name, person, role: 'owner' }, transaction, passwordHash);
      });
    },
    async signIn(name, password, label) {
      const account = await accountOf(name);
      const isRight = await verify(account?.passwordHash ?? (await decoy), password);
      return account && isRight ? addSession({ account: account.id, role: account.role, kind: 'browser', label }, sessionDays) : undefined;
    },
    personOf: async (name) => (await accountOf(name))?.person,
    async makeBearer({ role, name, days }) {
      if (!Number.isInteger(days) || days < 1 || days > maxBearerDays)
        throw new Problem('bad-input', `A token cannot last ${days} days.`, `Choose 1 to ${maxBearerDays} days.`);
      return addSession({ account: null, role, kind: 'bearer', label: name }, days);
    },
    async visitor(token) {
      const found = await signIns.of(hashOf(token));
      const now = clock.machine();
      if (!found || found.session.expiresAtMachine <= now) return undefined;
      const { session, account } = found;
      const person = account && personOf(account);
      if (session.account !== null && !person) return undefined;
      if (now - (session.lastSeenAtMachine ?? 0) > seenEveryMs) {
        session.lastSeenAtMachine = now;
        // Whoever is signed in stays so while the disk is full.
        await record
          .write((transaction) => sessions.update({ lastSeenAtMachine: now }, { where: { tokenHash: session.tokenHash }, transaction }))
          .catch((thrown: Error) => log.warn({ error: thrown.message }, 'last activity not saved'));
      }
      return person
        ? {
            role: person.role,
            name: person.name,
            person: person.id,
            session: session.id,
            confirmedAt: session.confirmedAtMachine ?? 0,
            visible: accessOf(site!.file, person),
          }
        : {
            role: session.role,
            name: session.label ?? 'A script',
            person: undefined,
            session: session.id,
            confirmedAt: undefined,
            visible: fullAccess,
          };
    },
    async confirm(visitor, password) {
      await accountWith(visitor, password);
      await record.writeAnyway((transaction) =>
        sessions.update({ confirmedAtMachine: clock.machine() }, { where: { id: visitor.session }, transaction }),
      );
      signIns.forget();
    },
    async changePassword(visitor, present, next) {
      const account = await accountWith(visitor, present);
      checkPassword(next);
      const passwordHash = await hash(next);
      await record.write(async (transaction) => {
        await accounts.update({ passwordHash }, { where: { id: account.id }, transaction });
        const others = await sessions.findAll({ where: { account: account.id }, transaction });
        await endSessions(
          others.map((s) => s.id).filter((id) => id !== visitor.session),
          transaction,
        );
      });
      ended();
      hasPassword(account.person);
    },
    async sessions(of) {
      const [rows, owners] = await Promise.all([sessions.findAll({ order: [['madeAtMachine', 'DESC']] }), accounts.findAll()]);
      return rows.flatMap((s): SessionAnswer[] => {
        const account = owners.find((a) => a.id === s.account);
        const person = account && personOf(account);
        if (s.expiresAtMachine <= clock.machine() || (s.account !== null && !person) || (of !== undefined && person?.id !== of)) return [];
        return [
          {
            id: s.id,
            kind: s.kind,
            name: person?.name ?? s.label ?? 'A script',
            person: person?.id,
            role: person?.role ?? s.role,
            label: person ? s.label : null,
            madeAt: s.madeAtMachine,
            lastSeenAt: s.lastSeenAtMachine,
            expiresAt: s.expiresAtMachine,
          },
        ];
      });
    },
    async end(id) {
      await record.writeAnyway((transaction) => endSessions([id], transaction));
      ended();
    },
    async endAllOf(person) {
      const count = await record.write(async (transaction) => {
        const account = await accounts.findOne({ where: { person }, transaction });
        const all = account ? await sessions.findAll({ where: { account: account.id }, transaction }) : [];
        await endSessions(
          all.map((s) => s.id),
          transaction,
        );
        await phones.update({ goneAt: clock.now() }, { where: { person, goneAt: null }, transaction });
        await invitations.destroy({ where: { person, usedAtMachine: null }, transaction });
        return all.length;
      });
      ended();
      return count;
    },
    withAccounts: async () => new Set((await accounts.findAll({ attributes: ['person'], raw: true })).map((a) => a.person)),
    visibleNow(person) {
      const found = people().find((p) => p.id === person);
      return found && isLetIn(found) ? accessOf(site!.file, found) : undefined;
    },
    async roleNow(author) {
      const [kind, id] = (author ?? '').split(' ');
      if (kind === 'person') {
        const found = people().find((p) => p.id === id);
        return found && isLetIn(found) ? found.role : undefined;
      }
      const session = kind === 'session' ? await sessions.findOne({ where: { id } }) : null;
      return session && session.expiresAtMachine > clock.machine() ? session.role : undefined;
    },
    async givePassword({ name, person, role }, passwordHash, transaction) {
      const known = await accounts.findOne({ where: { person }, transaction });
      if (!known) {
        await accounts.destroy({ where: { name }, transaction });
        return rowOf({ name, person, role }, transaction, passwordHash);
      }
      await accounts.update({ passwordHash }, { where: { id: known.id }, transaction });
      // Whoever knew the old one is out.
      const before = await sessions.findAll({ where: { account: known.id }, transaction });
      await endSessions(
        before.map((s) => s.id),
        transaction,
      );
      transaction.afterCommit(ended);
      transaction.afterCommit(() => hasPassword(person));
    },
    async hashOf(password) {
      checkPassword(password);
      return hash(password);
    },
    onPassword: (listener) => void passwordListeners.push(listener),
    onEnded: (listener) => void listeners.push(listener),
  };
}
