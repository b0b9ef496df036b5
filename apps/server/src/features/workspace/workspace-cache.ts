import type { MikroORM } from '@mikro-orm/better-sqlite';
import { appError } from '../../app-error';
import { currentRevision, loadWorkspace, type WorkspaceModel } from './workspace-model';

/** Keeps the workspace of the current revision in memory; a newer revision in the database replaces it. */
export class WorkspaceCache {
  private model: Promise<WorkspaceModel> | undefined;
  private revision = -1;

  constructor(private readonly orm: MikroORM) {}

  em() {
    return this.orm.em.fork() as ReturnType<MikroORM['em']['fork']>;
  }

  /** The workspace as it is now, also when it is empty. */
  async current(): Promise<WorkspaceModel> {
    const now = await currentRevision(this.em());
    if (!this.model || now !== this.revision) {
      this.revision = now;
      this.model = loadWorkspace(this.em());
      this.model.catch(() => (this.model = undefined));
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
