import { grammar, type Node } from 'ohm-js';
import { lazily } from '../formula/lazily';
import { roundHalfAway } from '../money/round';

/** What a cell is when something is typed into it. */
export interface EnteredCell {
  /** Figure that stands there, in minor units. */
  present: number;
  /** Months that the cell covers. */
  months: number;
  /** Minor units of one of the unit shown (100,000 for thousands of a currency with cents). */
  shownUnit: number;
  /** Minor units of one whole (100 for a currency with cents). */
  whole: number;
}

export type EnteredAmount = { minor: number; problem?: never } | { minor?: never; problem: string };

/** Months of the grains that can be said behind an amount. */
const GRAIN_MONTHS: Record<string, number> = { month: 1, m: 1, quarter: 3, q: 3, year: 12, y: 12 };

const grammarOnce = lazily(() =>
  grammar(String.raw`
  Entry {
    Whole = sign Sum "%" end      -- change
          | "+" Sum end           -- add
          | timesOver Factor end  -- act
          | "(" number ")" end    -- negative
          | Sum "/" grain end     -- grain
          | Sum end               -- plain
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
           | number scale         -- scaled
           | number               -- number
    sign = "+" | minus
    timesOver = "*" | "×" | "/" | "÷"
    minus = "-" | "−"
    grain = ("month" | "quarter" | "year" | "m" | "q" | "y") ~alnum
    scale = ("k" | "m") ~alnum
    number = digit+ (("," | "’" | "'" | "\u00a0") digit digit digit ~digit)* ("." digit+)? -- whole
           | "." digit+                                                       -- part
  }
`),
);

/** A number in wholes; `isScaled` when it was said absolutely (12k), else it is in the unit shown. */
interface Term {
  value: number;
  isScaled: boolean;
}

const semanticsOnce = lazily(() =>
  grammarOnce()
    .createSemantics()
    .addOperation<Term>('term', {
      Sum_add: (a, _, b) => joined(a, b, (x, y) => x + y),
      Sum_subtract: (a, _, b) => joined(a, b, (x, y) => x - y),
      Product_times: (a, _, b) => joined(a, b, (x, y) => x * y),
      Product_cross: (a, _, b) => joined(a, b, (x, y) => x * y),
      Product_over: (a, _, b) => joined(a, b, (x, y) => x / y),
      Product_divide: (a, _, b) => joined(a, b, (x, y) => x / y),
      Factor_negate: (_, a) => ({ ...termOf(a), value: -termOf(a).value }),
      Factor_brackets: (_, a, __) => termOf(a),
      Factor_scaled: (number, scale) => ({
        value: numberOf(number.sourceString) * (scale.sourceString === 'k' ? 1e3 : 1e6),
        isScaled: true,
      }),
      Factor_number: (number) => ({ value: numberOf(number.sourceString), isScaled: false }),
    })
    .addOperation<number>('entered(cell)', {
      Whole_change(sign, sum, _percent, _end) {
        const { present } = cellOf(this);
        const percent = termOf(sum).value * (sign.sourceString === '+' ? 1 : -1);
        return (present * (100 + percent)) / 100;
      },
      Whole_add(_plus, sum, _end) {
        const cell = cellOf(this);
        return cell.present + minorOf(termOf(sum), cell);
      },
      Whole_act(operator, factor, _end) {
        const { present } = cellOf(this);
        const by = termOf(factor).value;
        return '*×'.includes(operator.sourceString) ? present * by : present / by;
      },
      Whole_negative(_open, number, _close, _end) {
        return -minorOf({ value: numberOf(number.sourceString), isScaled: false }, cellOf(this)) + 0;
      },
      Whole_grain(sum, _slash, grain, _end) {
        const cell = cellOf(this);
        return (minorOf(termOf(sum), cell) * cell.months) / GRAIN_MONTHS[grain.sourceString]!;
      },
      Whole_plain(sum, _end) {
        return minorOf(termOf(sum), cellOf(this));
      },
    }),
);

const termOf = (node: Node): Term => (node as unknown as { term(): Term }).term();
const numberOf = (text: string): number => Number(text.replace(/[,’'\u00a0]/g, ''));
function joined(a: Node, b: Node, act: (x: number, y: number) => number): Term {
  const [left, right] = [termOf(a), termOf(b)];
  return { value: act(left.value, right.value), isScaled: left.isScaled || right.isScaled };
}

/**
 * Reads what was typed into a cell.
 *
 * Shape: an amount or a sum of them in the unit shown (`1200`, `1,200*1.02`); `k` and `m` are thousands and millions of
 * whole units (`12k`); `+5%` and `-5%` change the figure that stands there, `+500` adds to it, `*1.02` and `/2` act on
 * it; a number in brackets is negative, as a spreadsheet writes it; `1000/month`, `/quarter` and `/year` say what the amount is for and convert it to the months of the cell.
 * Units: minor units out. Rounding: half away from zero.
 * Missing: an empty text is 0 (the cell is cleared by its own key).
 * @example enterAmount('1000/month', { present: 0, months: 3, shownUnit: 100, whole: 100 }) // { minor: 300000 }
 */
export function enterAmount(text: string, cell: EnteredCell): EnteredAmount {
  const typed = text.trim();
  if (typed === '') return { minor: 0 };
  const match = grammarOnce().match(typed, 'Whole');
  if (match.failed())
    return { problem: `“${typed}” is not an amount. Type a number, 1200*1.02, +5%, 12k or 1000/month.` };
  const minor = semanticsOnce()(match) as unknown as { entered(cell: EnteredCell): number };
  const result = minor.entered(cell);
  if (!Number.isFinite(result)) return { problem: `“${typed}” divides by nothing.` };
  if (!Number.isSafeInteger(roundHalfAway(result))) return { problem: 'This is more than can be kept exactly.' };
  return { minor: roundHalfAway(result) };
}

const minorOf = ({ value, isScaled }: Term, { shownUnit, whole }: EnteredCell) =>
  value * (isScaled ? whole : shownUnit);

const cellOf = (node: Node): EnteredCell => (node as unknown as { args: { cell: EnteredCell } }).args.cell;
