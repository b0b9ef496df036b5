import { membersOf } from '../account/account-set';
import {
  accountUnit,
  isFlow,
  naturalOrientation,
  type Account,
  type Direction,
  type Orientation,
} from '../account/nature';
import { RATIO, type Unit } from '../figure/figure';
import { issue, type Issue } from '../issue/issue';
import type { Row, RowLayout } from '../layout/row-layout';

export type RowStyle = 'detail' | 'total' | 'result' | 'ratio' | 'heading';

/** How a row's own figure comes from other rows or from accounts, before any column has a say. */
export type RowRule =
  | { from: 'accounts'; members: readonly number[] }
  | { from: 'rows'; terms: readonly { row: number; sign: 1 | -1 }[] }
  | { from: 'ratio'; numerator: number; denominator: number }
  | { from: 'nothing' };

/**
 * A row, flattened from the outline and ready to evaluate.
 *
 * `shownSign` turns the row's own orientation into what is shown: −1 for costs in brackets. All figures and traces of
 * the engine are as shown, so that what stands on the sheet adds up as it stands.
 */
export interface CompiledRow {
  index: number;
  id: string;
  label: string;
  kind: Row['kind'];
  style: RowStyle;
  depth: number;
  parent: number | undefined;
  orientation: Orientation;
  shownSign: 1 | -1;
  direction: Direction;
  additive: boolean;
  /** True when every account in it begins each year at zero, so that periods may be added. */
  flow: boolean;
  unit: Unit;
  rule: RowRule;
  inCycle: boolean;
}

export interface CompiledRows {
  rows: readonly CompiledRow[];
  /** Index of the first row behind those of the layout; see `withMisplacedRows`. */
  layoutEnd: number;
  byId: ReadonlyMap<string, number>;
  issues: readonly Issue[];
}

interface Place {
  row: Row;
  depth: number;
  parent: number | undefined;
}

/** The outline in reading order: a group stands before its children. */
function flatten(rows: readonly Row[], depth = 0, parent?: number, into: Place[] = []): Place[] {
  for (const row of rows) {
    into.push({ row, depth, parent });
    if (row.kind === 'group') flatten(row.children, depth + 1, into.length - 1, into);
  }
  return into;
}

const STYLE: Record<Row['kind'], RowStyle> = {
  accounts: 'detail',
  group: 'total',
  formula: 'result',
  ratio: 'ratio',
  heading: 'heading',
};

const flip = (direction: Direction, sign: number): Direction =>
  direction === 'neutral' || sign > 0 ? direction : direction === 'up' ? 'down' : 'up';

const agreed = (directions: readonly Direction[]): Direction =>
  directions.length > 0 && directions.every((d) => d === directions[0]) ? directions[0]! : 'neutral';

/**
 * Turns a row layout and the chart of accounts into rows that the engine evaluates in any column.
 *
 * Shape: rows in reading order; rules name rows by index.
 * Missing: a formula that names an unknown row, or rows in a circle, give findings; the other rows still compute.
 */
