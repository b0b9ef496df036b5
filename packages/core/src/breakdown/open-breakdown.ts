import type { Axis, Breakdown } from '../layout/breakdown-document';
import { issue, type Issue } from '../issue/issue';
import { compileColumns } from '../statement/compile-columns';
import type { CompiledColumns } from '../statement/compiled-column';
import { compileLayout } from '../statement/compile-layout';
import type { CompiledRows } from '../statement/compiled-row';
import { Evaluation } from '../statement/evaluation';
import type { StatementSource } from '../statement/statement-table';
import { ALONE } from '../statement/surroundings';
import { accountsRead } from './accounts-read';
import { chooser } from './choose-steps';
import { cutColumns, type Under } from './cut-columns';
import { CutRows, type Cut } from './cut-rows';
import { engineDemands, fieldsOf, type Field, type FieldSource } from './fields';
import { CHOOSE_ALL, layOut, type Choose, type Laid } from './lay-out';
import { demandsOf, pathKey, pathLabel, type Path } from './step';

export interface BreakdownSource extends StatementSource {
  breakdown: Breakdown;
  /** Code of the entity or group that is looked at. */
  scope: string;
  carried: FieldSource['carried'];
}

/** A breakdown ready to be evaluated and traced as a statement is, with the fields that it could stand by. */
export interface OpenedBreakdown {
  evaluation: Evaluation;
  fields: readonly Field[];
}

/**
 * Compiles a breakdown against the books of a scope: rows of a layout under every value of the axes down the page, columns
 * of another under every value of those across it.
 *
 * Shape: rows `row.path`, below them the total under the id of the row; columns `column.path`, behind them the total.
 * Missing: rows of the layout and fields that are not there give findings and are left out.
 */
export function openBreakdown(source: BreakdownSource): OpenedBreakdown {
  const opener = new BreakdownOpener(source);
  return { evaluation: opener.open(), fields: opener.fields };
}

type Side = 'down' | 'across';

/** What the total across the page is called. */
const TOTAL = 'Total';

class BreakdownOpener {
  readonly fields: readonly Field[];
  private readonly layout: CompiledRows;
  private readonly columns: CompiledColumns;
  /** Indexes in the layout of what is broken down. */
  private readonly items: readonly number[];
  private readonly axes: Record<Side, readonly Axis[]>;
  private readonly issues: readonly Issue[];

  constructor(private readonly source: BreakdownSource) {
    const { rowLayout, columnLayout, slice, at, currency, surroundings = ALONE, breakdown } = source;
    this.layout = compileLayout(rowLayout, slice.accounts, currency, { ...surroundings, expanded: [] }).rows;
    this.items = breakdown.of.flatMap((id) => this.layout.byId.get(id) ?? []);
    const accounts = accountsRead(this.layout, this.items);
    this.fields = fieldsOf({
      ...{ surroundings, scope: source.scope, carried: source.carried },
      accounts: accounts.map((account) => slice.accounts[account]!),
    });
    this.columns = compileColumns(columnLayout, {
      ...{ calendar: slice.calendar, at, surroundings, accounts: new Set(accounts) },
      holdsData: (p) => slice.holdsData[p] === 1,
    });
    const isKnown = ({ by }: Axis) => this.fields.some((field) => field.by === by);
    const { down, across } = breakdown;
    this.axes = { down: down.filter(isKnown), across: across.filter(isKnown) };
    const unknown = breakdown.of.filter((id) => !this.layout.byId.has(id));
    this.issues = [
      ...unknown.map((id) => issue('CORE_LAYOUT_UNKNOWN_ID', { from: rowLayout.name, id })),
      ...[...down, ...across]
        .filter((axis) => !isKnown(axis))
        .map(({ by }) => issue('CORE_BREAKDOWN_FIELD', { field: by })),
    ];
  }

  /** What holds nothing is left out, and what is ordered or taken together is so by its figures: all is read first. */
  open(): Evaluation {
    const all = this.read({ down: CHOOSE_ALL, across: CHOOSE_ALL }, true);
    const keepsTotal = this.axes.across.length === 0 || this.source.breakdown.totals !== 'left_out';
    return this.read({ down: this.chooserDown(all), across: this.chooserAcross(all) }, keepsTotal);
  }

