import zlib from 'node:zlib';
import compress from '@fastify/compress';
import helmet from '@fastify/helmet';
import multipart from '@fastify/multipart';
import rateLimit from '@fastify/rate-limit';
import Fastify, { type FastifyInstance, type RouteOptions } from 'fastify';
import * as v from 'valibot';
import { adjustmentsPlugin } from './features/adjustments/adjustments-plugin';
import { AdjustmentsService } from './features/adjustments/adjustments-service';
import { checksPlugin } from './features/checks/checks-plugin';
import { comparisonPlugin } from './features/comparison/comparison-plugin';
import { exportPlugin } from './features/export/export-plugin';
import { ImportJobs } from './features/deliveries/import-jobs';
import { deliveriesPlugin } from './features/deliveries/deliveries-plugin';
import { clearTemporaryFolders } from './base/temporary-folder';
import { allocationsPlugin } from './features/allocations/allocations-plugin';
import { completionsPlugin } from './features/completions/completions-plugin';
import { closingPlugin } from './features/closing/closing-plugin';
import { ClosingService } from './features/closing/closing-service';
import { filesPlugin } from './features/files/files-plugin';
import { cashBasisPlugin } from './features/cash-basis/cash-basis-plugin';
import { evidencePlugin } from './features/evidence/evidence-plugin';
import { EvidenceService } from './features/evidence/evidence-service';
import { KeptPages } from './features/packs/kept-pages';
import type { PagesKept } from './features/packs/pack-pages';
import { PackRuns } from './features/packs/pack-runs';
import { packRunsPlugin } from './features/packs/pack-runs-plugin';
import { packsPlugin } from './features/packs/packs-plugin';
import { layoutsPlugin } from './features/layouts/layouts-plugin';
import { LayoutsService } from './features/layouts/layouts-service';
import { groupsPlugin } from './features/groups/groups-plugin';
import { mappingPlugin } from './features/mapping/mapping-plugin';
import { ratesPlugin } from './features/rates/rates-plugin';
import { journalsPlugin } from './features/ledger/journals-plugin';
import { ledgerPlugin } from './features/ledger/ledger-plugin';
import { periodsPlugin } from './features/periods/periods-plugin';
import { setupPlugin } from './features/setup/setup-plugin';
import { statementFilePlugin } from './features/statement-file/statement-file-plugin';
import { statementsPlugin } from './features/statements/statements-plugin';
import { tieOutsPlugin } from './features/tie-outs/tie-outs-plugin';
import { LineSums } from './features/tie-outs/line-sums';
import { TieOutsService } from './features/tie-outs/tie-outs-service';
import { exceptionsPlugin } from './features/exceptions/exceptions-plugin';
import { remarksPlugin } from './features/remarks/remarks-plugin';
import { RemarksService } from './features/remarks/remarks-service';
import { FiguresService } from './features/versions/figures-service';
import { versionsPlugin } from './features/versions/versions-plugin';
import { VersionsService } from './features/versions/versions-service';
import { openDoor } from './features/workspace/door';
import { peoplePlugin } from './features/workspace/people-plugin';
import { shelfPlugin } from './features/workspace/shelf-plugin';
import { Workspace } from './features/workspace/workspace';
import { workspacePlugin } from './features/workspace/workspace-plugin';
import { describeInterface } from './plugins/describe-interface';
import { errorReply } from './plugins/error-reply';
import { Store } from './store/store';
import { LOOPBACK, ownHost } from './plugins/own-host';
import { builtWebRoot, serveWeb } from './plugins/serve-web';
import { serializerCompiler, validatorCompiler } from './plugins/valibot-fastify';

export interface AppOptions {
  /** Workspace file; made when it does not exist. */
  databaseFile: string;
  /** Folder of the built web application; without it only the interface is served. */
  webRoot?: string;
  /** Names and addresses that the server may be asked by, without port; those of this machine unless given. */
  hosts?: readonly string[];
  /** What every request must bring; needed where the server listens beyond this machine. */
  token?: string | undefined;
  /** Lines and figures of the workspace up to which even breakdowns are answered without a thread of their own. */
  answeredAtOnce?: number;
  /** Loads the balances when it listens, before anybody asks for a figure. */
  warm?: boolean;
  /** `requests` logs each of them; errors are always logged. */
  log?: 'errors' | 'requests';
  /** Told of every route as it is made. */
  onRoute?: (route: RouteOptions) => void;
}

/** Largest single file of a delivery over HTTP, bytes. It is streamed, so this bounds disk and not memory. */
const UPLOAD_LIMIT = 8 * 1024 ** 3;
const FILES_LIMIT = 500;

/** Answers from this size on go out compressed, bytes; quickly rather than as small as can be, since each is made anew. */
const COMPRESSED_FROM = 4_096;
const QUICKLY = {
  zlibOptions: { level: 1 },
  brotliOptions: { params: { [zlib.constants.BROTLI_PARAM_QUALITY]: 1 } },
};

