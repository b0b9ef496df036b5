import { narrowed, type BooksSelection } from '../books/books-selection';
import { isOfVersion } from '../books/version-demand';
import type { CompiledColumn, CompiledColumns, FigureColumn } from '../statement/compiled-column';
import type { Branch } from '../statement/compiled-row';
import type { Cut } from './cut-rows';

/** A value that the columns of a layout stand under: what of the postings counts, and what their blocks are called. */
export interface Under {
  /** What is put behind the ids of columns; nothing for the total, whose columns keep theirs. */
  suffix: string;
  label: string;
  /** Place of the total across among these; undefined where there is none. */
  totalAt: number | undefined;
  /** See `rowsOn` of columns. */
  rowsOn: number | undefined;
  cut: Cut;
  branch: Branch | undefined;
}

/**
 * The columns of a layout under each of some values, one after the other.
 *
 * Shape: ids `column.path`; those of the total are those of the layout. Blocks are called by the value; where the layout
 * has several, also by what they are of.
 * @param accountsOf places of the accounts with numbers that count
 */
export function cutColumns(
  { columns, issues }: CompiledColumns,
  under: readonly Under[],
  accountsOf: (isCounted: (number: string) => boolean) => ReadonlySet<number>,
): CompiledColumns {
  const isOneBlock = new Set(columns.map(({ block }) => block)).size === 1;
  const cut = under.flatMap((value, at) => {
    const ofValue = shiftedBy(at * columns.length);
    const accounts = value.cut.accounts && accountsOf(value.cut.accounts);
    return columns.map((column) => {
      const under = underValue(ofValue(column), value, accounts, isOneBlock);
      if (under.kind !== 'share' || column.kind !== 'share' || value.totalAt === undefined) return under;
      return { ...under, whole: value.totalAt * columns.length + column.of };
    });
  });
  return { columns: cut, issues };
}

function underValue(
  column: CompiledColumn,
  { suffix, label, rowsOn, cut: { where }, branch }: Under,
  accounts: ReadonlySet<number> | undefined,
  isOneBlock: boolean,
): CompiledColumn {
  const named = {
    ...column,
    id: `${column.id}${suffix}`,
    block: `${suffix} ${column.block}`,
    ...(rowsOn !== undefined && { rowsOn }),
    ...(label !== '' && { under: { label, isWhole: isOneBlock, branch } }),
  };
  if (named.kind !== 'figure') return named;
  const narrow = (selection: BooksSelection) => narrowed(selection, where);
  return {
    ...named,
    selection: narrow(named.selection),
    loadedBy: narrowed(named.selection, where.filter(isOfVersion)),
    ...(named.flowPart && { flowPart: { ...named.flowPart, whole: narrow(named.flowPart.whole) } }),
    ...(accounts && { accounts }),
  } satisfies FigureColumn;
}

/** Columns that many places further on. */
const shiftedBy =
  (by: number) =>
  (column: CompiledColumn): CompiledColumn => {
    const index = column.index + by;
    switch (column.kind) {
      case 'figure':
      case 'blank':
        return { ...column, index };
      case 'total':
        return { ...column, index, parts: column.parts.map((part) => part + by) };
      case 'share':
      case 'contribution':
      case 'rank':
      case 'running_total':
      case 'annualised':
        return { ...column, index, of: column.of + by };
      case 'formula':
        return { ...column, index, columns: new Map([...column.columns].map(([id, at]) => [id, at + by])) };
      default:
        return { ...column, index, of: column.of + by, base: column.base + by };
    }
  };
