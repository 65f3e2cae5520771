// npm run schema [-- --check]: writes what is made from the code: the schemas of the site file and of a camera's event, the API's description
// and the client's checks of forms. With --check nothing is written, and it ends with 1 where a file is not as it should be.

import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { cameraEventSchema } from '@nibber/core/formats';
import { siteSchema } from '@nibber/core/site';
import { stringify } from 'yaml';
import Ajv2020 from 'ajv/dist/2020';
import standaloneCode from 'ajv/dist/standalone';
import { describedRoutes, openapiOf } from '../http/openapi';
import { isBytes } from '../http/route';

const root = path.join(__dirname, '../../..');
/** The bodies that the client's forms are filled for, by the names of their checks. */
const forms = {
  signIn: 'post /api/session',
  owner: 'post /api/owner',
  password: 'put /api/password',
  token: 'post /api/tokens',
  attempt: 'post /api/connection-attempts',
  paired: 'post /api/paired-cameras',
  cameraLogin: 'put /api/cameras/:camera/login',
} as const;

const isCheck = process.argv.includes('--check');

async function main(): Promise<void> {
  const stale: string[] = [];
  const put = (file: string, text: string) => {
    const whole = path.join(root, file);
    if (existsSync(whole) && readFileSync(whole, 'utf8') === text) return;
    if (isCheck) stale.push(file);
    else writeFileSync(whole, text);
  };
  put('docs/site.schema.json', `${JSON.stringify(siteSchema, null, 2)}\n`);
  put('docs/camera-event.schema.json', `${JSON.stringify(cameraEventSchema, null, 2)}\n`);
  const openapi = openapiOf(describedRoutes());
  await mustBeValid(openapi);
  put('docs/openapi.yaml', stringify(openapi, { aliasDuplicateObjects: false, lineWidth: 140 }));
  put('client/state/api/checks.js', checksOf());
  if (stale.length === 0) return;
  console.error(`${stale.join(', ')}: out of date. Run npm run schema.`);
  process.exit(1);
}

/** Checks of those bodies as plain code: a page may not make code of text (its content security policy), as Ajv otherwise does. */
function checksOf(): string {
  const ajv = new Ajv2020({ strict: false, allErrors: true, code: { source: true } });
  const routes = describedRoutes();
  for (const [name, of] of Object.entries(forms)) {
    const body = routes.find((r) => `${r.method} ${r.path}` === of)?.body;
    if (body === undefined || isBytes(body)) throw new Error(`${of} takes no JSON`);
    ajv.addSchema(body as object, name);
  }
  return `// Made by npm run schema.\n${standaloneCode(ajv, Object.fromEntries(Object.keys(forms).map((name) => [name, name])))}\n`;
}

/** Reference: an OpenAPI validator that no one here wrote. */
async function mustBeValid(openapi: object): Promise<void> {
  const { Validator } = await import('@seriousme/openapi-schema-validator');
  const { valid, errors } = await new Validator().validate(structuredClone(openapi) as never);
  if (!valid) throw new Error(`The API's description is not valid: ${JSON.stringify(errors)}`);
}

main().catch((thrown: Error) => {
  console.error(thrown.message);
  process.exit(1);
});
