// A table: sorted by a column whose head is pressed, by keys too; rows that lead somewhere are links.

import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { DataTable, Icon } from 'react-native-paper';
import { target, usePalette } from './theme';
import { Touch } from './Touch';
import { Words } from './Words';
import { texts } from './texts';

export type Column<R> = {
  readonly id: string;
  readonly name: string;
  /** Points; the rest of the width where none is said. */
  readonly width?: number;
  /** Figures line up at their end. */
  readonly isFigure?: boolean;
  readonly words: (row: R) => string;
  /** What is drawn instead of the words. */
  readonly cell?: (row: R) => ReactNode;
  /** What it is sorted by. */
  readonly by: (row: R) => string | number;
};

type Props<R> = {
  readonly label: string;
  readonly columns: readonly Column<R>[];
  readonly rows: readonly R[];
  readonly keyOf: (row: R) => string;
  readonly start: { readonly by: string; readonly down: boolean };
  /** Where a row leads; nowhere if false. */
  readonly press: (row: R) => (() => void) | false;
  readonly rowTestID?: (row: R) => string;
};

const order = (a: string | number, b: string | number) => (typeof a === 'string' ? a.localeCompare(String(b)) : a - Number(b));

export function Table<R>({ label, columns, rows, keyOf, start, press, rowTestID }: Props<R>) {
  const p = usePalette();
  const [sort, setSort] = useState(start);
  const column = columns.find((c) => c.id === sort.by)!;
  const sorted = [...rows].sort((a, b) => order(column.by(a), column.by(b)) * (sort.down ? -1 : 1));
  const cell = (width: number | undefined) => (width === undefined ? { flex: 1 } : { width });
  return (
    <DataTable role="table" {...({ 'aria-label': label } as object)}>
      <View role="row" style={{ flexDirection: 'row', gap: 12, paddingHorizontal: 16, borderBottomWidth: 1, borderBottomColor: p.rule }}>
        {columns.map((c) => {
          const isSorted = c.id === sort.by;
          return (
            <View
              key={c.id}
              role="columnheader"
              {...({ 'aria-sort': isSorted ? (sort.down ? 'descending' : 'ascending') : 'none' } as object)}
              style={cell(c.width)}
            >
              <Touch
                role="button"
                label={texts.sortBy(c.name)}
                testID={`sort-${c.id}`}
                press={() => setSort({ by: c.id, down: isSorted ? !sort.down : false })}
                style={{
                  minHeight: target,
                  flexDirection: 'row',
                  alignItems: 'center',
                  justifyContent: c.isFigure ? 'flex-end' : 'flex-start',
                  gap: 4,
                }}
              >
                <Words size="small" bold={isSorted} tone="second">
                  {c.name}
                </Words>
                {isSorted && <Icon source={sort.down ? 'down' : 'up'} size={16} color={p.second} />}
              </Touch>
            </View>
          );
        })}
      </View>
      {sorted.map((row) => {
        const go = press(row);
        return (
          <DataTable.Row
            key={keyOf(row)}
            onPress={go || undefined}
            testID={rowTestID?.(row)}
            {...({ role: 'row', tabIndex: go ? 0 : undefined } as object)}
            style={{ minHeight: target, borderBottomColor: p.rule }}
          >
            <View style={{ flex: 1, flexDirection: 'row', gap: 12, paddingVertical: 8 }}>
              {columns.map((c) => (
                <View key={c.id} role="cell" style={cell(c.width)}>
                  {c.cell?.(row) ?? (
                    <Words
                      size="small"
                      tone={c.width === undefined ? 'ink' : 'second'}
                      style={c.isFigure ? { textAlign: 'right' } : undefined}
                    >
                      {c.words(row)}
                    </Words>
                  )}
                </View>
              ))}
            </View>
          </DataTable.Row>
        );
      })}
    </DataTable>
  );
}