export function compileRows(layout: RowLayout, accounts: readonly Account[], currency: Unit): CompiledRows {
  const places = flatten(layout.rows);
  const byId = new Map(places.map(({ row }, index) => [row.id, index]));
  const issues: Issue[] = [];
  if (byId.size < places.length) {
    const twice = places.find(({ row }, index) => byId.get(row.id) !== index)!;
    issues.push(issue('CORE_LAYOUT_ID_TWICE', { id: twice.row.id }));
  }
  const rowOf = (from: Row, id: string): number | undefined => {
    const found = byId.get(id);
    if (found === undefined) issues.push(issue('CORE_LAYOUT_UNKNOWN_ID', { from: from.label, id }));
    return found;
  };

  const compiled: CompiledRow[] = [];
  const state: ('open' | 'done' | undefined)[] = [];

  /** Compiles a row after everything it reads; meeting an open row again is a cycle. */
  const visit = (index: number, path: readonly number[]): CompiledRow | undefined => {
    if (state[index] === 'done') return compiled[index]!;
    if (state[index] === 'open') {
      const circle = path.slice(path.indexOf(index));
      issues.push(issue('CORE_LAYOUT_CYCLE', { rows: circle.map((i) => places[i]!.row.label).join(', ') }));
      return undefined;
    }
    state[index] = 'open';
    const read = (other: number) => visit(other, [...path, index]);
    compiled[index] = compileRow(index, read);
    state[index] = 'done';
    return compiled[index];
  };

  const compileRow = (index: number, read: (row: number) => CompiledRow | undefined): CompiledRow => {
    const { row, depth, parent } = places[index]!;
    const make = (derived: Derived): CompiledRow => ({
      index,
      id: row.id,
      label: row.label,
      kind: row.kind,
      style: row.kind === 'formula' ? row.style : STYLE[row.kind],
      depth,
      parent,
      shownSign: row.shown === 'brackets' ? -1 : 1,
      inCycle: false,
      ...derived,
      direction: row.direction ?? derived.direction,
    });
    switch (row.kind) {
      case 'accounts':
        return make(deriveFromAccounts(membersOf(row.accounts, accounts), accounts, currency, row.orientation));
      case 'group': {
        const children = places.flatMap((place, i) => (place.parent === index ? [i] : []));
        const read1 = children.map(read);
        const parts = read1.filter((r): r is CompiledRow => !!r && r.rule.from !== 'nothing' && r.additive);
        const own = row.orientation ?? parts[0]?.orientation ?? 'debit';
        const terms = parts.map((part) => ({ part, sign: part.orientation === own ? (1 as const) : (-1 as const) }));
        return make(
          deriveFromRows(
            terms,
            own,
            currency,
            read1.some((r) => !r),
          ),
        );
      }
      case 'formula': {
        const named = row.terms.map(({ row: id, sign }) => ({ index: rowOf(row, id), sign }));
        const terms = named.map((t) => ({ part: t.index === undefined ? undefined : read(t.index), sign: t.sign }));
        const known = terms.filter((t): t is { part: CompiledRow; sign: 1 | -1 } => !!t.part);
        return make(
          deriveFromRows(known, known[0]?.part.orientation ?? 'credit', currency, known.length < terms.length),
        );
      }
      case 'ratio': {
        const [top, bottom] = [rowOf(row, row.numerator), rowOf(row, row.denominator)];
        const broken = [top, bottom].some((i) => i === undefined || !read(i) || compiled[i]?.inCycle);
        return make({
          orientation: 'credit',
          direction: 'up',
          additive: false,
          flow: true,
          unit: RATIO,
          inCycle: broken,
          rule: broken ? { from: 'nothing' } : { from: 'ratio', numerator: top!, denominator: bottom! },
        });
      }
      case 'heading':
        return make({
          orientation: 'debit', direction: 'neutral', additive: true, flow: true, unit: currency, rule: { from: 'nothing' },
        }); // prettier-ignore
    }
  };

  places.forEach((_, index) => visit(index, []));
  return { rows: compiled, layoutEnd: compiled.length, byId, issues };
}

/**
 * Adds a row for each account that the layout leaves out or holds twice, so that its figures are evaluated and traced
 * like all others.
 *
 * Shape: behind the rows of the layout; ids `account.<number>`, which no row of a layout can have. They read profit
 * positive, as what they add to or take from the profit.
 */
export function withMisplacedRows(
  compiled: CompiledRows,
  accounts: readonly Account[],
  misplaced: readonly number[],
  currency: Unit,
): CompiledRows {
  const added = misplaced.map((account, at): CompiledRow => {
    const { number, name } = accounts[account]!;
    return {
      index: compiled.layoutEnd + at,
      id: `account.${number}`,
      label: `${number} ${name}`,
      kind: 'accounts',
      style: 'detail',
      depth: 0,
      parent: undefined,
      shownSign: 1,
      inCycle: false,
      ...deriveFromAccounts([account], accounts, currency, 'credit'),
    };
  });
  return {
    ...compiled,
    rows: [...compiled.rows, ...added],
    byId: new Map([...compiled.byId, ...added.map(({ id, index }) => [id, index] as const)]),
  };
}

type Derived = Pick<CompiledRow, 'orientation' | 'direction' | 'additive' | 'flow' | 'unit' | 'rule'> &
  Partial<Pick<CompiledRow, 'inCycle'>>;

function deriveFromAccounts(
  members: readonly number[],
  accounts: readonly Account[],
  currency: Unit,
  orientation?: Orientation,
): Derived {
  const held = members.map((index) => accounts[index]!);
  const natural = held[0] ? naturalOrientation(held[0].nature) : 'debit';
  const own = orientation ?? natural;
  return {
    orientation: own,
    direction: flip(agreed(held.map((account) => account.better)), own === natural ? 1 : -1),
    additive: true,
    flow: held.every(isFlow),
    unit: held[0] ? accountUnit(held[0], currency) : currency,
    rule: { from: 'accounts', members },
  };
}

function deriveFromRows(
  terms: readonly { part: CompiledRow; sign: 1 | -1 }[],
  orientation: Orientation,
  currency: Unit,
  broken: boolean,
): Derived {
  const inCycle = broken || terms.some(({ part }) => part.inCycle);
  return {
    orientation,
    direction: agreed(terms.map(({ part, sign }) => flip(part.direction, sign)).filter((d) => d !== 'neutral')),
    additive: terms.every(({ part }) => part.additive),
    flow: terms.every(({ part }) => part.flow),
    unit: terms[0]?.part.unit ?? currency,
    inCycle,
    rule: { from: 'rows', terms: terms.map(({ part, sign }) => ({ row: part.index, sign })) },
  };
}
