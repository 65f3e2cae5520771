// Accounts, sessions and bearer tokens. Passwords are kept as argon2id hashes, tokens as SHA-256 of themselves.

import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import type { Role } from '@nibber/core/site';
import { Trouble } from '@nibber/core/trouble';
import type { Clock } from '../clock';
import type { Record } from './index';

/** Who asks. A bearer token has a role and no person. */
export type Visitor = { readonly role: Role; readonly name: string; readonly person: string | undefined };

export type Access = {
  hasAccounts(): Promise<boolean>;
  addAccount(account: { name: string; person: string; role: Role; password: string }): Promise<void>;
  /** @returns a new session's token; undefined for a name or password that is wrong */
  signIn(name: string, password: string): Promise<string | undefined>;
  makeBearer(role: Role): Promise<string>;
  visitor(token: string): Promise<Visitor | undefined>;
  signOut(token: string): Promise<void>;
};

const sessionDays = 30;
const bearerDays = 3650;
const dayMs = 86_400_000;
const leastPassword = 8;
const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');

export function openAccess(record: Record, clock: Clock): Access {
  const { accounts, sessions } = record.tables;
  // A wrong name takes as long as a wrong password.
  const decoy = hash(randomBytes(16).toString('hex'));
  const addSession = async (session: { account: string | null; role: Role; kind: 'browser' | 'bearer' }, days: number) => {
    const token = randomBytes(32).toString('base64url');
    const row = { ...session, tokenHash: hashOf(token), expiresAtMachine: clock.machine() + days * dayMs };
    await record.write((transaction) => sessions.create(row, { transaction }));
    return token;
  };
  return {
    hasAccounts: async () => (await accounts.count()) > 0,
    async addAccount({ name, person, role, password }) {
      if (password.length < leastPassword)
        throw new Trouble('bad-input', 'The password is too short.', `Use at least ${leastPassword} characters.`);
      const passwordHash = await hash(password);
      await record.write(async (transaction) => {
        if (await accounts.findOne({ where: { name }, transaction }))
          throw new Trouble('conflict', `There is an account ${name} already.`, 'Choose another name.');
        await accounts.create({ id: randomUUID(), name, person, role, passwordHash, createdAtMachine: clock.machine() }, { transaction });
      });
    },
    async signIn(name, password) {
      const account = await accounts.findOne({ where: { name } });
      const isRight = await verify(account?.passwordHash ?? (await decoy), password);
      return account && isRight ? addSession({ account: account.id, role: account.role, kind: 'browser' }, sessionDays) : undefined;
    },
    makeBearer: (role) => addSession({ account: null, role, kind: 'bearer' }, bearerDays),
    async visitor(token) {
      const session = await sessions.findByPk(hashOf(token));
      if (!session || session.expiresAtMachine < clock.machine()) return undefined;
      if (session.account === null) return { role: session.role, name: 'A script', person: undefined };
      const account = await accounts.findByPk(session.account);
      return account ? { role: account.role, name: account.name, person: account.person } : undefined;
    },
    signOut: (token) =>
      record.write(async (transaction) => void (await sessions.destroy({ where: { tokenHash: hashOf(token) }, transaction }))),
  };
}
