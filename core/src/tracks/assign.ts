// Best assignment of rows to columns at least total cost (Kuhn–Munkres with potentials, O(n² m)).

/**
 * @param cost rows × columns, any finite numbers; may be ragged in neither direction
 * @returns for each row its column, or -1 where there are fewer columns than rows
 */
export function assign(cost: readonly (readonly number[])[]): number[] {
  const rows = cost.length;
  const columns = rows ? cost[0]!.length : 0;
  if (rows === 0 || columns === 0) return new Array<number>(rows).fill(-1);
  if (rows > columns) {
    const byColumn = assign(Array.from({ length: columns }, (_, j) => cost.map((row) => row[j]!)));
    const result = new Array<number>(rows).fill(-1);
    byColumn.forEach((row, column) => (result[row] = column));
    return result;
  }
  const rowPotential = new Float64Array(rows + 1);
  const columnPotential = new Float64Array(columns + 1);
  const rowOf = new Int32Array(columns + 1);
  const cameFrom = new Int32Array(columns + 1);
  for (let row = 1; row <= rows; row++) {
    rowOf[0] = row;
    let column = 0;
    const min = new Float64Array(columns + 1).fill(Infinity);
    const used = new Uint8Array(columns + 1);
    while (rowOf[column] !== 0) {
      used[column] = 1;
      const here = rowOf[column]!;
      let [delta, next] = [Infinity, 0];
      for (let j = 1; j <= columns; j++) {
        if (used[j]) continue;
        const reduced = cost[here - 1]![j - 1]! - rowPotential[here]! - columnPotential[j]!;
        if (reduced < min[j]!) {
          min[j] = reduced;
          cameFrom[j] = column;
        }
        if (min[j]! < delta) [delta, next] = [min[j]!, j];
      }
      for (let j = 0; j <= columns; j++) {
        if (used[j]) {
          rowPotential[rowOf[j]!]! += delta;
          columnPotential[j]! -= delta;
        } else min[j]! -= delta;
      }
      column = next;
    }
    while (column !== 0) {
      rowOf[column] = rowOf[cameFrom[column]!]!;
      column = cameFrom[column]!;
    }
  }
  const result = new Array<number>(rows).fill(-1);
  for (let j = 1; j <= columns; j++) if (rowOf[j]) result[rowOf[j]! - 1] = j - 1;
  return result;
}
