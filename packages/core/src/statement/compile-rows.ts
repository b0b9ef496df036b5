import { membersOf } from '../account/account-set';
import { accountUnit, type Account } from '../account/nature';
import { NUMBER, RATIO, type Unit } from '../figure/figure';
import { asPlainSum } from '../formula/evaluate-formula';
import { referenceKey, referencesOf, type FormulaReference } from '../formula/formula';
import { unitOfFormula } from '../formula/formula-unit';
import { parseFormula } from '../formula/parse-formula';
import { issue, type Issue } from '../issue/issue';
import type { AccountsRow, FormulaRow, Row, RowLayout, RowStyle } from '../layout/row-layout';
import type { CashFlowRule } from '../books/cash-flow-rule';
import { countedAccount, counting } from '../books/counted';
import type { CompiledRow, CompiledRows, Member } from './compiled-row';
import { alike, deriveFromAccounts, deriveFromRows, flip, givenUnit, type Derived } from './derive-row';
import { placesOf, type Place } from './row-places';
import { ALONE, type RowSurroundings } from './surroundings';

const STYLE: Record<Row['kind'], RowStyle> = {
  accounts: 'detail',
  statistic: 'detail',
  cash_flow: 'detail',
  group: 'total',
  formula: 'result',
  ratio: 'ratio',
  heading: 'heading',
  text: 'detail',
  line: 'detail',
  blank: 'detail',
};

const held = (indexes: readonly number[], where: Member['where'] = []): Member[] =>
  indexes.map((account) => ({ account, weight: 1, where }));

/**
 * The movements that feed a cash-flow line, read credit positive like what brings money in; what no other rule of
 * the account names is "not in" those codes.
 */
function cashFlowMembers(line: string, rules: readonly CashFlowRule[], accounts: readonly Account[]): Member[] {
  return rules
    .filter((rule) => rule.line === line)
    .flatMap(({ account: number, flow, factor }) => {
      const account = accounts.findIndex((candidate) => candidate.number === number);
      if (account < 0) return [];
      const named = [...new Set(rules.filter((r) => r.account === number && r.flow !== '').map((r) => r.flow))];
      const where: Member['where'] =
        flow !== ''
          ? [{ dimension: 'flow', has: 'in', values: [flow] }]
          : named.length > 0
            ? [{ dimension: 'flow', has: 'not_in', values: named }]
            : [];
      return [{ account, weight: -factor, where }];
    });
}

/**
 * Turns a row layout and the chart of accounts into rows that the engine evaluates in any column.
 *
 * Shape: rows in reading order; rules name rows by index; rows of other layouts that formulas read stand behind.
 * Missing: a formula that names an unknown row, or rows in a circle, give findings; the other rows still compute.
 */
