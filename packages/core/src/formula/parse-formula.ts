import { grammar, type Node } from 'ohm-js';
import { lazily } from './lazily';
import { FORMULA_FUNCTIONS, type Comparator, type FormulaFunction, type FormulaNode } from './formula';

/**
 * The grammar of formulas. A name may stand as it is when it starts with a letter and holds letters, digits, spaces and
 * `_ . ' & %`; any other name stands in double quotation marks. `@` names the rows of another layout.
 * Stored formulas hold `{id}` or `{layout.id}` in place of names.
 */
const grammarOnce = lazily(() =>
  grammar(String.raw`
  Formula {
    Whole = Sum

    Sum = Sum "+" Product         -- add
        | Sum minus Product       -- subtract
        | Product
    Product = Product times Factor    -- multiply
            | Product over Factor     -- divide
            | Factor
    Factor = minus Factor         -- negate
           | Value
    Value = "(" Sum ")"           -- brackets
          | Call
          | percent
          | number
          | Reference
    Call = functionName "(" ListOf<Argument, separator> ")"
    Argument = Sum comparator Sum -- compare
             | Sum
    Reference = name "@" name     -- other
              | name              -- own
              | id                -- stored

    minus = "-" | "−"
    times = "*" | "×"
    over = "/" | "÷"
    separator = "," | ";"
    comparator = "<=" | "≤" | ">=" | "≥" | "<>" | "≠" | "<" | ">" | "="
    functionName = letter alnum* &(space* "(")
    percent = number space* "%"
    number = digit+ ("." digit+)?
    id = "{" idPart ("." idPart)? "}"
    idPart = lower (lower | digit | "_")*
    name = "\"" (~"\"" any)+ "\"" -- quoted
         | bare
    bare = letter (" "* nameMark)*
    nameMark = alnum | "_" | "." | "'" | "’" | "&" | "%"
  }
`),
);

const COMPARATORS: Record<string, Comparator> = { '≤': '<=', '≥': '>=', '≠': '<>' };

/** What is wrong with a formula, at a place of its text. */
export interface FormulaError {
  problem: string;
  from: number;
  to: number;
}

export type ParsedFormula = { tree: FormulaNode; error?: never } | { tree?: never; error: FormulaError };

class Refused extends Error {
  constructor(readonly found: FormulaError) {
    super(found.problem);
  }
}

const place = (node: Node) => ({ from: node.source.startIdx, to: node.source.endIdx });
const two =
  (op: 'add' | 'subtract' | 'multiply' | 'divide') =>
  (left: Node, _: Node, right: Node): FormulaNode => ({ op, left: tree(left), right: tree(right) });
const tree = (node: Node) => (node as unknown as { tree(): FormulaNode }).tree();
const nameText = (node: Node) => node.sourceString.replace(/^"|"$/g, '').trim();

const semanticsOnce = lazily(() =>
  grammarOnce()
    .createSemantics()
    .addOperation<FormulaNode>('tree', {
      Sum_add: two('add'),
      Sum_subtract: two('subtract'),
      Product_multiply: two('multiply'),
      Product_divide: two('divide'),
      Factor_negate: (_minus, of) => ({ op: 'negate', of: tree(of) }),
      Value_brackets: (_open, inner, _close) => tree(inner),
      Argument_compare: (left, comparator, right) => ({
        op: 'compare',
        comparator: COMPARATORS[comparator.sourceString] ?? (comparator.sourceString as Comparator),
        left: tree(left),
        right: tree(right),
      }),
      Call(name, _open, list, _close) {
        const called = name.sourceString.toLowerCase();
        const spot = place(name);
        if (!Object.hasOwn(FORMULA_FUNCTIONS, called))
          throw new Refused({ problem: `There is no function “${name.sourceString}”`, ...spot });
        const args = list.asIteration().children.map(tree);
        const { least, most } = FORMULA_FUNCTIONS[called as FormulaFunction];
        if (args.length < least || args.length > most) {
          const expected = least === most ? String(least) : `${least} to ${most}`;
          throw new Refused({ problem: `“${called}” takes ${expected} parts, not ${args.length}`, ...spot });
        }
        if ((called === 'if') !== (args[0]?.op === 'compare') || args.slice(1).some(({ op }) => op === 'compare'))
          throw new Refused({
            problem: called === 'if' ? 'The first part of “if” is a comparison' : 'A comparison stands only in “if”',
            ...spot,
          });
        return { op: 'call', function: called as FormulaFunction, args, ...place(this) };
      },
      percent: (number, _space, _mark) => ({ op: 'number', value: Number(number.sourceString) / 100 }),
      number(_whole, _point, _decimals) {
        return { op: 'number', value: Number(this.sourceString) };
      },
      Reference_other(name, _at, layout) {
        return { op: 'name', name: nameText(name), layout: nameText(layout), ...place(this) };
      },
      Reference_own(name) {
        return { op: 'name', name: nameText(name), layout: undefined, ...place(this) };
      },
      Reference_stored(stored) {
        const [first, second] = stored.sourceString.slice(1, -1).split('.') as [string, string?];
        return { op: 'ref', id: second ?? first, layout: second === undefined ? undefined : first, ...place(this) };
      },
    }),
);

