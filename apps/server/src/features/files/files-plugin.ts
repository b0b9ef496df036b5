import { createHash } from 'node:crypto';
import type { FastifyInstance } from 'fastify';
import { AttachedFileSchema } from '@margin-lens/contract';
import { appError } from '../../base/app-error';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { FILE_AT_MOST, keepAttachment } from '../../store/attachments';
import type { Workspace } from '../workspace/workspace';

/** Files that show where figures come from. One is kept first, and seen once evidence or a journal names it. */
export const filesPlugin = (workspace: Workspace) => async (scope: FastifyInstance) => {
  scope.withTypeProvider<ValibotTypeProvider>().post(
    '/files',
    {
      config: { needs: 'remark', rateLimit: { max: 120, timeWindow: '1 minute' } },
      schema: {
        operationId: 'keepFile',
        consumes: ['multipart/form-data'],
        summary: 'Keeps a file, to be named by evidence or by a journal',
        response: { 200: AttachedFileSchema },
      },
    },
    async (request) => {
      const part = await request.file({ limits: { fileSize: FILE_AT_MOST }, throwFileSizeLimit: false });
      if (!part) throw appError('SRV_IMPORT_NO_FILES');
      const bytes = await part.toBuffer();
      const name = part.filename.replace(/[/\\]/g, ' ').slice(0, 200);
      if (part.file.truncated) throw appError('SRV_FILE_LARGE', { name, limit: FILE_AT_MOST / 1e6 });
      const sha256 = createHash('sha256').update(bytes).digest('hex');
      await workspace.write(request.viewer, { kind: 'attach_file', subject: name }, ({ em }) =>
        keepAttachment(em, sha256, bytes),
      );
      return { name, sha256, bytes: bytes.length };
    },
  );
};
