import { isProfitOrLoss, type BooksFinding, type FiscalPeriod } from '@margin-lens/core';
import type { ReadingThread } from '../../store/reading-thread';
import { attributeList } from '../../store/attributes';
import { linesByCombination, linesDatedOutside, repeatedCredits, type LinesSpan } from '../../store/odd-lines';
import type { Entity, WorkspaceModel } from '../workspace/workspace-model';

/** Share of an account's lines that must carry a dimension for a line without it to be a matter. */
const USUALLY_CARRIED = 0.9;
/** Lines of an account that are needed before anything is said about what they carry. */
const LINES_NEEDED = 20;
/** Findings of one check at most. */
const AT_MOST = 200;

interface Span {
  model: WorkspaceModel;
  entity: Entity;
  /** Periods of the fiscal year up to the as-at one, in order. */
  periods: readonly FiscalPeriod[];
  /** Revision that last moved the books. */
  ledger: number;
}

const spanOf = ({ entity, periods, ledger }: Span): LinesSpan => ({
  entity: entity.id,
  periods: periods.map((period) => entity.calendar.idOf(period)),
  at: ledger,
});

const numberOf = ({ model }: Span) => {
  const byId = new Map(model.accounts.map(({ number }) => [model.accountIds.get(number)!, number]));
  return (id: number): string => byId.get(id)!;
};

/**
 * Income that stands twice: the same account, amount and party, in one month, in different journals. The party is the
 * partner entity, else the text of the line.
 */
export async function incomeTwice(reading: ReadingThread, span: Span, limit: number): Promise<BooksFinding[]> {
  const { model, entity, periods } = span;
  const income = model.accounts
    .filter(({ nature }) => nature === 'income')
    .map(({ number }) => model.accountIds.get(number)!);
  const rows = await repeatedCredits(reading, spanOf(span), income, limit, AT_MOST);
  const nameOf = numberOf(span);
  const keyOf = new Map(periods.map((period) => [entity.calendar.idOf(period), period.key]));
  return rows.map(({ account, period, credit, text, journals }) => ({
    check: 'income_twice',
    key: `income_twice|${nameOf(account)}|${keyOf.get(period)}|${credit}|${text}`,
    account: nameOf(account),
    amount: -credit * journals,
    expected: -credit,
    effect: -credit * (journals - 1),
    from: keyOf.get(period)!,
    to: keyOf.get(period)!,
    text,
    dimension: null,
    count: journals,
  }));
}

/** Income and cost without a dimension value where nearly all other lines of the account carry one. */
export async function dimensionMissing(reading: ReadingThread, span: Span): Promise<BooksFinding[]> {
  const { model, periods } = span;
  const accounts = model.accounts.filter(isProfitOrLoss).map(({ number }) => model.accountIds.get(number)!);
  const rows = await linesByCombination(reading, spanOf(span), accounts);
  const nameOf = numberOf(span);
  const [first, last] = [periods[0]!.key, periods.at(-1)!.key];
  const byAccount = new Map<number, typeof rows>();
  for (const row of rows) byAccount.set(row.account, [...(byAccount.get(row.account) ?? []), row]);
  return [...byAccount].flatMap(([account, combinations]) =>
    model.dimensions.flatMap((dimension): BooksFinding[] => {
      const lacks = ({ parts }: { parts: string }) => attributeList(parts).every(({ name }) => name !== dimension);
      const all = combinations.reduce((sum, { lines }) => sum + lines, 0);
      const lacking = combinations.filter(lacks);
      const count = lacking.reduce((sum, { lines }) => sum + lines, 0);
      if (count === 0 || all < LINES_NEEDED || 1 - count / all < USUALLY_CARRIED) return [];
      return [
        {
          check: 'dimension_missing',
          key: `dimension_missing|${nameOf(account)}|${dimension}|${last}`,
          account: nameOf(account),
          amount: lacking.reduce((sum, { net }) => sum + net, 0),
          expected: null,
          effect: null,
          from: first,
          to: last,
          text: null,
          dimension,
          count,
        },
      ];
    }),
  );
}

/** Lines whose date lies outside the period that they were posted to; adjustments are dated within their year. */
export async function dateOutside(reading: ReadingThread, span: Span): Promise<BooksFinding[]> {
  const { model, entity, periods } = span;
  const rows = await linesDatedOutside(
    reading,
    spanOf(span),
    [...model.accountIds.values()],
    periods[0]!.start,
    AT_MOST,
  );
  const nameOf = numberOf(span);
  const keyOf = new Map(periods.map((period) => [entity.calendar.idOf(period), period.key]));
  return rows.map(({ account, period, lines, net, first, last }) => ({
    check: 'date_outside',
    key: `date_outside|${nameOf(account)}|${keyOf.get(period)}|${lines}`,
    account: nameOf(account),
    amount: net,
    expected: null,
    effect: null,
    from: keyOf.get(period)!,
    to: keyOf.get(period)!,
    text: first === last ? first : `${first}/${last}`,
    dimension: null,
    count: lines,
  }));
}
