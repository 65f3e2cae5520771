// A model is a folder with a manifest: where its graph is, what it takes, what it gives, what its classes are.

import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import type { FromSchema } from 'json-schema-to-ts';
import { classOf, typeNames, classes } from '@nibber/core/boxes';
import { compileSchema, faultsOf } from '@nibber/core/check';
import { faultLine, Trouble } from '@nibber/core/trouble';

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
        /** … by scaling these whole-number constants of it: with the side, or (their first entry) with the area. */
        sizes: {
          type: 'object',
          additionalProperties: false,
          required: ['linear', 'square'],
          properties: { linear: { type: 'array', items: { type: 'string' } }, square: { type: 'array', items: { type: 'string' } } },
        },
      },
    },
    input: {
      type: 'object',
      additionalProperties: false,
      required: ['node', 'size', 'range'],
      properties: {
        node: { type: 'string' },
        size: { type: 'integer', minimum: 32, maximum: 2048 },
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
    leastScore: { type: 'number', minimum: 0, maximum: 1 },
    classes: { type: 'object', additionalProperties: { type: 'string' } },
  },
} as const;

export type Manifest = FromSchema<typeof manifestSchema>;
export type ModelFolder = { readonly folder: string; readonly manifest: Manifest; readonly graphFile: string };

const validate = compileSchema<Manifest>(manifestSchema);

export const builtInModel = path.join(__dirname, '..', '..', '..', 'models', 'centernet');

/** Reads a model folder. @throws Trouble 'bad-input' that names the folder and each fault */
export function readModelFolder(folder: string): ModelFolder {
  const file = path.join(folder, 'manifest.json');
  let manifest: unknown;
  try {
    manifest = JSON.parse(readFileSync(file, 'utf8'));
  } catch (thrown) {
    throw new Trouble(
      'bad-input',
      `The model folder ${folder} cannot be used: ${(thrown as Error).message}.`,
      'A model folder holds a manifest.json, see server/models/centernet.',
    );
  }
  if (!validate(manifest)) throw unusable(folder, faultsOf(validate.errors).map(faultLine));
  const { drawnFor, sizes } = manifest.graph;
  if ((drawnFor === undefined) !== (sizes === undefined))
    throw unusable(folder, ['graph: has one of drawnFor and sizes; allowed: both or neither']);
  if (drawnFor !== undefined && manifest.input.size % 32 !== 0)
    throw unusable(folder, [`input/size: is ${manifest.input.size}; allowed: a multiple of 32`]);
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
    throw unusable(folder, [`graph: ${manifest.graph.file} is not there; allowed: a file of the folder or of an installed package`]);
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
  new Trouble('bad-input', `The model folder ${folder} cannot be used. ${lines.join(' · ')}`, 'Correct its manifest.json.');
