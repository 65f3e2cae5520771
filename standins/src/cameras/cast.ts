// Who can walk through the pictures, and how their drawings are kept in ../../scenery/assets.

export type FigureKind = 'person' | 'dog' | 'car';

type Member = {
  readonly kind: FigureKind;
  readonly look: string;
  readonly paint?: number;
  readonly phases: number;
  readonly strideMetres: number;
};

export const cast = {
  ada: { kind: 'person', look: 'navy', phases: 6, strideMetres: 1.45 },
  bo: { kind: 'person', look: 'red', phases: 6, strideMetres: 1.45 },
  cy: { kind: 'person', look: 'black', phases: 6, strideMetres: 1.45 },
  dog: { kind: 'dog', look: 'gold', phases: 6, strideMetres: 0.75 },
  'red-hatchback': { kind: 'car', look: 'hatchback', paint: 0x7c2424, phases: 1, strideMetres: 1 },
  'grey-saloon': { kind: 'car', look: 'saloon', paint: 0x59636d, phases: 1, strideMetres: 1 },
} as const satisfies Record<string, Member>;

export type FigureName = keyof typeof cast;

/** One drawing on a sheet: `sheet` is x, y, width, height there; `left`, `top` its place in the sheet's scale; `box` the figure's own box at scale 1. */
export type CellRecord = {
  readonly sheet: readonly [number, number, number, number];
  readonly left: number;
  readonly top: number;
  readonly box: readonly [number, number, number, number];
};

/** Cells go phase by phase, within a phase heading by heading. */
export type SheetRecord = {
  readonly headings: number;
  readonly phases: number;
  readonly scale: number;
  readonly cells: readonly CellRecord[];
};
