import { isFlow, isProfitOrLoss, type Account, type Direction } from '../account/nature';
import type { Unit } from '../figure/figure';
import type { RowReading, RowStyle } from '../layout/row-layout';
import { attributesOf, combinationOf, type Attributes } from '../account/combination';
import { conditionsTest, type DimensionCondition } from '../cube/dimension-condition';
import { hasFigures, type CompiledRow, type CompiledRows } from '../statement/compiled-row';
import type { DimensionTree } from '../account/dimension-tree';
import { linesByAccount } from './lines-by-account';
import { inWords } from '../words/in-words';

/**
 * The figures of an account under one combination of values.
 *
 * Units: movements, debit positive, minor units (statistics in 1/10,000). Shape: one figure a period of the sheet.
 */
export interface FigureLine {
  account: string;
  combination: string;
  figures: readonly number[];
}

export type FigureLines = ReadonlyMap<string, FigureLine>;

const KEY_SEPARATOR = '\u001e';

export const lineKey = (account: string, combination: string): string => `${account}${KEY_SEPARATOR}${combination}`;

/** Account and combination of the key of a line. */
export const partsOfKey = (key: string): [account: string, combination: string] => {
  const at = key.indexOf(KEY_SEPARATOR);
  return [key.slice(0, at), key.slice(at + 1)];
};

export const linesOf = (lines: Iterable<FigureLine>): FigureLines =>
  new Map([...lines].map((line) => [lineKey(line.account, line.combination), line]));

/** A balance before the first period of a sheet, debit positive. */
export interface Opening {
  account: string;
  combination: string;
  figure: number;
}

/** What accounts open with, by account; none where it is left out. */
export type Openings = ReadonlyMap<string, readonly Opening[]>;

export function openingsOf(openings: Iterable<Opening>): Openings {
  const byAccount = new Map<string, Opening[]>();
  for (const opening of openings) {
    const held = byAccount.get(opening.account);
    if (held) held.push(opening);
    else byAccount.set(opening.account, [opening]);
  }
  return byAccount;
}

/** Accounts that a row is made of, each with the sign that turns debit positive into the row's own reading. */
export interface SheetLeaf {
  account: string;
  sign: 1 | -1;
  /** Lines that belong to it; all of the account where it is left out. */
  holds?: (attributes: Attributes) => boolean;
  /** Values that a new line of it would have. */
  combination: string;
}

/** A row of the planning sheet: one of the layout, an account below it, or values of dimensions below an account. */
export interface SheetRow {
  id: string;
  kind: 'layout' | 'account' | 'values';
  label: string;
  depth: number;
  style: RowStyle;
  /** Place among the compiled rows, for rows of the layout. */
  compiled: number | undefined;
  leaves: readonly SheetLeaf[];
  /** A balance or a level: a cell is a closing figure. */
  isBalance: boolean;
  /** A level, such as a headcount: what is typed holds until it next changes. */
  isLevel: boolean;
  /** −1 where a statement shows costs in brackets; the sheet shows every row in its own reading. */
  shownSign: 1 | -1;
  unit: Unit;
  decimals: number | undefined;
  /** Whether more of it is for the better. */
  direction: Direction;
  /** Id that opens or closes what stands below; undefined where nothing does. */
  opens: string | undefined;
  isOpen: boolean;
}

export interface SheetShape {
  compiled: CompiledRows;
  accounts: readonly Account[];
  lines: FigureLines;
  trees: readonly DimensionTree[];
  /** Dimensions that accounts are planned by. */
  dimensions: readonly string[];
  /** Below a row stand values with their accounts, rather than accounts with their values. */
  valuesFirst: boolean;
  /** What part of the books the sheet is of; all where it asks for nothing. */
  part: readonly DimensionCondition[];
  isOpen: (id: string) => boolean;
  /** Leaves out accounts and values that hold nothing. */
  hideUnused: boolean;
  /** Keys of lines that stay although they hold nothing yet. */
  started?: ReadonlySet<string>;
}

/** Rows of the sheet in reading order: those of the layout, with accounts and values below the ones that are open. */
export function sheetRows(shape: SheetShape): SheetRow[] {
  const rows = shape.compiled.rows.slice(0, shape.compiled.layoutEnd);
  const byAccount = linesByAccount(shape.lines);
  return rows.flatMap((row): SheetRow[] => {
    const own = layoutRow(row, shape);
    if (row.rule.from !== 'accounts' || !own.isOpen) return [own];
    const linesOfLeaf = ({ account, holds }: SheetLeaf) =>
      (byAccount.get(account) ?? []).filter(({ combination }) => !holds || holds(attributesOf(combination)));
    const below =
      shape.valuesFirst && shape.dimensions.length > 0
        ? valueRows(own, linesOfLeaf, shape)
        : own.leaves.flatMap((leaf) => accountRows(own, leaf, linesOfLeaf, shape));
    return [own, ...below];
  });
}

