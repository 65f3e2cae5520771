// npm run -s account -- reset NAME: a new password for someone of the data folder in NIBBER_DATA, for when no one can invite them again.

import { randomInt } from 'node:crypto';
import { machineClock } from '../base/clock';
import { readConfig } from '../base/config';
import { openRecord } from '../db';
import { codeCharacters, openAccess } from '../db/access';
import { nameKey } from '../db/names';
import { openSiteBook } from '../db/site';
import { fail } from './options';

/** 20 of 32 characters: 100 bits. */
const password = () =>
  [0, 1, 2, 3].map(() => Array.from({ length: 5 }, () => codeCharacters[randomInt(codeCharacters.length)]).join('')).join('-');

async function main() {
  const [verb, name, ...rest] = process.argv.slice(2);
  if (verb !== 'reset' || name === undefined || rest.length > 0) fail('Use: npm run -s account -- reset NAME');
  const clock = machineClock();
  const record = await openRecord(readConfig().dataFolder);
  const site = await openSiteBook(record, clock);
  const people = site.file.people ?? [];
  const person = people.find((p) => nameKey(p.name) === nameKey(name));
  if (!person) fail(`${name} is not one of the people: ${people.map((p) => p.name).join(', ') || 'there are none yet'}.`);
  const access = openAccess(record, clock, site);
  const chosen = password();
  const passwordHash = await access.hashOf(chosen);
  await record.write((transaction) =>
    access.givePassword({ name: person.name, person: person.id, role: person.role }, passwordHash, transaction),
  );
  await record.logbook.noteDeed(clock.now(), { name: 'The machine' }, `reset the password of ${person.name}`);
  console.log(`New password of ${person.name}: ${chosen}`);
  console.log('All their sessions have ended. They can change it under Site, This device.');
  await site.close();
  await record.close();
}

main().catch((thrown: Error) => fail(thrown.message));
