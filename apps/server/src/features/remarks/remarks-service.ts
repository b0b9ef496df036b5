import { randomUUID } from 'node:crypto';
import {
  todaysRemark,
  type LiveRemark,
  type RemarksQuery,
  type RemarksView,
  type RemarkText,
  type RemarkView,
} from '@margin-lens/contract';
import { shiftMonths } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { newRevision } from '../../store/new-revision';
import { requireEntity, requireRight, type Viewer } from '../../base/viewer';
import { storeDocument } from '../../store/document-store';
import { openConnection } from '../../store/open-connection';
import { QuoteReader } from './quote-reader';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { StatementsService } from '../statements/statements-service';
import type { WorkspaceCache } from '../workspace/workspace-cache';

/** Kind of the documents that remarks are kept as, so that every state of them stays. */
const REMARK = 'remark';

interface StoredRemark {
  id: string;
  body: string;
  author: string;
  writtenAt: string;
  changedBy: string;
  changedAt: string;
}

/** Written explanations of figures: of a month and entity, on a page, a row or a cell. */
export class RemarksService {
  constructor(
    private readonly workspace: WorkspaceCache,
    private readonly statements: StatementsService,
    private readonly databaseFile: string,
  ) {}

  /** @throws SRV_SCOPE_UNKNOWN, SRV_PERIOD_UNKNOWN, SRV_STATEMENT_UNKNOWN */
  async list(viewer: Viewer, { scope, as_at, statement }: RemarksQuery): Promise<RemarksView> {
    const model = await this.workspace.books();
    const statements = model.documentsOf('statement').map(({ id }) => id);
    if (!statements.includes(statement))
      throw appError('SRV_STATEMENT_UNKNOWN', { id: statement, known: statements.join(', ') });
    const entity = openScope(model, viewer, scope);
    const at = openPeriod(entity, as_at);
    const before = shiftMonths(entity.calendar.calendar, at, 1);
    const all = (await this.all()).filter((remark) => remark.scope === entity.code && remark.statement === statement);
    const remarks = all.filter(({ period }) => period === at.key);
    const carried = new Set(remarks.map(({ carries }) => carries));
    const proposals = all.filter(({ period, id }) => period === before?.key && !carried.has(id));
    const quotes = new QuoteReader(this.statements, viewer, model, entity, at);
    const live = (found: readonly RemarkView[]): Promise<LiveRemark[]> =>
      Promise.all(found.map(async (remark) => ({ ...remark, live: await quotes.figures(remark) })));
    return { remarks: await live(remarks), proposals: await live(proposals) };
  }

  /** @throws SRV_RIGHT_MISSING, SRV_SCOPE_NOT_PERMITTED */
  async write(viewer: Viewer, remark: RemarkText): Promise<RemarkView> {
    return this.put(viewer, `${REMARK}_${randomUUID()}`, remark, 'remark');
  }

  /** @throws SRV_REMARK_UNKNOWN */
  async change(viewer: Viewer, id: string, remark: RemarkText): Promise<RemarkView> {
    const { author, writtenAt, scope } = await this.find(id);
    requireEntity(viewer, scope); // the one it was written for, not only the one it is to be of
    return this.put(viewer, id, { ...remark, author, writtenAt }, 'change a remark');
  }

  /** Takes a remark out; its states stay in the history. */
  async remove(viewer: Viewer, id: string): Promise<void> {
    const { scope } = await this.find(id);
    requireRight(viewer, 'remark');
    requireEntity(viewer, scope);
    this.transaction(viewer, 'take out a remark', (db, revision) =>
      db.prepare('update document set until = ? where kind = ? and id = ? and until is null').run(revision, REMARK, id),
    );
  }

  private async put(
    viewer: Viewer,
    id: string,
    remark: RemarkText & Partial<Pick<RemarkView, 'author' | 'writtenAt'>>,
    action: string,
  ): Promise<RemarkView> {
    requireRight(viewer, 'remark');
    const model = await this.workspace.books();
    const entity = openScope(model, viewer, remark.scope);
    openPeriod(entity, remark.period);
    this.transaction(viewer, action, (db, revision) => storeDocument(db, REMARK, id, remark, revision));
    return this.find(id);
  }

  private transaction(
    viewer: Viewer,
    action: string,
    work: (db: ReturnType<typeof openConnection>, revision: number) => unknown,
  ): void {
    const db = openConnection(this.databaseFile);
    try {
      db.transaction(() => work(db, newRevision(db, viewer.name, action))).immediate();
    } finally {
      db.close();
    }
  }

  private async find(id: string): Promise<RemarkView> {
    const found = (await this.all()).find((remark) => remark.id === id);
    if (!found) throw appError('SRV_REMARK_UNKNOWN', {});
    return found;
  }

  private async all(): Promise<RemarkView[]> {
    const rows = await this.workspace
      .em()
      .getConnection()
      .execute<StoredRemark[]>(
        `select d.id, d.body, c.person as changedBy, c.at as changedAt, w.person as author, w.at as writtenAt
       from document d join workspace_revision c on c.id = d.since
       join workspace_revision w on w.id = (select min(since) from document f where f.kind = d.kind and f.id = d.id)
       where d.kind = '${REMARK}' and d.until is null order by d.row_id`,
      );
    // one that a package brought says itself who wrote it
    return rows.map(({ body, ...rest }) => ({ ...rest, ...todaysRemark(JSON.parse(body) as RemarkText) }));
  }
}