const isBalanceOfFlows = (
  reads: RowReading | undefined,
  leaves: readonly SheetLeaf[],
  accounts: readonly Account[],
): boolean =>
  reads !== undefined && reads !== 'flow' && leaves.some(({ account }) => isProfitOrLoss(accountOf(accounts, account)));

function layoutRow(row: CompiledRow, shape: SheetShape): SheetRow {
  const held = leavesOf(row, shape);
  // a balance made of income and expense, such as the result of the year, follows from their rows
  const isResult = row.rule.from === 'accounts' && isBalanceOfFlows(row.rule.reads, held, shape.accounts);
  const leaves = isResult || isMixed(held, shape.accounts) ? [] : held;
  const opens = row.rule.from === 'accounts' && leaves.length > 0 ? row.id : undefined;
  return {
    id: row.id,
    kind: 'layout',
    label: row.label,
    depth: row.depth,
    style: row.style,
    compiled: hasFigures(row) ? row.index : undefined,
    leaves,
    isBalance: leaves.length > 0 && !isFlow(accountOf(shape.accounts, leaves[0]!.account)),
    isLevel: leaves.length > 0 && leaves.every(({ account }) => isLevel(accountOf(shape.accounts, account))),
    shownSign: row.shownSign,
    unit: row.unit,
    decimals: row.decimals,
    direction: row.direction,
    opens,
    isOpen: opens !== undefined && shape.isOpen(opens),
  };
}

/**
 * Accounts below a row of the layout, in the row's own reading: rows of accounts, and totals of such rows alone. Lines of
 * a cash flow follow from balances that are planned.
 */
function leavesOf(row: CompiledRow, shape: SheetShape): SheetLeaf[] {
  const { rule } = row;
  if (row.kind === 'cash_flow') return [];
  const own = row.orientation === 'credit' ? -1 : 1;
  if (rule.from === 'accounts')
    return rule.members.map(({ account, weight, where }) => ({
      account: shape.accounts[account]!.number,
      sign: (own * Math.sign(weight)) as 1 | -1,
      ...holding([...where, ...shape.part], shape.trees),
    }));
  if (rule.from !== 'rows' || row.kind !== 'group') return []; // a difference of rows is no total that could be spread
  const parts = rule.terms.map(({ row: index }) => {
    const child = shape.compiled.rows[index]!;
    const turned = child.orientation === row.orientation ? 1 : -1;
    const leaves = leavesOf(child, shape).map((leaf) => ({ ...leaf, sign: (leaf.sign * turned) as 1 | -1 }));
    return { child, leaves };
  });
  // nor is one that holds what cannot be typed
  const follows = ({ child, leaves }: (typeof parts)[number]) => leaves.length === 0 && !holdsNoAccounts(child);
  return parts.some(follows) ? [] : parts.flatMap(({ leaves }) => leaves);
}

/** The values that a new line has to carry so that it meets demands, as far as these name one. */
export const valuesAsked = (demands: readonly DimensionCondition[]): Map<string, string> =>
  new Map(
    demands.flatMap(({ dimension, has, values }): [string, string][] =>
      has === 'in' && values.length === 1 ? [[dimension, values[0]!]] : [],
    ),
  );

/** Which lines a leaf holds that demands are made of, and what a new line of it carries so that they are met. */
function holding(
  demands: readonly DimensionCondition[],
  trees: readonly DimensionTree[],
): Pick<SheetLeaf, 'combination'> & Partial<Pick<SheetLeaf, 'holds'>> {
  const combination = combinationOf(valuesAsked(demands));
  return demands.length === 0 ? { combination } : { holds: conditionsTest(demands, trees), combination };
}

const holdsNoAccounts = ({ kind, rule }: CompiledRow): boolean =>
  kind !== 'cash_flow' && rule.from === 'accounts' && rule.members.length === 0;

const isLevel = (account: Account): boolean => account.nature === 'statistic' && !isFlow(account);

const accountOf = (accounts: readonly Account[], number: string): Account =>
  accounts.find((account) => account.number === number)!;

/** Flows and balances together make no cell that could be typed. */
function isMixed(leaves: readonly SheetLeaf[], accounts: readonly Account[]): boolean {
  const flows = leaves.filter(({ account }) => isFlow(accountOf(accounts, account))).length;
  return flows > 0 && flows < leaves.length;
}

