// npm run schema: writes docs/site.schema.json from the schema that the program checks with.

import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { siteSchema } from '@nibber/core/site';

writeFileSync(path.join(__dirname, '../../../docs/site.schema.json'), `${JSON.stringify(siteSchema, null, 2)}\n`);
