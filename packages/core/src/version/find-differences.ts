/** A row of two sides that should be the same. Units: minor units; one figure a month. */
export interface ComparedRow {
  id: string;
  label: string;
  /** What it stands under. */
  section: string;
  a: readonly number[];
  b: readonly number[];
  /** What it is the sum of, such as its dimension values; looked into where the sum alone gives no cause. */
  parts?: readonly { a: readonly number[]; b: readonly number[] }[];
}

export type Cause = 'rounding' | 'sign' | 'missing' | 'swapped_digits' | 'factor' | 'month_off' | 'constant';

export interface Guess {
  cause: Cause;
  /** More exactly, such as the factor or the side that holds nothing. */
  detail: string;
  /** Months that it explains, by place; all of the row where it is about the whole row. */
  months: number[];
}

export type RoundingVerdict = 'can_be_rounding' | 'unlikely_rounding' | 'not_rounding';

export interface RowDifference {
  id: string;
  label: string;
  section: string;
  /** b less a over all months. */
  difference: number;
  /** b less a by month. */
  months: number[];
  guesses: Guess[];
}

export interface Differences {
  /** b less a over everything. */
  bottomLine: number;
  months: number[];
  sections: { section: string; difference: number }[];
  /** Rows that differ, by the size of their largest monthly difference. */
  rows: RowDifference[];
  /** Unit of the coarser side, in minor units. */
  roundingUnit: number;
  verdict: RoundingVerdict;
}

/** Steps that figures are rounded to, in minor units: whole units, thousands and millions of currencies with cents or without. */
const ROUNDING_UNITS = [100_000_000, 1_000_000, 100_000, 1000, 100];

/** The step that all figures are whole multiples of; 1 where there is none, or no figure. */
export function roundingUnitOf(figures: Iterable<number>): number {
  const held = [...figures].filter((figure) => figure !== 0);
  if (held.length === 0) return 1;
  return ROUNDING_UNITS.find((unit) => held.every((figure) => figure % unit === 0)) ?? 1;
}

/**
 * Whether a difference can come from rounding alone.
 *
 * Units: the difference and the unit alike; `terms` figures that were rounded independently to the unit.
 * @source domain notes, Difference within rounding: certain bound n·u/2, likely bound 2·u·√(n/12)
 */
export function roundingVerdict(difference: number, terms: number, unit: number): RoundingVerdict {
  const size = Math.abs(difference);
  if (size <= 2 * unit * Math.sqrt(terms / 12) && size <= (terms * unit) / 2) return 'can_be_rounding';
  return size <= (terms * unit) / 2 ? 'unlikely_rounding' : 'not_rounding';
}

const sumOf = (figures: readonly number[]) => figures.reduce((a, b) => a + b, 0);

/** The figures of a row and of what it is the sum of. */
type Figures = Pick<ComparedRow, 'a' | 'b' | 'parts'>;

/** The figures that were kept one by one, and so rounded one by one: those of the parts, where a row has parts. */
const finest = ({ a, b, parts }: Figures): readonly Omit<Figures, 'parts'>[] => parts ?? [{ a, b }];

/**
 * Finds where two sides differ, ranks the rows, and guesses why. What rounding can do is judged by the figures that were
 * rounded, however they are taken together in rows.
 */
export function findDifferences(rows: readonly ComparedRow[], months: number): Differences {
  const kept = rows.flatMap(finest);
  const units = [roundingUnitOf(kept.flatMap(({ a }) => a)), roundingUnitOf(kept.flatMap(({ b }) => b))];
  const roundingUnit = units[0] === units[1] ? 1 : Math.max(...units);
  const differing = rows
    .map((row): RowDifference => {
      const byMonth = row.a.map((figure, at) => row.b[at]! - figure + 0);
      return {
        id: row.id,
        label: row.label,
        section: row.section,
        difference: sumOf(byMonth),
        months: byMonth,
        guesses: guessesOf(row, roundingUnit),
      };
    })
    .filter((row) => row.months.some((difference) => difference !== 0));
  const largest = (row: RowDifference) => Math.max(...row.months.map(Math.abs));
  const sections = [...new Set(rows.map(({ section }) => section))]
    .map((section) => ({
      section,
      difference: sumOf(differing.filter((row) => row.section === section).map((row) => row.difference)),
    }))
    .filter(({ difference }) => difference !== 0)
    .sort((a, b) => Math.abs(b.difference) - Math.abs(a.difference));
  const terms = kept.flatMap(({ a, b }) => a.filter((figure, at) => figure !== 0 || b[at] !== 0)).length;
  const bottomLine = sumOf(differing.map(({ difference }) => difference));
  const isOff = kept.some(({ a, b }) => a.some((figure, at) => Math.abs(b[at]! - figure) > roundingUnit / 2));
  return {
    bottomLine,
    months: Array.from({ length: months }, (_, at) => sumOf(differing.map((row) => row.months[at]!))),
    sections,
    rows: differing.sort((x, y) => largest(y) - largest(x)),
    roundingUnit,
    verdict: isOff ? 'not_rounding' : roundingVerdict(bottomLine, terms, roundingUnit),
  };
}

