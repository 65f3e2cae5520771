declare module 'munkres-js' {
  /** Row and column of each pair of a best assignment. */
  export default function munkres(cost: number[][]): [row: number, column: number][];
}
