// npm run -s token -- --role owner: a bearer token for the API of the data folder in NIBBER_DATA.

import type { Role } from '@nibber/core/site';
import { machineClock } from '../base/clock';
import { readConfig } from '../base/config';
import { openRecord } from '../db';
import { maxBearerDays, openAccess } from '../db/access';
import { fail, needed, readOptions } from './options';

const roles: readonly Role[] = ['installer', 'owner', 'member'];

async function main() {
  const options = readOptions(['role', 'name', 'days']);
  const role = needed(options.role, 'role');
  if (!roles.includes(role as Role)) fail(`--role ${role} is unknown; allowed: ${roles.join(', ')}`);
  const record = await openRecord(readConfig().dataFolder);
  const name = options.name ?? 'A script';
  const days = Number(options.days ?? maxBearerDays);
  console.log(await openAccess(record, machineClock()).makeBearer({ role: role as Role, name, days }));
  await record.close();
}

main().catch((thrown: Error) => fail(thrown.message));
