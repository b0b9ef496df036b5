import type { MikroORM } from '@mikro-orm/better-sqlite';
import { appError } from '../../base/app-error';
import { ReadingThread } from '../../store/reading-thread';
import { SearchIndex } from '../../store/search-index';
import { currentRevision, loadWorkspace, type WorkspaceModel } from './workspace-model';

/** Keeps the workspace of the current revision in memory; a newer revision in the database replaces it. */
export class WorkspaceCache {
  private model: Promise<WorkspaceModel> | undefined;
  private revision = -1;
  private isIndexed = false;

  /** For queries that read many rows. */
  readonly reading: ReadingThread;
  readonly search: SearchIndex;

  constructor(private readonly orm: MikroORM) {
    const file = String(orm.config.get('dbName'));
    this.reading = new ReadingThread(file);
    this.search = new SearchIndex(file, this.reading);
  }

  em() {
    return this.orm.em.fork() as ReturnType<MikroORM['em']['fork']>;
  }

  /** Keeps the index of words behind each new revision; one process a workspace does so. */
  keepIndexed(): void {
    this.isIndexed = true;
  }

  async close(): Promise<void> {
    await Promise.all([this.search.close(), this.reading.close()]);
  }

  /** The workspace as it is now, also when it is empty. */
  async current(): Promise<WorkspaceModel> {
    const now = await currentRevision(this.em());
    if (!this.model || now !== this.revision) {
      this.revision = now;
      this.model = loadWorkspace(this.em());
      this.model.catch(() => (this.model = undefined));
      if (this.isIndexed) this.search.catchUp().catch(console.error);
    }
    return this.model;
  }

  /** @throws SRV_WORKSPACE_EMPTY when nothing was brought in yet */
  async books(): Promise<WorkspaceModel> {
    const model = await this.current();
    if (model.entities.length === 0) throw appError('SRV_WORKSPACE_EMPTY');
    return model;
  }
}
