// What goes with what is taken out of the site, in the same transaction; and who has to stay.

import type { Transaction } from 'sequelize';
import { lastingOwners } from '@nibber/core/people';
import type { Reminder, SiteFile } from '@nibber/core/site';
import { Problem } from '@nibber/core/problem';
import { loginName, tokenName } from './cameras';
import type { Record } from './index';

/**
 * What lets in, or is let in by, a camera that is taken out of the site goes with it; so does the address of one that is paired no more, and
 * the picture of what is known no more.
 */
export async function letGoOfGone(
  { tables, media }: Pick<Record, 'tables' | 'media'>,
  before: SiteFile,
  after: SiteFile,
  transaction: Transaction,
): Promise<void> {
  for (const { id, source } of before.cameras) {
    const now = after.cameras.find((c) => c.id === id);
    const isGone = now === undefined;
    if (isGone) await tables.sealed.destroy({ where: { name: loginName(id) }, transaction });
    if (source.kind !== 'paired' || now?.source.kind === 'paired') continue;
    await tables.sealed.destroy({ where: { name: tokenName(id) }, transaction });
    await tables.cameraTokens.destroy({ where: { camera: id }, transaction });
  }
  // A removed person gets no more alerts; a program's secret goes with it.
  const without = <T extends { readonly id: string }>(was: readonly T[] | undefined, is: readonly T[] | undefined) =>
    (was ?? []).filter((w) => !is?.some((i) => i.id === w.id)).map((w) => w.id);
  const people = without(before.people, after.people);
  // With their account, so that no one who is given the same id later comes in by their password.
  const accounts = await tables.accounts.findAll({ where: { person: people }, transaction });
  await tables.sessions.destroy({ where: { account: accounts.map((a) => a.id) }, transaction });
  await tables.accounts.destroy({ where: { person: people }, transaction });
  for (const person of people) {
    await tables.phones.destroy({ where: { person }, transaction });
    await tables.snoozes.destroy({ where: { person }, transaction });
    await tables.invitations.destroy({ where: { person }, transaction });
  }
  for (const receiver of without(before.receivers, after.receivers))
    await tables.sealed.destroy({ where: { name: `channel ${receiver}` }, transaction });
  // What it remembers is of what it looked at.
  const sameReminder = (a: Reminder, b: Reminder) =>
    a.id === b.id && a.reading === b.reading && JSON.stringify(a.is) === JSON.stringify(b.is);
  for (const reminder of (before.reminders ?? []).filter((r) => !after.reminders?.some((n) => sameReminder(r, n))))
    await tables.reminderStates.destroy({ where: { reminder: reminder.id }, transaction });
  const unknown = (before.known ?? []).filter((k) => !after.known?.some((n) => n.id === k.id));
  if (unknown.length > 0)
    await media.letGo(
      transaction,
      'known',
      unknown.map((k) => k.id),
    );
}

/** @throws Problem 'conflict' where an owner with an account stayed before, and none would now: no one could sign in as one */
export async function refuseWithoutOwner(
  { tables: { accounts } }: Pick<Record, 'tables'>,
  before: SiteFile,
  after: SiteFile,
  transaction: Transaction,
): Promise<void> {
  const [was, is] = [before, after].map((site) => lastingOwners(site).map((p) => p.id));
  const gone = was!.filter((id) => !is!.includes(id));
  if (gone.length === 0 || (await accounts.count({ where: { person: is! }, transaction })) > 0) return;
  throw new Problem('conflict', 'This would leave no owner who can sign in.', 'Invite another owner first. Nothing was changed.');
}