export function compileRows(
  layout: RowLayout,
  accounts: readonly Account[],
  currency: Unit,
  surroundings: RowSurroundings = ALONE,
): CompiledRows {
  const { places, layoutEnd } = placesOf(layout, accounts, surroundings);
  const byId = new Map(places.map(({ id }, index) => [id, index]));
  const issues: Issue[] = [];
  if (byId.size < places.length) {
    const twice = places.find(({ id }, index) => byId.get(id) !== index)!;
    issues.push(issue('CORE_LAYOUT_ID_TWICE', { id: twice.id }));
  }
  const childrenOf = (index: number) =>
    places.flatMap((place, i) => (place.parent === index && !place.opened ? [i] : []));

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
    compiled[index] = finished(index, derive(index, read));
    state[index] = 'done';
    return compiled[index];
  };

  const finished = (index: number, derived: Derived): CompiledRow => {
    const { id, row, depth, parent, opened } = places[index]!;
    return {
      index,
      id,
      label: row.label,
      kind: row.kind,
      style: row.style ?? STYLE[row.kind],
      depth,
      parent,
      shownSign: row.shown === 'brackets' ? -1 : 1,
      inCycle: false,
      decimals: row.decimals,
      whenEmpty: row.whenEmpty ?? 'keep',
      hideFromExport: row.hideFromExport ?? false,
      note: row.note ?? '',
      opened,
      ...(row.kind === 'accounts' && quantitiesOf(places[index]!, row)),
      ...derived,
      unit: givenUnit(row.unit, currency) ?? derived.unit,
      direction: row.direction ?? derived.direction,
    };
  };

  const rowOf = (from: Place, key: string): number | undefined => {
    const found =
      byId.get(from.layout === undefined || key.includes('.') ? key : `${from.layout}.${key}`) ?? ownById(key);
    if (found === undefined) issues.push(issue('CORE_LAYOUT_UNKNOWN_ID', { from: from.row.label, id: key }));
    return found;
  };
  /** The rows that count what a row varies with and uses up. */
  const quantitiesOf = (place: Place, { variesWith, usage }: AccountsRow) => ({
    variesWith: variesWith === undefined ? undefined : rowOf(place, variesWith),
    usage: usage === undefined ? undefined : rowOf(place, usage),
  });
  /** A row of this very layout that a formula of another names by layout and id. */
  const ownById = (key: string) =>
    key.startsWith(`${layout.id}.`) ? byId.get(key.slice(layout.id.length + 1)) : undefined;

  const addable = <T>(row: Row, parts: readonly T[], unitOf: (part: T) => Unit): readonly T[] => {
    const { parts: same, leftOut } = alike(parts, unitOf);
    if (leftOut) issues.push(issue('CORE_ROW_UNITS', { row: row.label }));
    return same;
  };

  const derive = (index: number, read: (row: number) => CompiledRow | undefined): Derived => {
    const place = places[index]!;
    const { row } = place;
    switch (row.kind) {
      case 'accounts': {
        const members = addable(row, membersOf(row.accounts, accounts), (at) => accountUnit(accounts[at]!, currency));
        return deriveFromAccounts(held(members, row.where), accounts, currency, row);
      }
      case 'statistic': {
        if (row.counts) {
          const members = held(membersOf(row.accounts, accounts), [...(row.where ?? []), counting(row.counts)]);
          const asCounted = accounts.map((account) => countedAccount(account, row.counts!));
          return deriveFromAccounts(members, asCounted, currency, { orientation: 'debit', reads: row.reads });
        }
        const counted = membersOf(row.accounts, accounts).filter((at) => accounts[at]!.nature === 'statistic');
        return deriveFromAccounts(held(counted, row.where), accounts, currency, { reads: row.reads });
      }
      case 'cash_flow': {
        const members = cashFlowMembers(row.line, surroundings.cashFlow, accounts);
        const derived = deriveFromAccounts(members, accounts, currency, { orientation: 'credit', reads: 'flow' });
        return { ...derived, direction: 'neutral' };
      }
      case 'group': {
        const children = childrenOf(index).map(read);
        const added = children.filter((r): r is CompiledRow => !!r && r.rule.from !== 'nothing' && r.additive);
        const parts = addable(row, added, ({ unit }) => unit);
        const own = row.orientation ?? parts[0]?.orientation ?? 'debit';
        const terms = parts.map((part) => ({ part, sign: part.orientation === own ? (1 as const) : (-1 as const) }));
        return deriveFromRows(
          terms,
          own,
          currency,
          children.some((r) => !r),
        );
      }
      case 'formula':
        return deriveFromFormula(place, row, read);
      case 'ratio': {
        const [top, bottom] = [rowOf(place, row.numerator), rowOf(place, row.denominator)];
        const broken = [top, bottom].some((i) => i === undefined || !read(i) || compiled[i]?.inCycle);
        return {
          ...COMPUTED,
          unit: RATIO,
          inCycle: broken,
          rule: broken ? { from: 'nothing' } : { from: 'ratio', numerator: top!, denominator: bottom! },
        };
      }
      default:
        return {
          orientation: 'debit',
          direction: 'neutral',
          additive: true,
          flow: true,
          unit: currency,
          rule: { from: 'nothing' },
        };
    }
  };

  const deriveFromFormula = (
    place: Place,
    row: FormulaRow,
    read: (row: number) => CompiledRow | undefined,
  ): Derived => {
    const { tree, error } = parseFormula(row.formula);
    if (!tree) {
      issues.push(issue('CORE_FORMULA_INVALID', { row: row.label, problem: error.problem }));
      return { ...COMPUTED, unit: currency, inCycle: true, rule: { from: 'nothing' } };
    }
    const rows = new Map<string, number>();
    let isBroken = false;
    for (const reference of referencesOf(tree)) {
      const key = referenceKey(reference);
      const at = rows.get(key) ?? rowOf(place, key);
      const found = at === undefined ? undefined : read(at);
      if (!found || found.inCycle) isBroken = true;
      else rows.set(key, found.index);
    }
    const partOf = (reference: FormulaReference) => compiled[rows.get(referenceKey(reference))!]!;
    const sum = asPlainSum(tree);
    if (sum && sum.length > 0) {
      const terms = sum
        .filter(({ of }) => rows.has(referenceKey(of)))
        .map(({ of, sign }) => ({ part: partOf(of), sign }));
      const units = new Set(terms.map(({ part }) => JSON.stringify(part.unit)));
      if (units.size > 1) issues.push(issue('CORE_FORMULA_UNITS', { row: row.label }));
      return deriveFromRows(terms, terms[0]?.part.orientation ?? 'credit', currency, isBroken);
    }
    if (isBroken) return { ...COMPUTED, unit: currency, inCycle: true, rule: { from: 'nothing' } };
    const unit = unitOfFormula(tree, (reference) => partOf(reference).unit);
    if (!unit && !row.unit) issues.push(issue('CORE_FORMULA_UNITS', { row: row.label }));
    const first = referencesOf(tree)[0];
    return {
      ...COMPUTED,
      // a formula of money leans on its first row; a ratio, like ratios, is better up
      direction: unit?.kind === 'currency' && first ? flip(partOf(first).direction, 1) : 'up',
      unit: unit ?? NUMBER,
      rule: { from: 'formula', tree, text: row.formula, rows },
    };
  };

  places.forEach((_, index) => visit(index, []));
  for (const driver of compiled.flatMap(({ variesWith, usage }) => [variesWith ?? [], usage ?? []].flat()))
    compiled[driver]!.isDriver = true;
  return { rows: compiled, layoutEnd, misplacedFrom: compiled.length, byId, issues };
}

