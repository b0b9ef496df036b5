import { randomUUID } from 'node:crypto';
import type { EntityManager } from '@mikro-orm/better-sqlite';
import {
  todaysRemark,
  type LiveRemark,
  type RemarksQuery,
  type RemarksView,
  type RemarkText,
  type RemarkView,
} from '@margin-lens/contract';
import { periodName, shiftMonths } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { requireEntity, type Viewer } from '../../base/viewer';
import { bringBackDocument, currentDocuments, endDocument, firstRevisions, storeDocument } from '../../store/documents';
import { Names, whoAndWhen } from '../../store/people';
import type { RevisionKind } from '../../store/revision';
import { StoredDocument } from '../../store/tables';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';
import type { Workspace, WorkspaceWrite } from '../workspace/workspace';
import { QuoteReader } from './quote-reader';
import { NOT_PERMITTED } from '../../base/words';

/** Kind of the documents that remarks are kept as, so that every state of them stays. */
export const REMARK = 'remark';

/** A remark as it is kept; one that a package brought says itself who wrote it, by id, and when. */
type StoredRemark = RemarkText & Partial<Pick<RemarkView, 'author' | 'writtenAt'>>;

/** The remarks of a statement, entity and month, with the figures that they quote as they are now. */
export async function remarksView(snapshot: Snapshot, { scope, as_at, statement }: RemarksQuery): Promise<RemarksView> {
  const { filled: model, viewer, em } = snapshot;
  const statements = model.pages.map(({ id }) => id);
  if (!statements.includes(statement))
    throw appError('SRV_STATEMENT_UNKNOWN', { id: statement, known: statements.join(', ') });
  const entity = openScope(model, viewer, scope);
  const at = openPeriod(entity, as_at);
  const before = shiftMonths(entity.calendar.calendar, at, 1);
  const all = (await remarks(em)).filter((remark) => remark.scope === entity.code && remark.statement === statement);
  const written = all.filter(({ period }) => period === at.key);
  const carried = new Set(written.map(({ carries }) => carries));
  const proposals = all.filter(({ period, id }) => period === before?.key && !carried.has(id));
  const quotes = new QuoteReader(snapshot, entity, at);
  const live = (remarks: RemarkView[]): Promise<LiveRemark[]> =>
    Promise.all(remarks.map(async (remark) => asSeen(remark, await quotes.figures(remark))));
  return { remarks: await live(written), proposals: await live(proposals), before: before ? periodName(before) : '' };
}

/** A remark with its figures as they are now; what may not be seen now is not told as it was then. */
const asSeen = (remark: RemarkView, live: LiveRemark['live']): LiveRemark => ({
  ...remark,
  quotes: remark.quotes.map((quote, at) =>
    live[at]?.reason === 'not_permitted' ? { ...quote, amount: null, shown: NOT_PERMITTED } : quote,
  ),
  live,
});

/** Written explanations of figures: of a month and entity, on a page, a row or a cell. */
export class RemarksService {
  constructor(private readonly workspace: Workspace) {}

  /** @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN */
  write(viewer: Viewer, remark: RemarkText): Promise<RemarkView> {
    const id = `${REMARK}_${randomUUID()}`;
    return this.act(viewer, 'write_remark', id, (write) => put(write, id, remark));
  }

  /** @throws SRV_REMARK_UNKNOWN */
  change(viewer: Viewer, id: string, remark: RemarkText): Promise<RemarkView> {
    return this.act(viewer, 'change_remark', id, async (write) => {
      const { scope } = await findRemark(write.em, id);
      requireEntity(viewer, scope); // the one it was written for, not only the one it is to be of
      const stored = JSON.parse((await storedRemark(write.em, id)).body) as StoredRemark;
      const { author, writtenAt } = stored;
      return put(write, id, { ...remark, ...(author !== undefined && { author }), ...(writtenAt && { writtenAt }) });
    });
  }

  /** Takes a remark out; its states stay in the history. */
  remove(viewer: Viewer, id: string): Promise<void> {
    return this.act(viewer, 'take_out_remark', id, async (write) => {
      const { scope } = await findRemark(write.em, id);
      requireEntity(viewer, scope);
      await endDocument(write, REMARK, id);
    });
  }

  /**
   * Brings a remark back that was taken out, with who wrote it and when.
   * @throws SRV_REMARK_UNKNOWN where there is none, or it was not taken out
   */
  bringBack(viewer: Viewer, id: string): Promise<void> {
    return this.act(viewer, 'bring_back_remark', id, async (write) => {
      if (!(await bringBackDocument(write, REMARK, id))) throw appError('SRV_REMARK_UNKNOWN', {});
      await write.em.flush();
      requireEntity(viewer, (await findRemark(write.em, id)).scope);
    });
  }

  private act<T>(viewer: Viewer, kind: RevisionKind, id: string, work: (write: WorkspaceWrite) => Promise<T>) {
    return this.workspace.write(viewer, { kind, subject: id }, work);
  }
}

async function put(write: WorkspaceWrite, id: string, remark: StoredRemark): Promise<RemarkView> {
  const { filled: model, viewer } = write.snapshot;
  const entity = openScope(model, viewer, remark.scope);
  openPeriod(entity, remark.period);
  await storeDocument(write, REMARK, id, remark);
  await write.em.flush();
  return findRemark(write.em, id);
}

const storedRemark = (em: EntityManager, id: string): Promise<StoredDocument> =>
  em.findOneOrFail(StoredDocument, { kind: REMARK, id, until: null });

async function findRemark(em: EntityManager, id: string): Promise<RemarkView> {
  const [found] = await remarks(em, id);
  if (!found) throw appError('SRV_REMARK_UNKNOWN', {});
  return found;
}

/** All remarks, or the one with an id, with who wrote them first and who changed them last. */
export async function remarks(em: EntityManager, only?: string): Promise<RemarkView[]> {
  const rows = (await currentDocuments(em, [REMARK])).filter(({ id }) => only === undefined || id === only);
  const firsts = await firstRevisions(em, REMARK, only);
  const whoOf = await whoAndWhen(em, [...firsts.values(), ...rows.map(({ since }) => since)]);
  const names = await Names.read(em);
  return rows.map(({ id, body, since }) => {
    const { author, writtenAt, ...text } = JSON.parse(body) as StoredRemark;
    const [first, last] = [whoOf(firsts.get(id)!), whoOf(since)];
    return {
      id,
      ...todaysRemark(text),
      author: author === undefined ? first.person : names.of(author),
      writtenAt: writtenAt ?? first.at,
      changedBy: last.person,
      changedAt: last.at,
    };
  });
}
