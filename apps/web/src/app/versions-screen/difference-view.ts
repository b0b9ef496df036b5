import {
  attributesOf, exactFigure, findDifferences, isProfitOrLoss, type Account, type Cause, type ComparedRow, type DimensionTree, type FigureLines,
  type RoundingVerdict, type Unit,
} from '@margin-lens/core'; // prettier-ignore

const CAUSE_WORDS: Record<Cause, string> = {
  rounding: 'Rounding',
  sign: 'Sign',
  missing: 'Missing',
  swapped_digits: 'Swapped digits',
  factor: 'Factor',
  month_off: 'A month off',
  constant: 'Constant',
};
const VERDICT_WORDS: Record<RoundingVerdict, string> = {
  can_be_rounding: 'This can be rounding.',
  unlikely_rounding: 'This is unlikely to be rounding.',
  not_rounding: 'This is not rounding.',
};
const ROWS_SHOWN = 30;

/** Two sides that are compared, what their figures are, and how they are called. */
export interface ComparedSides {
  a: FigureLines;
  b: FigureLines;
  accounts: readonly Account[];
  trees: readonly DimensionTree[];
  /** Names of the months. */
  months: readonly string[];
  unit: Unit;
  nameOfA: string;
  nameOfB: string;
  /** Each combination of values is a row of its own, rather than each account. */
  byValue: boolean;
}

export interface DifferenceView {
  bottomLine: string;
  verdict: string;
  months: { name: string; text: string }[];
  sections: { name: string; text: string }[];
  rows: { id: string; account: string; label: string; text: string; month: number; monthName: string; guess: string }[];
  more: number;
}

/** Where two sides differ, in words: bottom line, months, sections, and the rows, the largest first, with a guess at the cause. */
export function differenceView(sides: ComparedSides): DifferenceView {
  const { months, unit, nameOfA, nameOfB } = sides;
  const differences = findDifferences(comparedRows(sides), months.length);
  const text = (amount: number) => exactFigure({ amount, unit });
  const named = (detail: string) => detail.replace(/the first( side)?/g, nameOfA).replace(/the second( side)?/g, nameOfB);
  return {
    bottomLine: differences.bottomLine === 0 ? 'nothing' : text(differences.bottomLine),
    verdict: differences.rows.length === 0 ? 'The two are the same in every account and month.' : VERDICT_WORDS[differences.verdict],
    months: differences.months.flatMap((amount, at) => (amount === 0 ? [] : [{ name: months[at]!, text: text(amount) }])),
    sections: differences.sections.map(({ section, difference }) => ({ name: section, text: text(difference) })),
    rows: differences.rows.slice(0, ROWS_SHOWN).map((row) => {
      const [guess] = row.guesses;
      const largest = row.months.reduce((best, amount, at) => (Math.abs(amount) > Math.abs(row.months[best]!) ? at : best), 0);
      const month = guess && guess.months.length === 1 ? guess.months[0]! : largest;
      return {
        id: row.id, account: row.id.split(KEY)[0]!, label: row.label, text: text(row.difference), month, monthName: months[month]!,
        guess: guess ? `${CAUSE_WORDS[guess.cause]}: ${named(guess.detail)} · ` : '',
      };
    }),
    more: Math.max(0, differences.rows.length - ROWS_SHOWN),
  };
} // prettier-ignore

/** Between the account and the values in the key of a line. */
const KEY = '\u001e';

/** Accounts of profit or loss on both sides, or each of their combinations of values, as they move profit. */
function comparedRows({ a, b, months, accounts, trees, byValue }: ComparedSides): ComparedRow[] {
  const none = Array<number>(months.length).fill(0);
  const profitOf = (lines: FigureLines, key: string) => lines.get(key)?.figures.map((figure) => -figure + 0) ?? none;
  const parts = new Map<string, { key: string; combination: string; a: number[]; b: number[] }[]>();
  for (const [key, { account, combination }] of new Map([...a, ...b])) {
    const held = parts.get(account) ?? [];
    held.push({ key, combination, a: [...profitOf(a, key)], b: [...profitOf(b, key)] });
    parts.set(account, held);
  }
  const sum = (lists: readonly (readonly number[])[]) => none.map((_, at) => lists.reduce((total, list) => total + list[at]!, 0));
  return accounts.filter((account) => isProfitOrLoss(account) && parts.has(account.number)).flatMap(({ number, name, heading }): ComparedRow[] => {
    const held = parts.get(number)!;
    const label = `${number} ${name}`;
    if (byValue) return held.map((part) => ({ id: part.key, label: `${label} · ${valuesInWords(part.combination, trees)}`, section: heading, a: part.a, b: part.b }));
    return [{ id: number, label, section: heading, a: sum(held.map((part) => part.a)), b: sum(held.map((part) => part.b)), parts: held }];
  });
} // prettier-ignore

/** Values of a combination by their names. */
export function valuesInWords(combination: string, trees: readonly DimensionTree[]): string {
  const held = [...attributesOf(combination)].filter(([, value]) => value !== '');
  const named = held.map(([dimension, value]) => {
    const tree = trees.find(({ name }) => name === dimension);
    return tree?.values.find((each) => each.value === value)?.name ?? value;
  });
  return named.join(', ') || 'no values';
}
