import fc from 'fast-check';
import { all, create } from 'mathjs';
import { storeFormula, typedFormula } from '../../src/index';
import { evaluateFormula } from '../../src/formula/evaluate-formula';
import { parseFormula } from '../../src/formula/parse-formula';
import type { FormulaReference } from '../../src/formula/formula';
import { runs } from '../runs';

/**
 * Random formulas, written at once in our grammar and in that of mathjs, a general-purpose expression library, which
 * gives the expected values.
 */
interface Written {
  ours: string;
  theirs: string;
}
const math = create(all!);
const VALUES: Record<string, number> = { sales: 1200, costs: -730.5, energy: 0, headcount: 17 };

const number = fc
  .tuple(fc.nat({ max: 999 }), fc.constantFrom('', '.5', '.25'))
  .map(([whole, rest]): Written => ({ ours: `${whole}${rest}`, theirs: `${whole}${rest}` }));
const name = fc.constantFrom(...Object.keys(VALUES)).map((id): Written => ({ ours: `{${id}}`, theirs: id }));

const { formula } = fc.letrec<{ formula: Written; comparison: Written }>((tie) => {
  const both = (sign: string, ours: readonly string[]) =>
    fc.tuple(tie('formula'), tie('formula'), fc.constantFrom(...ours)).map(([a, b, mark]): Written => ({
      ours: `(${a.ours}) ${mark} (${b.ours})`,
      theirs: `(${a.theirs}) ${sign} (${b.theirs})`,
    }));
  const call = (ours: string, theirs = ours, count = 2) =>
    fc.array(tie('formula'), { minLength: 1, maxLength: count }).map((args): Written => ({
      ours: `${ours}(${args.map((arg) => arg.ours).join(', ')})`,
      theirs: `${theirs}(${args.map((arg) => arg.theirs).join(', ')})`,
    }));
  return {
    comparison: fc
      .tuple(tie('formula'), tie('formula'), fc.constantFrom(['<', '<'], ['≥', '>='], ['<>', '!=']))
      .map(([a, b, [ours, theirs]]): Written => ({
        ours: `${a.ours} ${ours} ${b.ours}`,
        theirs: `smallerish(${a.theirs}, ${b.theirs}, "${theirs}")`,
      })),
    formula: fc.oneof(
      { maxDepth: 4 },
      number,
      name,
      both('+', ['+']),
      both('-', ['-', '−']),
      both('*', ['*', '×']),
      both('/', ['/', '÷']),
      // without brackets: what binds more strongly must bind so in both
      fc.tuple(name, number, name).map(([a, b, c]): Written => ({
        ours: `${a.ours} - ${b.ours} * ${c.ours}`,
        theirs: `${a.theirs} - ${b.theirs} * ${c.theirs}`,
      })),
      fc.tuple(name, number, number).map(([a, b, c]): Written => ({
        ours: `-${a.ours} / ${b.ours} / ${c.ours}`,
        theirs: `-${a.theirs} / ${b.theirs} / ${c.theirs}`,
      })),
      call('sum', 'sum', 4),
      call('min', 'min', 3),
      call('max', 'max', 3),
      call('average', 'mean', 3),
      call('abs', 'abs', 1),
      fc.tuple(tie('comparison'), tie('formula'), tie('formula')).map(([test, a, b]): Written => ({
        ours: `if(${test.ours}; ${a.ours}; ${b.ours})`,
        theirs: `(${test.theirs} ? (${a.theirs}) : (${b.theirs}))`,
      })),
    ),
  };
});

// mathjs compares with a tolerance; ours exactly, like the figures on the sheet
math.import({
  smallerish: (a: number, b: number, sign: string) => (sign === '<' ? a < b : sign === '>=' ? a >= b : a !== b),
});

const evaluated = (text: string) =>
  evaluateFormula(parseFormula(text).tree!, {
    quantityOf: (reference: FormulaReference) => ({ amount: VALUES[(reference as { id: string }).id]! }),
    days: 31,
    months: 1,
  });

/** Undefined and not a number are the same thing to the comparison: dividing by nothing. */
const isAwkward = (amount: unknown) => typeof amount !== 'number' || !Number.isFinite(amount);

describe('formulas against a general-purpose expression library', () => {
  it('evaluate to the same', () => {
    fc.assert(
      fc.property(formula, ({ ours, theirs }) => {
        const expected = math.evaluate(theirs, { ...VALUES }) as number;
        const { amount } = evaluated(ours);
        // a quotient by zero inside makes ours undefined at once, where theirs may come back from infinity
        if (amount === null || isAwkward(expected)) return;
        expect(Math.abs(amount - expected)).toBeLessThanOrEqual(1e-9 * Math.max(1, Math.abs(expected)));
      }),
      runs(400),
    );
  });

  it('come back from ids to names to ids', () => {
    const own = Object.keys(VALUES).map((id, at) => ({
      id,
      label: ['Net sales', 'Costs, net', 'Energy %', '2nd shift'][at]!,
    }));
    fc.assert(
      fc.property(formula, ({ ours }) => {
        const typed = typedFormula(ours, { own, others: [] });
        expect(storeFormula(typed, { own, others: [] })).toEqual({ formula: ours });
      }),
    );
  });
});