const CONTENT_SECURITY = {
  useDefaults: false,
  directives: {
    defaultSrc: ["'self'"],
    baseUri: ["'self'"],
    objectSrc: ["'none'"],
    // the place that stands beside another is the application once more
    frameAncestors: ["'self'"],
    frameSrc: ["'self'"],
    formAction: ["'self'"],
    scriptSrc: ["'self'"],
    styleSrc: ["'self'"],
    styleSrcAttr: ["'unsafe-inline'"],
    imgSrc: ["'self'", 'data:', 'blob:'],
    fontSrc: ["'self'"],
    workerSrc: ["'self'"],
    connectSrc: ["'self'"],
  },
};

/** Builds the server without listening. */
export async function buildApp(options: AppOptions): Promise<FastifyInstance> {
  const app = Fastify({
    logger: { level: options.log === 'requests' ? 'info' : 'error' },
    bodyLimit: 5_000_000,
    // a name in a path may be long, and is looked up, never matched
    routerOptions: { maxParamLength: 500 },
  });
  if (options.onRoute) app.addHook('onRoute', options.onRoute);
  app.setValidatorCompiler(validatorCompiler);
  app.setSerializerCompiler(serializerCompiler);
  const workspace = new Workspace(await Store.open(options.databaseFile), options.answeredAtOnce);
  workspace.keepIndexed();
  const jobs = new ImportJobs(options.databaseFile);
  const packPages: PagesKept = new KeptPages();
  const packRuns = new PackRuns(workspace);
  app.addHook('onClose', async () => {
    await Promise.all([jobs.close(), packRuns.close()]);
    await workspace.close();
  });
  if (options.warm)
    app.addHook('onListen', () => void workspace.warm().catch((error: unknown) => app.log.error(error)));
  await clearTemporaryFolders();

  await app.register(errorReply);
  await app.register(ownHost, { hosts: options.hosts ?? LOOPBACK, token: options.token });
  await app.register(helmet, {
    enableCSPNonces: true,
    contentSecurityPolicy: CONTENT_SECURITY,
    strictTransportSecurity: false,
  });
  // who has gone away already has no address any more
  await app.register(rateLimit, { global: false, keyGenerator: ({ ip }: { ip?: string }) => ip ?? 'gone' });
  await app.register(compress, { threshold: COMPRESSED_FROM, ...QUICKLY });
  await app.register(multipart, { limits: { fileSize: UPLOAD_LIMIT, files: FILES_LIMIT } });
  await app.register(describeInterface);
  const { reading } = workspace;
  const tieOuts = new TieOutsService(new LineSums(reading, workspace.cubes));
  const proofs = { reading, tieOuts };
  const features = {
    workspace: workspacePlugin(),
    people: peoplePlugin(workspace),
    shelf: shelfPlugin(workspace),
    statements: statementsPlugin(workspace.figures),
    statementFiles: statementFilePlugin(workspace.figures),
    layouts: layoutsPlugin(new LayoutsService(workspace)),
    tieOuts: tieOutsPlugin(tieOuts),
    groups: groupsPlugin(workspace),
    mapping: mappingPlugin(),
    rates: ratesPlugin(),
    files: filesPlugin(workspace),
    journals: journalsPlugin(workspace),
    ledger: ledgerPlugin(workspace, options.databaseFile),
    allocations: allocationsPlugin,
    completions: completionsPlugin,
    packs: packsPlugin(workspace, proofs, packPages),
    packRuns: packRunsPlugin(packRuns),
    cashBasis: cashBasisPlugin(),
    evidence: evidencePlugin(new EvidenceService(workspace)),
    closing: closingPlugin(new ClosingService(workspace), proofs),
    adjustments: adjustmentsPlugin(new AdjustmentsService(workspace)),
    exceptions: exceptionsPlugin(),
    remarks: remarksPlugin(new RemarksService(workspace)),
    versions: versionsPlugin(new VersionsService(workspace), new FiguresService(workspace)),
    checks: checksPlugin(workspace),
    periods: periodsPlugin(workspace),
    setup: setupPlugin(workspace),
    comparison: comparisonPlugin(reading),
    packages: exportPlugin(options.databaseFile),
    deliveries: deliveriesPlugin(jobs, options.databaseFile),
  };
  const api = async (scope: FastifyInstance) => {
    openDoor(scope, workspace);
    scope.get(
      '/health',
      {
        config: { needs: 'nothing' },
        schema: {
          operationId: 'health',
          tags: ['server'],
          summary: 'Whether the server answers',
          response: { 200: v.object({ ok: v.boolean() }) },
        },
      },
      () => Promise.resolve({ ok: true }),
    );
    for (const [name, feature] of Object.entries(features)) await scope.register(named(name, tagged(name, feature)));
  };
  await app.register(named('api', api), { prefix: '/api/v1' });
  await serveWeb(app, options.webRoot ?? builtWebRoot());
  return app;
}

/** Names a plugin, as it stands in the tree of plugins; for one without a name the framework looks through all modules. */
const named = (name: string, plugin: (scope: FastifyInstance) => Promise<void>) =>
  Object.assign(plugin, { [Symbol.for('fastify.display-name')]: name });

/** Puts the routes of a feature under its name in the document of the interface. */
const tagged = (name: string, feature: (scope: FastifyInstance) => Promise<void>) => async (scope: FastifyInstance) => {
  scope.addHook('onRoute', (route) => {
    route.schema = { ...route.schema, tags: [name] };
  });
  await feature(scope);
};
