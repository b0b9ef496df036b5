import { grammar, type Grammar, type Node } from 'ohm-js';

import { lazily } from '../formula/lazily';
import { roundHalfAway } from '../money/round';
import { decimalSign, typedPlain } from '../words/writing-style';
import type { DecimalSign } from '../words/writing-style';

/** What a cell is when something is typed into it. */
export interface EnteredCell {
  /** Months that the cell covers. */
  months: number;
  /** Minor units of one of the unit shown (100,000 for thousands of a currency with cents). */
  shownUnit: number;
}

export type EnteredAmount = { minor: number; problem?: never } | { minor?: never; problem: string };

/** Months of the grains that can be said behind an amount. */
const GRAIN_MONTHS: Record<string, number> = { month: 1, quarter: 3, year: 12 };

const grammarOf = (decimal: DecimalSign, group: DecimalSign) =>
  grammar(String.raw`
  Entry {
    Whole = "="? Sum "/" grain end -- grain
          | "=" Sum end            -- reckoned
          | "(" number ")" end     -- negative
          | Sum end                -- plain
    Sum = Sum "+" Product         -- add
        | Sum minus Product       -- subtract
        | Product
    Product = Product "*" Factor  -- times
            | Product "×" Factor  -- cross
            | Product "/" ~(grain end) Factor -- over
            | Product "÷" Factor  -- divide
            | Factor
    Factor = minus Factor         -- negate
           | "(" Sum ")"          -- brackets
           | number               -- number
    minus = "-" | "−"
    grain = ("month" | "quarter" | "year") ~alnum
    number = digit+ (("${group}" | "’" | "'" | "\u00a0" | "\u202f") digit digit digit ~digit)* ("${decimal}" digit+)? -- whole
           | "${decimal}" digit+                                                       -- part
  }
`);

const GRAMMARS = {
  '.': lazily(() => withValues(grammarOf('.', ','))),
  ',': lazily(() => withValues(grammarOf(',', '.'))),
};

const withValues = (rules: Grammar) => ({
  rules,
  semantics: rules
    .createSemantics()
    .addOperation<number>('value', {
      Sum_add: (a, _, b) => valueOf(a) + valueOf(b),
      Sum_subtract: (a, _, b) => valueOf(a) - valueOf(b),
      Product_times: (a, _, b) => valueOf(a) * valueOf(b),
      Product_cross: (a, _, b) => valueOf(a) * valueOf(b),
      Product_over: (a, _, b) => valueOf(a) / valueOf(b),
      Product_divide: (a, _, b) => valueOf(a) / valueOf(b),
      Factor_negate: (_, a) => -valueOf(a),
      Factor_brackets: (_, a, __) => valueOf(a),
      Factor_number: (number) => numberOf(number.sourceString),
    })
    .addOperation<number>('entered(cell)', {
      Whole_grain(_equals, sum, _slash, grain, _end) {
        const { months, shownUnit } = cellOf(this);
        return (valueOf(sum) * shownUnit * months) / GRAIN_MONTHS[grain.sourceString]!;
      },
      Whole_reckoned(_equals, sum, _end) {
        return valueOf(sum) * cellOf(this).shownUnit;
      },
      Whole_negative(_open, number, _close, _end) {
        return -numberOf(number.sourceString) * cellOf(this).shownUnit + 0;
      },
      Whole_plain(sum, _end) {
        return valueOf(sum) * cellOf(this).shownUnit;
      },
    }),
});

const valueOf = (node: Node): number => (node as unknown as { value(): number }).value();
/** All but digits and the sign before the decimals stands between thousands. */
const numberOf = (text: string): number =>
  Number(text.replace(decimalSign() === '.' ? /[^\d.]/g : /[^\d,]/g, '').replace(',', '.'));

/**
 * Reads what was typed into a cell, its numbers as whoever types writes them.
 *
 * Shape: an amount or an ordinary expression in the unit shown (`1200`, `=1,200*1.02`), with or without the sign that a
 * spreadsheet begins one with; a number in brackets is negative, as a spreadsheet writes it; `1000/month`, `/quarter` and
 * `/year` say what the amount is for and convert it to the months of the cell.
 * Units: minor units out. Rounding: half away from zero.
 * Missing: an empty text is 0 (the cell is cleared by its own key).
 * @example enterAmount('1000/month', { months: 3, shownUnit: 100 }) // { minor: 300000 }
 */
export function enterAmount(text: string, cell: EnteredCell): EnteredAmount {
  const typed = text.trim();
  if (typed === '') return { minor: 0 };
  const { rules, semantics } = GRAMMARS[decimalSign()]();
  const match = rules.match(typed, 'Whole');
  if (match.failed())
    return {
      problem: `“${typed}” is not an amount. Type a number, =1200*${typedPlain('1.02')} or 1000/month.`,
    };
  const minor = semantics(match) as unknown as { entered(cell: EnteredCell): number };
  const result = minor.entered(cell);
  if (!Number.isFinite(result)) return { problem: `“${typed}” divides by nothing.` };
  if (!Number.isSafeInteger(roundHalfAway(result))) return { problem: 'This is more than can be kept exactly.' };
  return { minor: roundHalfAway(result) };
}

const cellOf = (node: Node): EnteredCell => (node as unknown as { args: { cell: EnteredCell } }).args.cell;
