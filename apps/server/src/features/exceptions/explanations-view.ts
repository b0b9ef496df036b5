import type {
  ExceptionRowView,
  ExceptionsQuery,
  ExceptionsView,
  ExplainedView,
  ExplanationsView,
  RemarkView,
} from '@margin-lens/contract';
import {
  isInSpan,
  lastOfEach,
  periodName,
  returnOf,
  underlyingOf,
  varianceByKind,
  type FiscalPeriod,
} from '@margin-lens/core';
import { remarks } from '../remarks/remarks-service';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';
import { exceptionsView } from './exceptions-view';

type Explaining = RemarkView & { explains: NonNullable<RemarkView['explains']> };

/** Rows of an exceptions page, by their ids. */
const rowsOf = ({ result, exceptions, flat }: ExceptionsView): Map<string, ExceptionRowView> =>
  new Map([...(result ? [result] : []), ...exceptions, ...flat].map((row) => [row.id, row]));

/**
 * What remarks say of the variance of a result: by kind, what of it came back, and the result without what does not come
 * again.
 * @throws SRV_STATEMENT_UNKNOWN, SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN
 */
export async function explanationsView(snapshot: Snapshot, query: ExceptionsQuery): Promise<ExplanationsView> {
  const { filled: model, viewer } = snapshot;
  const scope = openScope(model, viewer, query.scope);
  const at = openPeriod(scope, query.as_at);
  const view = await exceptionsView(snapshot, query);
  const looker = new Looker(snapshot, query, scope.calendar.calendar.periods, at, view);
  const all = await looker.explaining();
  const inSpan = all.filter(({ explains }) => isInSpan(looker.period(explains.in)!, at, view.span));
  const explained: ExplainedView[] = [];
  for (const remark of inSpan) explained.push(await looker.told(remark));
  const due: ExplainedView[] = [];
  for (const remark of all) {
    const returns = looker.period(remark.explains.returns);
    if (!returns || returns.ordinal > at.ordinal) continue;
    const told = await looker.told(remark);
    if (returns.ordinal === at.ordinal || told.returns?.state !== 'returned') due.push(told);
  }
  const variance = view.result?.effect ?? 0;
  const oneOffs = explained.filter(({ kind }) => kind === 'one_off');
  const reported = view.result?.actual ?? 0;
  return {
    ...{ scope: view.scope, asAt: view.asAt, span: view.span, of: view.of, against: view.against },
    range: view.range,
    ...{ unit: view.result?.unit ?? null, result: view.result?.label ?? '' },
    ...{ variance, ...varianceByKind(variance, inSpan) },
    ...underlyingOf(
      reported,
      oneOffs.map(({ id, label, text, amount }) => ({ id, label: text || label, amount })),
    ),
    ...{ explained, due },
  };
}

/** Looks remarks that explain up, and what became of them. */
class Looker {
  private readonly months = new Map<string, Promise<Map<string, ExceptionRowView>>>();
  private readonly periods: ReadonlyMap<string, FiscalPeriod>;
  private readonly rows: ReadonlyMap<string, ExceptionRowView>;

  constructor(
    private readonly snapshot: Snapshot,
    private readonly query: ExceptionsQuery,
    periods: readonly FiscalPeriod[],
    private readonly at: FiscalPeriod,
    private readonly view: ExceptionsView,
  ) {
    this.periods = new Map(periods.map((period) => [period.key, period]));
    this.rows = rowsOf(view);
  }

  period(key: string): FiscalPeriod | undefined {
    return this.periods.get(key);
  }

  /** Remarks of months up to this one that explain, each matter once. */
  async explaining(): Promise<Explaining[]> {
    const { scope, statement } = this.query;
    const upTo = (await remarks(this.snapshot.em)).filter(
      (remark) =>
        remark.scope === scope &&
        remark.statement === statement &&
        (this.period(remark.period)?.ordinal ?? Infinity) <= this.at.ordinal,
    );
    return lastOfEach(upTo).filter(
      (remark): remark is Explaining => remark.explains !== undefined && this.period(remark.explains.in) !== undefined,
    );
  }

  async told({ id, row, text, explains }: Explaining): Promise<ExplainedView> {
    const { kind, amount } = explains;
    const returns = kind === 'timing' ? this.period(explains.returns) : undefined;
    const observed = returns && returns.ordinal <= this.at.ordinal ? await this.observed(row, returns) : null;
    const nameOf = (period: FiscalPeriod) => ({ key: period.key, name: periodName(period) });
    return {
      ...{ id, row, kind, amount, text: withoutQuotes(text), in: nameOf(this.period(explains.in)!) },
      label: this.rows.get(row)?.label ?? row,
      returns: returns
        ? { ...nameOf(returns), observed, state: returnOf(amount, observed, this.view.limits.amount) }
        : null,
    };
  }

  /** What the variance of a row in a month does to profit. */
  private async observed(row: string, month: FiscalPeriod): Promise<number> {
    const read =
      this.months.get(month.key) ??
      exceptionsView(this.snapshot, { ...this.query, as_at: month.key, span: 'period' }).then(rowsOf);
    this.months.set(month.key, read);
    return (await read).get(row)?.effect ?? 0;
  }
}

/** A remark in a few words: its figures stand beside it. */
const withoutQuotes = (text: string): string =>
  text
    .replace(/\s*\{\w+\}/g, '')
    .replace(/\s+/g, ' ')
    .trim()
    .replace(/[.:]$/, '');
