// Invitations: by one, someone comes in once. It is known by its hash, ends, and is used whole or not at all.

import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { Op } from 'sequelize';
import type { Person, Role } from '@nibber/core/site';
import { Problem } from '@nibber/core/problem';
import { idOf } from '@nibber/core/words';
import type { Clock } from '../base/clock';
import { may, type Actor } from '@nibber/core/permissions';
import { authorOf, type Access, type Visitor } from './access';
import type { InvitationRow, Record } from './index';
import { nameKey, tidyName } from './names';
import type { SiteBook } from './site';

/** Who is to come in: someone of the site who chooses a new password, or someone new. */
export type Invited =
  | { readonly kind: 'known'; readonly person: string }
  | {
      readonly kind: 'new';
      readonly name: string | undefined;
      readonly role: Role;
      readonly access: Person['access'];
      readonly until: string | undefined;
    };

export type Invitation = Pick<
  InvitationRow,
  'id' | 'person' | 'name' | 'role' | 'access' | 'until' | 'madeBy' | 'madeAtMachine' | 'expiresAtMachine'
>;

export type Invitations = {
  /** @returns its token, which is shown once, and when it ends */
  make(invited: Invited, by: Visitor, days: number): Promise<{ readonly id: string; readonly token: string; readonly expiresAt: number }>;
  /** Those that can still be used, newest first. */
  open(): Promise<Invitation[]>;
  /** @throws Problem 'not-found' where it is unknown, used or over: a stranger does not learn which */
  look(token: string): Promise<Invitation>;
  /** Makes the account, and the person where they are new. @throws as `look`; 'conflict' for a name that is taken */
  use(token: string, name: string, password: string): Promise<void>;
  end(id: string): Promise<boolean>;
};

export const maxInvitationDays = 14;
const maxOpen = 50;
const dayMs = 86_400_000;
const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');
const noneSuch = () => new Problem('not-found', 'This invitation is not valid or was already used.', 'Ask for a new one.');

export function openInvitations(record: Record, site: SiteBook, access: Access, clock: Clock): Invitations {
  const { invitations } = record.tables;
  const usable = () => ({ usedAtMachine: null, expiresAtMachine: { [Op.gt]: clock.machine() } });
  /** Whoever made it, as they are now. @throws Problem 'not-found' where they may not invite so any more: it ended with that */
  const authorNow = async ({ author, madeBy, role }: Pick<InvitationRow, 'author' | 'madeBy' | 'role'>): Promise<Actor> => {
    const now = await access.roleNow(author);
    if (!now || !may(now, 'invite') || (role === 'owner' && !may(now, 'change owners'))) throw noneSuch();
    return { name: madeBy, role: now };
  };
  const look = async (token: string) => {
    const found = await invitations.findOne({ where: { tokenHash: hashOf(token), ...usable() } });
    if (!found) throw noneSuch();
    // A person who was taken out of the site meanwhile does not come back by an old invitation.
    if (found.person !== null && !site.file.people?.some((p) => p.id === found.person)) throw noneSuch();
    await authorNow(found);
    return found.get({ plain: true });
  };
  return {
    async make(invited, by, days) {
      const token = randomBytes(24).toString('base64url');
      const person = invited.kind === 'known' ? site.file.people?.find((p) => p.id === invited.person) : undefined;
      if (invited.kind === 'known' && !person) throw new Problem('not-found', 'Person not found.', 'Reload the page.');
      const now = clock.machine();
      const prompt =
        invited.kind === 'known'
          ? { name: person!.name, role: person!.role }
          : { name: invited.name ?? null, role: invited.role, access: invited.access ?? null, until: invited.until ?? null };
      const row = {
        access: null,
        until: null,
        ...prompt,
        id: randomUUID(),
        tokenHash: hashOf(token),
        person: person?.id ?? null,
        madeBy: by.name,
        author: authorOf(by),
        madeAtMachine: now,
        expiresAtMachine: now + days * dayMs,
        usedAtMachine: null,
      };
      await record.write(async (transaction) => {
        if ((await invitations.count({ where: usable(), transaction })) >= maxOpen)
          throw new Problem('conflict', `${maxOpen} invitations are already open.`, 'Revoke some of them first.');
        // A new one for the same person takes the place of the one before.
        if (person) await invitations.destroy({ where: { person: person.id, usedAtMachine: null }, transaction });
        await invitations.create(row, { transaction });
        await record.logbook.note(transaction, clock.now(), by, `invited ${prompt.name ?? 'someone'} as ${prompt.role}`);
      });
      return { id: row.id, token, expiresAt: row.expiresAtMachine };
    },
    async open() {
      const rows = await invitations.findAll({ where: usable(), order: [['madeAtMachine', 'DESC']] });
      const good = await Promise.all(
        rows.map((row) =>
          authorNow(row).then(
            () => true,
            () => false,
          ),
        ),
      );
      return rows.filter((_, i) => good[i]).map((row) => row.get({ plain: true }));
    },
    look,
    async use(token, name, password) {
      const found = await look(token);
      const passwordHash = await access.hashOf(password);
      const called = tidyName(name);
      /** Taken by only one of two who use it at once. */
      const spend = async (transaction: Parameters<typeof record.logbook.note>[0]) => {
        const [spent] = await invitations.update({ usedAtMachine: clock.machine() }, { where: { id: found.id, ...usable() }, transaction });
        if (spent === 0) throw noneSuch();
      };
      if (found.person !== null) {
        const person = site.file.people!.find((p) => p.id === found.person)!;
        return record.write(async (transaction) => {
          await spend(transaction);
          await access.givePassword({ name: person.name, person: person.id, role: person.role }, passwordHash, transaction);
          await record.logbook.note(transaction, clock.now(), { name: person.name, person: person.id }, 'set a new password with a link');
        });
      }
      const author = await authorNow(found);
      let id = '';
      await site.edit(
        (file) => {
          const people = file.people ?? [];
          if (people.some((p) => nameKey(p.name) === nameKey(called)))
            throw new Problem('conflict', `The name ${called} is already used.`, 'Choose another name to sign in with.');
          id = idOf(called, [...people.map((p) => p.id), ...(file.receivers ?? []).map((r) => r.id)], 'person');
          // What was shared and is gone meanwhile is left out.
          const still = (ids: readonly string[] | undefined, there: readonly { readonly id: string }[]) =>
            ids?.filter((i) => there.some((t) => t.id === i));
          const access = found.access && {
            areas: still(found.access.areas, file.areas),
            cameras: still(found.access.cameras, file.cameras),
          };
          const person = {
            id,
            name: called,
            role: found.role,
            ...(found.until ? { until: found.until } : {}),
            ...(access ? { access } : {}),
          };
          return [[['people', id], JSON.parse(JSON.stringify(person)) as Person]];
        },
        {
          by: { ...author, name: called },
          what: `joined as ${found.role}, invited by ${found.madeBy}`,
          also: async (transaction) => {
            await spend(transaction);
            await access.givePassword({ name: called, person: id, role: found.role }, passwordHash, transaction);
          },
        },
      );
    },
    end: (id) => record.write(async (transaction) => (await invitations.destroy({ where: { id, usedAtMachine: null }, transaction })) > 0),
  };
}
