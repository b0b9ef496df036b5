import type { SurveyView } from '@margin-lens/contract';
import {
  buildCalendar,
  DIMENSION_PREFIX,
  foreignConverter,
  LocalCodes,
  PostingCalendar,
  periodsOfRule,
  type CalendarRule,
  type FiscalCalendar,
  type ForeignCell,
  type ForeignContext,
  type Issue,
  type Mapping,
  type PostingAccount,
  type PostingEntity,
  type RowConverter,
} from '@margin-lens/core';
import { AccountsOfFile } from './accounts-of-file';
import { readForeign } from './read-foreign';

/** Fiscal years before and after this one in which months of a file are recognised. */
const YEARS_BEFORE = 30;
const YEARS_AFTER = 3;
/** Digits behind the point that any currency has at most. @source ISO 4217 */
const MOST_DIGITS = 4;

/** A calendar of a rule, wide enough for any ledger that is brought to an empty workspace. */
export function wideCalendar(rule: CalendarRule, thisYear: number): FiscalCalendar {
  const years = Array.from({ length: YEARS_BEFORE + YEARS_AFTER + 1 }, (_, index) => thisYear - YEARS_BEFORE + index);
  return buildCalendar(
    '',
    years.flatMap((year) => periodsOfRule(rule, year)),
  );
}

/** Takes every code there is. */
class AnyCode<T> extends Map<string, T> {
  constructor(private readonly make: (code: string) => T) {
    super();
  }
  override has(): boolean {
    return true;
  }
  override get(code: string): T {
    return this.make(code);
  }
}

function permissiveContext(calendar: FiscalCalendar): ForeignContext {
  const posting = new PostingCalendar(calendar, ({ ordinal }) => ordinal);
  const entity = (code: string): PostingEntity => ({
    id: 0,
    code,
    currency: '',
    digits: MOST_DIGITS,
    calendar: posting,
  });
  const account = (number: string): PostingAccount => ({
    id: 0,
    number,
    isStatistic: false,
    isProfitOrLoss: false,
    isRetainedEarnings: false,
    isCash: false,
    naturalSign: 1,
  });
  const postings = {
    entities: new AnyCode(entity),
    partners: new AnyCode(entity),
    accounts: new AnyCode(account),
    local: new LocalCodes(),
    unmapped: undefined,
    versions: new Map(),
    dimensions: new Map(),
  };
  return { postings, calendar, standBefore: () => 0, entityNames: new Map() };
}

/**
 * Reads a foreign file through for what an empty workspace must be told of it: its entities, its accounts with their
 * names and where they stand at the end, and its fiscal years. Nothing is written.
 */
export async function surveyFile(
  location: string,
  fileName: string,
  mapping: Mapping,
  calendar: FiscalCalendar,
): Promise<SurveyView | { findings: Issue[] }> {
  const findings: Issue[] = [];
  const report = (found: Issue) => void (found.severity === 'error' && findings.length < 100 && findings.push(found));
  const context = permissiveContext(calendar);
  const accounts = new AccountsOfFile(mapping, () => true);
  const entities = new Set<string>();
  const dimensions = new Map<string, Set<string>>();
  let [from, to] = [Infinity, -Infinity];
  let undated = 0;
  let converter: RowConverter | undefined;
  const note = (row: string[], line: number) => {
    const cell = (name: string) => row[converter!.header.indexOf(name)] ?? '';
    accounts.made(row, line);
    entities.add(cell('entity'));
    for (const [dimension, values] of dimensions) values.add(cell(DIMENSION_PREFIX + dimension));
    const posting = context.postings.entities.get('')!.calendar;
    const year = (posting.ofKey(cell('period')) ?? posting.ofDate(cell('date')))?.fiscalYear;
    if (year === undefined) undated++;
    else [from, to] = [Math.min(from, year), Math.max(to, year)];
  };
  const rows = {
    header: (header: string[]) => {
      converter = foreignConverter(fileName, mapping, header, context, report);
      for (const name of converter.header)
        if (name.startsWith(DIMENSION_PREFIX)) dimensions.set(name.slice(DIMENSION_PREFIX.length), new Set());
      accounts.begin(header, converter.header);
    },
    row: (cells: ForeignCell[], line: number) => {
      accounts.read(cells, line);
      for (const row of converter!.convert(cells, line)) note(row, line);
    },
    pause: () => undefined,
  };
  await readForeign(location, fileName, mapping, rows, report);
  for (const { fields, line } of converter?.rest() ?? []) note(fields, line);
  if (findings.length > 0) return { findings };
  return {
    entities: [...entities].filter(Boolean).sort(),
    accounts: accounts
      .numbers()
      .sort()
      .map((number) => ({ number, ...accounts.of(number) })),
    years: from <= to ? { from, to } : null,
    values: [...dimensions].flatMap(([dimension, values]) =>
      [...values]
        .filter(Boolean)
        .sort()
        .map((value) => ({ dimension, value })),
    ),
    undated,
  };
}
