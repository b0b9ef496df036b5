import fp from 'fastify-plugin';
import type { FastifyError, FastifyReply, FastifyRequest } from 'fastify';
import type { ErrorReply } from '@margin-lens/contract';
import { CoreError, describeIssue, type IssueCode } from '@margin-lens/core';
import { AppError, appError } from '../base/app-error';
import { toNobody } from '../base/gone-signal';
import { isStopped } from '../base/stop';
import { databaseError } from '../store/database-error';
import { fileWords } from '../base/words';

/** Codes of the engine that tell of a fault of ours, where the others tell of the user's data. */
const MISUSE: ReadonlySet<IssueCode> = new Set(['CORE_ALLOCATE_NO_WEIGHT']);

const replyOf = (error: AppError): ErrorReply => ({
  code: error.code,
  message: error.message,
  hint: error.hint,
  details: [...error.details],
});

/** Errors of the framework that a person can cause, in our words. */
function translated(error: FastifyError): AppError | undefined {
  if (error.code === 'FST_REQ_FILE_TOO_LARGE' || error.statusCode === 413) {
    return appError('SRV_UPLOAD_TOO_LARGE', { limit: fileWords.upload });
  }
  // the parser of uploads has no codes for what it cannot read
  if (/^(Multipart: |Unexpected end of (form|multipart)|Malformed )/.test(error.message))
    return appError('SRV_UPLOAD_BROKEN', { problem: error.message });
  if (error.statusCode && error.statusCode < 500) return appError('SRV_REQUEST_INVALID', { problem: error.message });
  return undefined;
}

/** What a stream ends with whose reader goes away. */
const LEFT_EARLY = 'ERR_STREAM_PREMATURE_CLOSE';

/** One place that turns errors into replies; a stack goes to the log and never to the person. */
export const errorReply = fp(async (app) => {
  app.setErrorHandler((error: FastifyError, request: FastifyRequest, reply: FastifyReply) => {
    if (reply.raw.destroyed && (isStopped(error) || error.code === LEFT_EARLY)) return toNobody(reply);
    if (error instanceof CoreError && !MISUSE.has(error.code)) {
      const { message, hint } = describeIssue(error);
      const answer: ErrorReply = { code: error.code, message, hint, details: [] };
      return reply.code(422).send(answer);
    }
    const known = error instanceof AppError ? error : (translated(error) ?? databaseError(error));
    if (!known || known.status >= 500) request.log.error(error);
    const shown = known ?? appError('SRV_INTERNAL');
    return reply.code(shown.status).type('application/json').serializer(JSON.stringify).send(replyOf(shown));
  });
});
