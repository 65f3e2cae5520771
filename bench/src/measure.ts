// Small helps for measuring.

export const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

export async function seconds(work: () => Promise<unknown> | unknown): Promise<number> {
  const began = performance.now();
  await work();
  return (performance.now() - began) / 1000;
}

export const rounded = (v: number, places = 3): number => Math.round(v * 10 ** places) / 10 ** places;

export type Figures = { [name: string]: number };
