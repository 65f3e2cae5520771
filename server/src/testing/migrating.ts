// Brings a database up to date in a process of its own, so that it can be killed while it does. Says when it begins and when it is done.

import { migrate } from '../db/migrations';

process.stdout.write('begun\n');
void migrate(process.argv[2]!).then(() => process.stdout.write('done\n'));
