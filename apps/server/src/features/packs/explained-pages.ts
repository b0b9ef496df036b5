import type { EvidenceQuery, ExceptionsQuery, ExceptionsView } from '@margin-lens/contract';
import {
  balanceBlocks,
  digitsOf,
  exceptionBlocks,
  explainedBlocks,
  formatFigure,
  moneyWords,
  type ExplainedRow,
  type PageBlock,
  type ShownUnit,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { packWords } from '../../base/words';
import { evidenceView } from '../evidence/evidence-view';
import { exceptionsView } from '../exceptions/exceptions-view';
import { explanationsView } from '../exceptions/explanations-view';
import { remarksView } from '../remarks/remarks-service';
import { remarkOnPaper } from '../statement-file/statement-paper';
import type { Snapshot } from '../workspace/snapshot';
import type { Content } from './page-content';

/** Variances beyond the limits, with what was remarked on them. */
export async function exceptionsContent(snapshot: Snapshot, asked: ExceptionsQuery, unit: ShownUnit): Promise<Content> {
  const { scope, as_at } = asked;
  const view = await exceptionsView(snapshot, asked);
  const { remarks, proposals } = await remarksView(snapshot, { scope, as_at, statement: asked.statement });
  const explained = (row: (typeof view.exceptions)[number]): ExplainedRow => ({
    ...row,
    remarks: remarks.filter((remark) => remark.row === row.id).map((remark) => remarkOnPaper(remark, unit)),
  });
  const rows = view.exceptions.map(explained);
  const unexplained = rows.filter((row) => row.remarks.length === 0);
  const proposed = unexplained.filter(({ id }) => proposals.some(({ row }) => row === id)).length;
  const title = packWords.exceptions(view.statement.name);
  if (!view.range) return nothingYet(title, view, unit);
  const blocks = exceptionBlocks(
    {
      ...{ of: view.of.name, against: view.against?.name ?? '', span: spanWords(view.range, view), rows },
      result: view.result ? explained(view.result) : undefined,
    },
    unit,
  );
  return {
    ...{ title, blocks, unit },
    subtitle: [view.scope.name, moneyWords(view.scope.currency, unit), view.asAt.name].join(' · '),
    open: [
      ...(unexplained.length > 0 ? [packWords.toExplain(unexplained.length)] : []),
      ...(proposed > 0 ? [packWords.proposedRemarks(proposed)] : []),
    ],
    versions: view.against ? [view.against.code] : [],
  };
}

/** Over what both sides were compared, in words. */
const spanWords = (
  { span, upTo }: NonNullable<ExceptionsView['range']>,
  { asAt }: Pick<ExceptionsView, 'asAt'>,
): string => (upTo.key === asAt.key ? packWords.span[span] : packWords.upTo(upTo.name));

/** A page of a month of which nothing is there yet. */
const nothingYet = (
  title: string,
  { scope, asAt }: Pick<ExceptionsView, 'scope' | 'asAt'>,
  unit: ShownUnit,
): Content => ({
  ...{ title, unit, subtitle: [scope.name, moneyWords(scope.currency, unit), asAt.name].join(' · ') },
  blocks: [{ kind: 'paragraph', runs: [{ text: packWords.nothingYet(asAt.name) }] }],
});

/** A result without what does not come again, and its variance by what remarks say of it. @throws SRV_RESULT_MISSING */
export async function underlyingContent(
  snapshot: Snapshot,
  asked: ExceptionsQuery,
  unit: ShownUnit,
  statement: string,
): Promise<Content> {
  const view = await explanationsView(snapshot, asked);
  const { unit: money } = view;
  if (!view.range) return nothingYet(packWords.underlying(statement), view, unit);
  const span = spanWords(view.range, view);
  if (!money) throw appError('SRV_RESULT_MISSING', { name: statement });
  const amount = (minor: number) => formatFigure({ amount: minor, unit: money }, unit, { zero: 'zero' });
  const late = view.due.filter(({ returns }) => returns!.state !== 'returned').length;
  const parts = view.against
    ? [
        ...view.parts.map(({ kind, amount: part }) => ({ id: kind, label: packWords.explained[kind], amount: part })),
        { id: 'rest', label: packWords.explained.rest, amount: view.rest },
      ]
    : [];
  const blocks = explainedBlocks(
    {
      ...{ unit: money, result: view.result, span, variance: view.variance, parts },
      ...{ reported: view.reported, terms: view.terms, underlying: view.underlying },
      timing: view.due.map((each) => packWords.timing(each, amount)),
    },
    unit,
  );
  return {
    ...{ title: packWords.underlying(view.result), blocks, unit },
    subtitle: [view.scope.name, moneyWords(view.scope.currency, unit), view.asAt.name, span].join(' · '),
    open: late > 0 ? [packWords.late(late)] : [],
    versions: view.against ? [view.against.code] : [],
  };
}

/** Balances held against evidence: all of them, or those that are open or differ; of a group how far its entities are. */
export async function balancesContent(
  snapshot: Snapshot,
  asked: EvidenceQuery,
  unit: ShownUnit,
  only: 'open' | undefined,
): Promise<Content> {
  const view = await evidenceView(snapshot, asked);
  const open = view.entities.reduce((sum, each) => sum + each.open, 0);
  const shown = view.rows.filter((row) => only === undefined || row.isOpen || row.state === 'accepted');
  const blocks = view.scope.isGroup
    ? view.entities.map(({ name, ...sums }): PageBlock => ({
        kind: 'paragraph',
        runs: [{ text: `${name}: `, isStrong: true }, { text: packWords.settled(sums) }],
      }))
    : balanceBlocks(
        {
          unit: { kind: 'currency', code: view.scope.currency, digits: digitsOf(view.scope.currency) },
          rows: shown.map((row) => ({
            ...{ id: row.account, label: `${row.account} ${row.name}`, balance: row.balance },
            ...{ evidence: row.evidence?.amount ?? null, difference: row.difference, says: packWords.balance(row) },
          })),
        },
        unit,
      );
  return {
    ...{ title: packWords.kind.balances, blocks, unit },
    subtitle: [
      view.scope.name,
      ...(view.scope.isGroup ? [] : [moneyWords(view.scope.currency, unit)]),
      view.asAt.name,
    ].join(' · '),
    open: open > 0 ? [packWords.openBalances(open)] : [],
  };
}
