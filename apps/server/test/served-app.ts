import type { FastifyInstance } from 'fastify';
import { buildApp, type AppOptions } from '../src/app';
import { asking } from './asking';
import { workspaceOf, type PackageFiles } from './tiny-package';

/** An application for each test, on a small workspace of its own, with what asks its API. */
export function servedApp() {
  const served = {} as { app: FastifyInstance; databaseFile: string };
  beforeEach(async () => {
    served.databaseFile = await workspaceOf();
    served.app = await buildApp({ databaseFile: served.databaseFile, webRoot: '/nonexistent' });
  });
  afterEach(() => served.app.close());
  return { served, ask: asking(() => served.app) };
}

/** An application on the package that a test brings in, with what asks its API. */
export function servedPackage() {
  const served = {} as { app: FastifyInstance; databaseFile: string };
  const serve = async (files: PackageFiles, options: Partial<AppOptions> = {}): Promise<void> => {
    served.databaseFile = await workspaceOf(files);
    served.app = await buildApp({ databaseFile: served.databaseFile, webRoot: '/nonexistent', ...options });
  };
  afterEach(() => served.app.close());
  return { served, ask: asking(() => served.app), serve };
}
