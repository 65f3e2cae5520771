// A model is a folder with a manifest: where its graph is, what it takes, what it gives, what its classes are.

import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import type { FromSchema } from 'json-schema-to-ts';
import { classOf, typeNames, classes } from '@nibber/core/boxes';
import { compileSchema, problemsOf } from '@nibber/core/check';
import { problemLine, Problem } from '@nibber/core/problem';
import type { InputSize } from '../../base/picture';

const names = { type: 'array', items: { type: 'string' } } as const;
const share = { type: 'number', minimum: 0, maximum: 1 } as const;
const side = { type: 'integer', minimum: 32, maximum: 2048 } as const;
const sizes = { type: 'array', minItems: 1, maxItems: 8, items: { type: 'array', minItems: 2, maxItems: 2, items: side } } as const;

const manifestSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['name', 'graph', 'input', 'output', 'classes'],
  properties: {
    name: { type: 'string' },
    licence: { type: 'string' },
    /** The graph file, in the folder itself or in an installed package. */
    graph: {
      type: 'object',
      additionalProperties: false,
      required: ['file'],
      properties: {
        package: { type: 'string' },
        file: { type: 'string' },
        /** The input size the graph was made for, where it can be run at others … */
        drawnFor: { type: 'integer', minimum: 32 },
        /** … by scaling these whole-number constants of it: rows and columns with height and width, with the width, or (their first entry) with the area. */
        sizes: {
          type: 'object',
          additionalProperties: false,
          required: ['sides', 'width', 'area'],
          properties: { sides: names, width: names, area: names },
        },
        /** Of a detector by centre points: its map of scores and its map of reaches, and the constants that say how far its cells are apart and how many it finds. With these it runs natively. */
        centres: {
          type: 'object',
          additionalProperties: false,
          required: ['heat', 'sides', 'step', 'max'],
          properties: { heat: { type: 'string' }, sides: { type: 'string' }, step: { type: 'string' }, max: { type: 'string' } },
        },
      },
    },
    input: {
      type: 'object',
      additionalProperties: false,
      required: ['node', 'range'],
      oneOf: [{ required: ['size'] }, { required: ['sizes'] }],
      properties: {
        node: { type: 'string' },
        /** One square; or several, of which the one nearest in shape to what is looked at is taken: `fine` where the machine has the time. */
        size: side,
        sizes,
        fine: sizes,
        order: { enum: ['rgb'] },
        range: { enum: [1, 255] },
      },
    },
    output: {
      type: 'object',
      additionalProperties: false,
      required: ['node', 'form', 'unit'],
      properties: {
        node: { type: 'string' },
        form: { enum: ['x1 y1 x2 y2 score class', 'y1 x1 y2 x2 score class'] },
        unit: { enum: ['input pixels', 'share'] },
      },
    },
    minScore: share,
    /** With which score a track may begin, and with which it goes on. */
    tracks: { type: 'object', additionalProperties: false, required: ['begin', 'goOn'], properties: { begin: share, goOn: share } },
    classes: { type: 'object', additionalProperties: { type: 'string' } },
  },
} as const;

export type Manifest = FromSchema<typeof manifestSchema>;
export type ModelFolder = { readonly folder: string; readonly manifest: Manifest; readonly graphFile: string };

/** The inputs that a model is run at: the usual ones, and finer ones for where there is time; at least one of either. */
export function inputSizes({ input }: Manifest): { readonly usual: readonly InputSize[]; readonly fine: readonly InputSize[] } {
  const asSizes = (list: readonly (readonly number[])[]) => list.map(([width, height]) => ({ width: width!, height: height! }));
  const usual = input.sizes ? asSizes(input.sizes) : [{ width: input.size!, height: input.size! }];
  return { usual, fine: input.fine ? asSizes(input.fine) : usual };
}

/** The size nearest in shape to what is to be looked at, width over height. */
export const sizeFor = (list: readonly InputSize[], aspect: number): InputSize =>
  list.reduce((best, s) => (oddness(s, aspect) < oddness(best, aspect) ? s : best));
const oddness = ({ width, height }: InputSize, aspect: number) => Math.abs(Math.log(width / height / aspect));

/** With which score a track begins, and with which it goes on. */
export const trackScores = ({ tracks, minScore = 0.25 }: Manifest): { readonly begin: number; readonly goOn: number } =>
  tracks ?? { begin: minScore, goOn: minScore };

const validate = compileSchema<Manifest>(manifestSchema);

export const builtInModel = path.join(__dirname, '..', '..', '..', 'models', 'centernet');

/** Reads a model folder. @throws Problem 'bad-input' that names the folder and each fault */
export function readModelFolder(folder: string): ModelFolder {
  const file = path.join(folder, 'manifest.json');
  let manifest: unknown;
  try {
    manifest = JSON.parse(readFileSync(file, 'utf8'));
  } catch (thrown) {
    throw new Problem(
      'bad-input',
      `The model folder ${folder} cannot be used: ${(thrown as Error).message}.`,
      'A model folder holds a manifest.json, see server/models/centernet.',
    );
  }
  if (!validate(manifest)) throw unusable(folder, problemsOf(validate.errors).map(problemLine));
  const { drawnFor, sizes } = manifest.graph;
  if ((drawnFor === undefined) !== (sizes === undefined))
    throw unusable(folder, ['graph: has one of drawnFor and sizes; allowed: both or neither']);
  const all = [...inputSizes(manifest).usual, ...inputSizes(manifest).fine];
  const odd = all.flatMap((s) => [s.width, s.height]).find((s) => s % 32 !== 0);
  if (drawnFor !== undefined && odd !== undefined) throw unusable(folder, [`input/size: is ${odd}; allowed: a multiple of 32`]);
  const unknown = Object.entries(manifest.classes).filter(([id, name]) => !/^\d+$/.test(id) || classOf(name as string) === undefined);
  if (unknown.length)
    throw unusable(
      folder,
      unknown.map(([id, name]) => `classes/${id}: is ${String(name)}; allowed: ${[...classes, ...typeNames].join(', ')}`),
    );
  const graphFile = manifest.graph.package
    ? packageFile(manifest.graph.package, manifest.graph.file)
    : path.join(folder, manifest.graph.file);
  if (!graphFile || !existsSync(graphFile))
    throw unusable(folder, [`graph: ${manifest.graph.file} is missing; allowed: a file of the folder or of an installed package`]);
  if (drawnFor === undefined && all.length > 1)
    throw unusable(folder, ['input/sizes: are several; allowed: one, where graph/drawnFor is not said']);
  return { folder, manifest, graphFile };
}

function packageFile(name: string, file: string): string | undefined {
  try {
    return path.join(path.dirname(require.resolve(`${name}/package.json`)), file);
  } catch {
    return undefined;
  }
}

const unusable = (folder: string, lines: readonly string[]) =>
  new Problem('bad-input', `The model folder ${folder} cannot be used. ${lines.join(' · ')}`, 'Correct its manifest.json.');