/** Causes that fit a row, the ones that explain the whole row first. */
function guessesOf(row: ComparedRow, roundingUnit: number): Guess[] {
  const own = ownGuesses(row, roundingUnit);
  return own.length > 0 ? own : (row.parts ?? []).flatMap((part) => ownGuesses(part, roundingUnit));
}

function ownGuesses(row: Figures, roundingUnit: number): Guess[] {
  const { a, b } = row;
  const differs = a.flatMap((figure, at) => (b[at] === figure ? [] : [at]));
  if (differs.length === 0) return [];
  const whole = wholeRow(a, b, differs);
  if (whole) return [whole];
  const near = (x: number, y: number) => Math.abs(x - y) <= roundingUnit / 2;
  const tests: [Cause, (at: number) => string | undefined][] = [
    [
      'rounding',
      (at) => (finest(row).every((each) => near(each.a[at]!, each.b[at]!)) ? 'within half a unit' : undefined),
    ],
    ['sign', (at) => (near(a[at]!, -b[at]!) && a[at] !== 0 ? 'the same amount with the other sign' : undefined)],
    ['swapped_digits', (at) => swappedDigits(a[at]!, b[at]!)],
    ['factor', (at) => factorOf(a[at]!, b[at]!, roundingUnit)],
    [
      'missing',
      (at) => (a[at] === 0 ? 'nothing on the first side' : b[at] === 0 ? 'nothing on the second side' : undefined),
    ],
  ];
  const found = new Map<string, Guess>();
  for (const at of differs)
    for (const [cause, test] of tests) {
      const detail = test(at);
      if (detail === undefined) continue;
      const key = `${cause} ${detail}`;
      const guess = found.get(key) ?? { cause, detail, months: [] };
      guess.months.push(at);
      found.set(key, guess);
      break;
    }
  return [...found.values()].sort((x, y) => y.months.length - x.months.length);
}

/** Causes that are about all months of a row together. */
function wholeRow(a: readonly number[], b: readonly number[], differs: number[]): Guess | undefined {
  const isNothing = (figures: readonly number[]) => figures.every((figure) => figure === 0);
  if (isNothing(a) || isNothing(b))
    return { cause: 'missing', detail: `the ${isNothing(a) ? 'first' : 'second'} side holds nothing`, months: differs };
  if (a.length < 3 || differs.length < 2) return undefined;
  for (const by of [1, -1]) {
    const isShifted = a.every((figure, at) => b[at + by] === undefined || b[at + by] === figure);
    if (isShifted && !isConstant(a))
      return {
        cause: 'month_off',
        detail: `the second side is one month ${by > 0 ? 'late' : 'early'}`,
        months: differs,
      };
  }
  const [constant, falling] = isConstant(a) ? ['first', b] : isConstant(b) ? ['second', a] : ['', []];
  if (falling.length > 0 && isMonotonic(falling as readonly number[]))
    return {
      cause: 'constant',
      detail: `the ${constant as string} side is the same every month, the other moves`,
      months: differs,
    };
  return undefined;
}

const isConstant = (figures: readonly number[]) => figures.every((figure) => figure === figures[0]);
const isMonotonic = (figures: readonly number[]) =>
  figures.every((figure, at) => at === 0 || figure <= figures[at - 1]!) ||
  figures.every((figure, at) => at === 0 || figure >= figures[at - 1]!);

/** Two digits that changed places; looked for in the figures without the zeros at their end. */
function swappedDigits(a: number, b: number): string | undefined {
  if (a === 0 || b === 0 || Math.sign(a) !== Math.sign(b)) return undefined;
  let [x, y] = [String(Math.abs(a)), String(Math.abs(b))];
  while (x.endsWith('0') && y.endsWith('0')) [x, y] = [x.slice(0, -1), y.slice(0, -1)];
  if (x.length !== y.length) return undefined;
  const places = [...x].flatMap((digit, at) => (digit === y[at] ? [] : [at]));
  const [first, second] = places;
  if (places.length !== 2 || x[first!] !== y[second!] || x[second!] !== y[first!]) return undefined;
  return `the digits ${x[first!]} and ${x[second!]} changed places`;
}

const FACTORS: readonly [number, string][] = [
  [3, 'a quarter for a month'],
  [12, 'a year for a month'],
  [4, 'a year for a quarter'],
  [100, 'cents for whole units'],
  [1000, 'thousands for units'],
];

function factorOf(a: number, b: number, unit: number): string | undefined {
  if (a === 0 || b === 0) return undefined;
  for (const [factor, words] of FACTORS) {
    if (Math.abs(a * factor - b) <= (unit * factor) / 2 && unit < Math.abs(b))
      return `the second is ${factor} times the first (${words})`;
    if (Math.abs(b * factor - a) <= (unit * factor) / 2 && unit < Math.abs(a))
      return `the first is ${factor} times the second (${words})`;
  }
  return undefined;
}