/**
 * Reads a formula, typed with names or stored with ids.
 *
 * Shape: `{tree}`, or `{error}` with the place in the text where reading stopped.
 * @example parseFormula('Net sales − Cost of sales').tree // {op: 'subtract', left: {op: 'name', …}, right: …}
 */
export function parseFormula(text: string): ParsedFormula {
  const known = parsedBefore.get(text);
  if (known) return known;
  if (parsedBefore.size >= KEPT_FORMULAS) parsedBefore.clear();
  const parsed = readFormula(text);
  parsedBefore.set(text, parsed);
  return parsed;
}

/** Formulas that were read already: a statement reads its own several times, and layouts change seldom. */
const parsedBefore = new Map<string, ParsedFormula>();
const KEPT_FORMULAS = 2000; // 100 to 100,000

/** Longest formula, characters, and how deep its brackets and signs may stand in each other. */
const FORMULA_LENGTH = 4000; // 1,000 to 10,000
const NESTED_AT_MOST = 40; // 10 to 100

/** Where a formula goes beyond a limit. */
function beyondLimits(text: string): FormulaError | undefined {
  if (text.length > FORMULA_LENGTH)
    return {
      problem: `The formula is longer than ${FORMULA_LENGTH} characters`,
      from: FORMULA_LENGTH,
      to: text.length,
    };
  let [depth, signs, isQuoted] = [0, 0, false];
  for (let at = 0; at < text.length; at++) {
    const mark = text[at]!;
    if (mark === '"') isQuoted = !isQuoted;
    if (isQuoted || mark === ' ') continue;
    depth += mark === '(' ? 1 : mark === ')' ? -1 : 0;
    signs = mark === '-' || mark === '−' ? signs + 1 : 0;
    if (Math.max(depth, signs) > NESTED_AT_MOST)
      return { problem: `More than ${NESTED_AT_MOST} brackets or signs stand in each other`, from: at, to: at + 1 };
  }
  return undefined;
}

function readFormula(text: string): ParsedFormula {
  const beyond = beyondLimits(text);
  if (beyond) return { error: beyond };
  const match = grammarOnce().match(text);
  if (match.failed()) {
    const from = (match as unknown as { getRightmostFailurePosition(): number }).getRightmostFailurePosition();
    const rest = text.slice(from).trim();
    const problem = rest === '' ? 'The formula is not finished' : `“${rest.slice(0, 12)}” is not expected here`;
    return { error: { problem, from, to: Math.max(from + 1, text.length) } };
  }
  try {
    return { tree: (semanticsOnce()(match) as unknown as { tree(): FormulaNode }).tree() };
  } catch (thrown) {
    const refused = refusedOf(thrown);
    if (!refused) throw thrown;
    return { error: refused.found };
  }
}

/** Actions that throw arrive wrapped in some versions of the parser. */
function refusedOf(thrown: unknown): Refused | undefined {
  if (thrown instanceof Refused) return thrown;
  return thrown instanceof Error && thrown.cause instanceof Refused ? thrown.cause : undefined;
}