const holdsFigures = ({ figures }: FigureLine): boolean => figures.some((figure) => figure !== 0);

const isShownLine = (line: FigureLine, { hideUnused, started }: SheetShape): boolean =>
  !hideUnused || holdsFigures(line) || started?.has(lineKey(line.account, line.combination)) === true;

/**
 * Whether other lines give the same rows: there are the same of them, and the same hold figures. Rows depend on
 * nothing else of the lines.
 */
export function haveSameRows(a: FigureLines, b: FigureLines): boolean {
  if (a.size !== b.size) return false;
  for (const [key, line] of a) {
    const other = b.get(key);
    if (!other || (other !== line && holdsFigures(other) !== holdsFigures(line))) return false;
  }
  return true;
}

type LinesOfLeaf = (leaf: SheetLeaf) => readonly FigureLine[];

function accountRows(parent: SheetRow, leaf: SheetLeaf, linesOfLeaf: LinesOfLeaf, shape: SheetShape): SheetRow[] {
  if (shape.hideUnused && !linesOfLeaf(leaf).some((line) => isShownLine(line, shape))) return [];
  const account = accountOf(shape.accounts, leaf.account);
  const id = `${parent.id}:${account.number}`;
  const opens = shape.dimensions.length > 0 && parent.kind === 'layout' ? id : undefined;
  const row: SheetRow = {
    ...parent,
    id,
    kind: 'account',
    label: `${account.number} ${account.name}`,
    depth: parent.depth + 1,
    style: 'detail',
    compiled: undefined,
    leaves: [leaf],
    isBalance: !isFlow(account),
    isLevel: isLevel(account),
    opens,
    isOpen: opens !== undefined && shape.isOpen(opens),
  };
  return row.isOpen ? [row, ...valueRows(row, linesOfLeaf, shape)] : [row];
}

/** One row for each tuple of values of the chosen dimensions that a row has figures under. */
function valueRows(parent: SheetRow, linesOfLeaf: LinesOfLeaf, shape: SheetShape): SheetRow[] {
  const tupleOf = (combination: string) => {
    const attributes = attributesOf(combination);
    return shape.dimensions.map((name) => attributes.get(name) ?? '');
  };
  /** By tuple: the lines of each leaf. */
  const groups = new Map<string, Map<SheetLeaf, FigureLine[]>>();
  for (const leaf of parent.leaves)
    for (const line of linesOfLeaf(leaf)) {
      const key = JSON.stringify(tupleOf(line.combination));
      const group = groups.get(key) ?? new Map<SheetLeaf, FigureLine[]>();
      const held = group.get(leaf);
      if (held) held.push(line);
      else group.set(leaf, [line]);
      groups.set(key, group);
    }
  return [...groups]
    .filter(([, group]) => [...group.values()].flat().some((line) => isShownLine(line, shape)))
    .map(([key, group]): SheetRow => {
      const tuple = JSON.parse(key) as string[];
      const isOfTuple = (attributes: Attributes) =>
        shape.dimensions.every((name, at) => (attributes.get(name) ?? '') === tuple[at]);
      const id = `${parent.id}:${tuple.join('/')}`;
      const opens = parent.kind === 'layout' ? id : undefined;
      return {
        ...parent,
        id,
        kind: 'values',
        label: tupleLabel(tuple, shape),
        depth: parent.depth + 1,
        style: 'detail',
        compiled: undefined,
        leaves: [...group].map(([leaf, held]) => ({
          ...leaf,
          holds: (attributes) => (leaf.holds?.(attributes) ?? true) && isOfTuple(attributes),
          combination: held[0]!.combination,
        })),
        opens,
        isOpen: opens !== undefined && shape.isOpen(opens),
      };
    })
    .sort((a, b) => a.label.localeCompare(b.label, 'en'))
    .flatMap((row) =>
      row.isOpen ? [row, ...row.leaves.flatMap((leaf) => accountRows(row, leaf, linesOfLeaf, shape))] : [row],
    );
}

const tupleLabel = (tuple: readonly string[], { dimensions, trees }: SheetShape): string =>
  tuple
    .map((value, at) => {
      if (value === '') return `No ${inWords(dimensions[at]!)}`;
      const tree = trees.find(({ name }) => name === dimensions[at]);
      return tree?.values.find((each) => each.value === value)?.name ?? value;
    })
    .join(' · ');

/** What a change of a row does; `change` is in the row's own reading, as the sheet shows it. */
export function favourOfChange({ direction }: SheetRow, change: number): 'favourable' | 'adverse' | undefined {
  if (direction === 'neutral' || change === 0) return undefined;
  return change > 0 === (direction === 'up') ? 'favourable' : 'adverse';
}
