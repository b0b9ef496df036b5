import { isProfitOrLoss, type BooksFinding, type FiscalPeriod } from '@margin-lens/core';
import type { LineKeeper } from '../../store/line-keeper';
import type { ReadingThread } from '../../store/reading-thread';
import { attributeList } from '../../store/attributes';
import { repeatedCredits, type LinesSpan } from '../../store/odd-lines';
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

/** Entry kinds of the books and of adjustments, as stored: all of them, and the normal ones. */
const KINDS = [0, 1, 2, 3, 4, 5];
const NORMAL_KINDS = [0, 3];

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
export async function dimensionMissing(
  index: LineKeeper,
  span: Span,
  textOf: (combination: number) => string,
): Promise<BooksFinding[]> {
  const { model, periods } = span;
  const accounts = model.accounts.filter(isProfitOrLoss).map(({ number }) => model.accountIds.get(number)!);
  const { entity: id, periods: within, at } = spanOf(span);
  const groups = await index.groups({
    ...{ revision: at, entity: id, accounts, periods: within, kinds: KINDS },
    by: ['account', 'combination'],
  });
  const rows = groups.map(({ keys: [account, combination], lines, amount }) => ({
    ...{ account: account!, parts: textOf(combination!), lines, net: amount },
  }));
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
export async function dateOutside(index: LineKeeper, span: Span): Promise<BooksFinding[]> {
  const { model, entity, periods } = span;
  const { entity: id, periods: within, at } = spanOf(span);
  const [yearStart] = periods.map(({ start }) => start);
  const outside = new Map(
    periods.map((period) => [
      entity.calendar.idOf(period),
      [period.kind === 'adjustment' ? yearStart! : period.start, period.end] as const,
    ]),
  );
  const groups = await index.groups({
    ...{ revision: at, entity: id, accounts: [...model.accountIds.values()], periods: within, outside },
    ...{ kinds: NORMAL_KINDS, by: ['account', 'period'] },
  });
  const rows = groups.toSorted((a, b) => b.lines - a.lines).slice(0, AT_MOST);
  const nameOf = numberOf(span);
  const keyOf = new Map(periods.map((period) => [entity.calendar.idOf(period), period.key]));
  return rows.map(({ keys: [account, period], lines, amount, first, last }) => ({
    check: 'date_outside',
    key: `date_outside|${nameOf(account!)}|${keyOf.get(period!)}|${lines}`,
    account: nameOf(account!),
    amount,
    expected: null,
    effect: null,
    from: keyOf.get(period!)!,
    to: keyOf.get(period!)!,
    text: first === last ? first : `${first}/${last}`,
    dimension: null,
    count: lines,
  }));
}
