import { readFileSync } from 'node:fs';
import path from 'node:path';
import ts from 'typescript';
import { parse } from 'yaml';
import { filesUnder, packages, parsed, root } from '../testing/sources';

/** Words of names for which another one is used everywhere. */
const removed =
  /^(troubles?|remedy|lately|sought|tells?|told|teller|beginnings?|mend|abilit(y|ies)|usual|least|most|kept|moments?|hours|sees|takes|does|asks|wordings?|tries|taken|standings?|switching|describing|looked|somebody|nobody|shots?)$/;

/** Names that hold such a word and mean something else, each with its reason. */
const meant: { readonly [name: string]: string } = {
  QuietHours: 'the field’s own term',
  useSetQuietHoursMutation: 'the field’s own term',
  Moment: 'a time on a wall clock that may be that of any zone (core/calendar)',
  momentOf: 'as Moment',
  momentLike: 'as Moment',
  hours: 'the gate, whose name is in replays',
  isTaken: 'whether a gateway took a message',
  asTaken: 'a picture as a camera takes it',
  StepTaken: 'a step that was taken',
  tellOf: 'what the simulated AI service answers',
  Standing: 'where a camera stands on the plan',
};

/** Exported names of a file. */
function exportsOf(file: string): string[] {
  const isExported = (node: ts.Statement) =>
    ts.canHaveModifiers(node) && ts.getModifiers(node)?.some((m) => m.kind === ts.SyntaxKind.ExportKeyword);
  return parsed(file).statements.flatMap((node): string[] => {
    if (!isExported(node)) return [];
    if (ts.isVariableStatement(node)) return node.declarationList.declarations.flatMap((d) => namesOf(d.name));
    const { name } = node as unknown as { readonly name?: ts.Identifier };
    return name ? [name.text] : [];
  });
}

const namesOf = (name: ts.BindingName): string[] =>
  ts.isIdentifier(name) ? [name.text] : name.elements.flatMap((e) => (ts.isBindingElement(e) ? namesOf(e.name) : []));

const wordsOf = (name: string) => name.split(/(?=[A-Z])|[-_]/).map((w) => w.toLowerCase());
const isRemoved = (name: string) => wordsOf(name).some((word) => removed.test(word));

test('no exported name has a word that another one replaced', () => {
  const all = packages.flatMap(filesUnder).flatMap((file) => exportsOf(file).map((name) => ({ file, name })));
  expect(all.length).toBeGreaterThan(1200);
  expect(all.filter(({ name }) => isRemoved(name) && !meant[name]).map(({ file, name }) => `${file} ${name}`)).toEqual([]);
  // An exception that nothing uses any longer goes.
  expect(Object.keys(meant).filter((name) => !all.some((e) => e.name === name))).toEqual([]);
});

/** Fields and parts of paths that are called otherwise now; those of version 1 of the site file are read by one function alone. */
const removedFields = new Set(
  (
    'tell does either zoneAt restSeconds asks longest otherwise tellIf takes sees sets can described shown reports mostAMinute ' +
    'remedy faults sought isSo lookMs looked taken shots pictureBy tells told joined grounds stands lately lookedAt clipTrouble ' +
    'descriptionTrouble hasSignIn signIns abilities usualSummary leastScore mostScore least most moments wordings switching hours describing'
  ).split(' '),
);
/** Where such a word is a field all the same, with the reason. */
const keptFields: { readonly [field: string]: string } = {
  can: 'whether a camera can do one thing',
};

const record = (value: unknown): value is Record<string, unknown> => typeof value === 'object' && value !== null;

/** Every field of a schema, however deep. */
function fieldsIn(node: unknown): string[] {
  if (Array.isArray(node)) return node.flatMap(fieldsIn);
  if (!record(node)) return [];
  const own = record(node.properties) ? Object.keys(node.properties) : [];
  return [...own, ...Object.values(node).flatMap(fieldsIn)];
}

const openapi = parse(readFileSync(path.join(root, 'docs/openapi.yaml'), 'utf8')) as { paths: Record<string, unknown> };
const siteSchema = JSON.parse(readFileSync(path.join(root, 'docs/site.schema.json'), 'utf8')) as unknown;

test('no field of the API or the site file has a name that another one replaced', () => {
  const fields = new Set([...fieldsIn(openapi), ...fieldsIn(siteSchema)]);
  expect(fields.size).toBeGreaterThan(300);
  expect([...fields].filter((f) => removedFields.has(f) && !keptFields[f])).toEqual([]);
  expect(Object.keys(keptFields).filter((f) => !fields.has(f))).toEqual([]);
});

test('no path of the API has a part that another one replaced', () => {
  const gone =
    'lately kept paths mend put-back ring beginning attempts taken tries week services sign-ins sign-in switching hours place asks'.split(
      ' ',
    );
  const parts = Object.keys(openapi.paths).flatMap((p) => p.split('/').map((part) => ({ p, part })));
  expect(parts.length).toBeGreaterThan(200);
  expect(parts.filter(({ part }) => gone.includes(part)).map(({ p }) => p)).toEqual([]);
});