  private read(choose: Record<Side, Choose>, keepsTotal: boolean): Evaluation {
    const { slice, at, currency, surroundings = ALONE, breakdown, rowLayout } = this.source;
    const laid = (side: Side) => layOut(this.axes[side], this.fields, breakdown, choose[side]);
    const rows = this.rowsOf(laid('down'));
    const columns = cutColumns(this.columns, this.underOf(laid('across'), keepsTotal), (isCounted) => {
      const places = slice.accounts.flatMap(({ number }, place) => (isCounted(number) ? place : []));
      return new Set(places);
    });
    return new Evaluation({
      ...{ columns, slice, at, currency, surroundings },
      rows: { ...rows, issues: [...rows.issues, ...this.issues] },
      coverage: { accounts: 0, placedOnce: 0, misplaced: [] },
      shareBase: rows.byId.get(breakdown.of[0]!),
      result: undefined,
      purpose: rowLayout.purpose,
    });
  }

  /** Demands of the whole breakdown hold in every row, and so in every cell. */
  private rowsOf(laid: readonly Laid[]): CompiledRows {
    const { where } = this.source.breakdown;
    const rows = new CutRows(this.layout, this.source.slice.accounts);
    for (const item of this.items) {
      const { id, label, style } = rows.rowAt(item);
      if (this.items.length > 1 && laid.length > 0) rows.addHeading(item, `${id}.*heading`);
      const first = rows.size;
      const total = first + laid.length;
      for (const { path, key, label: value, depth, parent, canOpen, isOpen } of laid)
        rows.add(item, this.cutOf(path, where), {
          ...{ id: `${id}.${key}`, label: value, depth, whenEmpty: 'hide', shareBase: total },
          style: style === 'ratio' ? style : 'detail',
          parent: parent === undefined ? total : first + parent,
          branch: { key, canOpen, isOpen },
        });
      rows.add(item, this.cutOf([], where), {
        ...{ id, label, depth: 0, parent: undefined, whenEmpty: 'keep', shareBase: total },
        style: style === 'ratio' ? style : laid.length === 0 ? 'detail' : 'result',
      });
    }
    return rows.rows();
  }

  private underOf(laid: readonly Laid[], keepsTotal: boolean): Under[] {
    const values = laid.map(({ path, key, canOpen, isOpen }) => ({
      ...{ key, label: pathLabel(path), cut: this.cutOf(path) },
      branch: { key, canOpen, isOpen },
    }));
    const label = this.axes.across.length > 0 ? TOTAL : '';
    return keepsTotal ? [...values, { key: undefined, label, cut: this.cutOf([]), branch: undefined }] : values;
  }

  private cutOf(path: Path, where: Breakdown['where'] = []): Cut {
    return { key: pathKey(path), ...engineDemands([...where, ...demandsOf(path)], this.fields) };
  }

  private chooserDown(all: Evaluation): Choose {
    const { of } = this.source.breakdown;
    const rowOf = (item: string | undefined, path: Path) => all.input.rows.byId.get(`${item}.${pathKey(path)}`);
    const figures = all.input.columns.columns.filter(({ kind }) => kind === 'figure');
    return chooser({
      amountOf: (path, axis) => this.amountIn(all, rowOf(of[0], path), this.columnOf(axis)),
      holds: (path) => {
        const rows = of.flatMap((item) => rowOf(item, path) ?? []);
        return rows.some((row) => figures.some(({ id }) => this.amountIn(all, row, id)));
      },
    });
  }

  private chooserAcross(all: Evaluation): Choose {
    const { rows, columns } = all.input;
    const [first] = this.source.breakdown.of;
    const seen = rows.rows.slice(0, rows.layoutEnd);
    return chooser({
      amountOf: (path, axis) => this.amountIn(all, rows.byId.get(first!), `${this.columnOf(axis)}.${pathKey(path)}`),
      holds: (path) => {
        const suffix = `.${pathKey(path)}`;
        const under = columns.columns.filter(({ id, kind }) => kind === 'figure' && id.endsWith(suffix));
        return seen.some(({ index }) => under.some(({ id }) => this.amountIn(all, index, id)));
      },
    });
  }

  /** A figure as its row reads it by itself, whatever sign it is shown in. */
  private amountIn(evaluation: Evaluation, row: number | undefined, columnId: string): number | undefined {
    const column = evaluation.input.columns.columns.find(({ id }) => id === columnId);
    if (row === undefined || !column) return undefined;
    const { amount } = evaluation.figure({ at: 'cell', row, column: column.index });
    return amount === null ? undefined : amount * evaluation.row(row).shownSign;
  }

  /** The column that an axis is ordered by: the one it names, else the first of this year in what is shown. */
  private columnOf({ order }: Axis): string {
    const { columns } = this.columns;
    const named = order?.by === 'column' ? columns.find(({ id }) => id === order.column) : undefined;
    const shown = this.source.surroundings?.shownVersion;
    const usual = columns.find(
      (column) => column.kind === 'figure' && column.yearsBack === 0 && column.selection.version === shown,
    );
    return (named ?? usual ?? columns[0])?.id ?? '';
  }
}
