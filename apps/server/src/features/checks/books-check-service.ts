import type { BooksCheckQuery, BooksCheckView, BooksFindingView, Seen } from '@margin-lens/contract';
import { checkBalances, periodName, seenId, sumMovements, type BooksFinding, type SeenMark } from '@margin-lens/core';
import { newRevision } from '../../store/new-revision';
import { requireEntity, type Viewer } from '../../base/viewer';
import { storeDocument } from '../../store/document-store';
import { openConnection } from '../../store/open-connection';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { WorkspaceCache } from '../workspace/workspace-cache';
import { dateOutside, dimensionMissing, incomeTwice } from './check-lines';

/** Share of the year's income so far from which an amount is worth a word. */
const LIMIT_OF_INCOME = 0.002;

/** Whether the books of an entity are fit to report on, and what a person has said about it. */
export class BooksCheckService {
  constructor(
    private readonly workspace: WorkspaceCache,
    private readonly databaseFile: string,
  ) {}

  /** @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN */
  async view(viewer: Viewer, query: BooksCheckQuery): Promise<BooksCheckView> {
    const model = await this.workspace.books();
    const entity = openScope(model, viewer, query.scope);
    const { calendar } = entity.calendar;
    const at = openPeriod(entity, query.as_at);
    const { reading } = this.workspace;
    const slice = await model.slice(this.workspace.em(), entity);
    const periods = calendar.periods.filter((p) => p.fiscalYear === at.fiscalYear && p.ordinal <= at.ordinal);
    const income = model.accounts.reduce(
      (sum, { nature }, index) =>
        nature === 'income' ? sum - sumMovements(slice, index, periods[0]!.ordinal, at.ordinal) : sum,
      0,
    );
    const limit = Math.max(1, Math.round(LIMIT_OF_INCOME * Math.abs(income)));
    const span = { model, entity, periods };
    const findings: BooksFinding[] = [
      ...checkBalances(slice, at, limit),
      ...(await incomeTwice(reading, span, limit)),
      ...(await dimensionMissing(reading, span)),
      ...(await dateOutside(reading, span)),
    ];
    const seen = await this.seenOf(entity.code);
    const nameOf = new Map(model.accounts.map(({ number, name }) => [number, name]));
    const weight = ({ effect, amount }: BooksFinding) => Math.abs(effect ?? 0) * 1e6 + Math.abs(amount);
    return {
      scope: { code: entity.code, name: entity.name, currency: entity.currency.code },
      asAt: { key: at.key, name: periodName(at) },
      limit,
      findings: findings
        .sort((a, b) => weight(b) - weight(a))
        .map((finding) => ({
          ...finding,
          accountName: nameOf.get(finding.account) ?? '',
          seen: seen.get(finding.key) ?? null,
        })),
    };
  }

  /** Marks a finding as seen, with the reason, the person and the time; an empty reason takes the mark off. */
  mark(viewer: Viewer, { scope, key, reason }: Seen): void {
    requireEntity(viewer, scope);
    const db = openConnection(this.databaseFile);
    try {
      db.transaction(() => {
        const at = new Date().toISOString();
        const action = reason === '' ? 'books check: not seen' : 'books check: seen';
        const revision = newRevision(db, viewer.name, action);
        storeDocument(db, 'seen', seenId({ scope, key }), { scope, key, reason, person: viewer.name, at }, revision);
      }).immediate();
    } finally {
      db.close();
    }
  }

  private async seenOf(scope: string): Promise<Map<string, NonNullable<BooksFindingView['seen']>>> {
    const rows = await this.workspace
      .em()
      .getConnection()
      .execute<{ id: string; body: string }[]>(
        `select id, body from document where kind = 'seen' and until is null and id like ? escape '\\'`,
        [`${scope.replace(/[\\%_]/g, (sign) => `\\${sign}`)}|%`],
      );
    return new Map(
      rows.flatMap(({ id, body }) => {
        const { reason, person, at } = JSON.parse(body) as SeenMark;
        return reason === '' ? [] : [[id.slice(scope.length + 1), { reason, person, at }] as const];
      }),
    );
  }
}