/** Rows that are recomputed in every column and never added. */
const COMPUTED = { orientation: 'credit', direction: 'up', additive: false, flow: true } as const;

/**
 * Adds a row for each account that the layout leaves out or holds twice, so that its figures are evaluated and traced
 * like all others.
 *
 * Shape: behind all other rows; ids `account.<number>`, which no row of a layout can have. Income and expense read
 * profit positive, as what they add to or take from the profit; the rest on its natural side.
 */
export function withMisplacedRows(
  compiled: CompiledRows,
  accounts: readonly Account[],
  misplaced: readonly number[],
  currency: Unit,
): CompiledRows {
  if (misplaced.length === 0) return compiled;
  const added = misplaced.map((account, at): CompiledRow => {
    const { number, name, nature } = accounts[account]!;
    const isProfit = nature === 'income' || nature === 'expense';
    return {
      index: compiled.rows.length + at,
      id: `account.${number}`,
      label: `${number} ${name}`,
      kind: 'accounts',
      style: 'detail',
      depth: 0,
      parent: undefined,
      shownSign: 1,
      inCycle: false,
      decimals: undefined,
      whenEmpty: 'keep',
      hideFromExport: false,
      note: '',
      opened: false,
      ...deriveFromAccounts(held([account]), accounts, currency, isProfit ? { orientation: 'credit' } : {}),
    };
  });
  return {
    ...compiled,
    rows: [...compiled.rows, ...added],
    byId: new Map([...compiled.byId, ...added.map(({ id, index }) => [id, index] as const)]),
  };
}
