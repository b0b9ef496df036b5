import {
  attributesOf,
  comparedRows,
  exactFigure,
  findDifferences,
  partsOfKey,
  type Account,
  type Cause,
  type DimensionTree,
  type FigureLines,
  type RoundingVerdict,
  type Unit,
} from '@margin-lens/core';

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
  const { a, b, accounts, trees, months, unit, nameOfA, nameOfB } = sides;
  const valuesOf = sides.byValue ? (combination: string) => valuesInWords(combination, trees) : undefined;
  const differences = findDifferences(comparedRows({ a, b, accounts, months: months.length, valuesOf }), months.length);
  const text = (amount: number) => exactFigure({ amount, unit });
  const named = (detail: string) =>
    detail.replace(/the first( side)?/g, nameOfA).replace(/the second( side)?/g, nameOfB);
  return {
    bottomLine: differences.bottomLine === 0 ? 'nothing' : text(differences.bottomLine),
    verdict:
      differences.rows.length === 0
        ? 'The two are the same in every account and month.'
        : VERDICT_WORDS[differences.verdict],
    months: differences.months.flatMap((amount, at) =>
      amount === 0 ? [] : [{ name: months[at]!, text: text(amount) }],
    ),
    sections: differences.sections.map(({ section, difference }) => ({ name: section, text: text(difference) })),
    rows: differences.rows.slice(0, ROWS_SHOWN).map((row) => {
      const [guess] = row.guesses;
      const largest = row.months.reduce(
        (best, amount, at) => (Math.abs(amount) > Math.abs(row.months[best]!) ? at : best),
        0,
      );
      const month = guess && guess.months.length === 1 ? guess.months[0]! : largest;
      return {
        id: row.id,
        account: sides.byValue ? partsOfKey(row.id)[0] : row.id,
        label: row.label,
        text: text(row.difference),
        month,
        monthName: months[month]!,
        guess: guess ? `${CAUSE_WORDS[guess.cause]}: ${named(guess.detail)} · ` : '',
      };
    }),
    more: Math.max(0, differences.rows.length - ROWS_SHOWN),
  };
}

/** Values of a combination by their names. */
export function valuesInWords(combination: string, trees: readonly DimensionTree[]): string {
  const held = [...attributesOf(combination)].filter(([, value]) => value !== '');
  const named = held.map(([dimension, value]) => {
    const tree = trees.find(({ name }) => name === dimension);
    return tree?.values.find((each) => each.value === value)?.name ?? value;
  });
  return named.join(', ') || 'no values';
}
