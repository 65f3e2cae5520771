// npm run schema: writes the schemas in docs/ from those that the program checks with.

import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { cameraEventSchema } from '@nibber/core/formats';
import { siteSchema } from '@nibber/core/site';

const write = (name: string, schema: object) =>
  writeFileSync(path.join(__dirname, '../../../docs', name), `${JSON.stringify(schema, null, 2)}\n`);

write('site.schema.json', siteSchema);
write('camera-event.schema.json', cameraEventSchema);
