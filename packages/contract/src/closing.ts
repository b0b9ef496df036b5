import * as v from 'valibot';
import { ClosingListSchema, ClosingTaskSchema } from '@margin-lens/core';

export const ISSUE_CHECKS = [
  ...(['delivered', 'books', 'tie_outs', 'rates', 'pairs', 'group', 'evidence', 'versions', 'exceptions'] as const),
  ...(['pages', 'tasks', 'closed'] as const),
] as const;

/** What has to be so before figures are issued. */
export const IssueCheckSchema = v.object({
  check: v.picklist(ISSUE_CHECKS),
  /** What is to be so, in words. */
  name: v.string(),
  isDone: v.boolean(),
  /** Where it stands, a line each. */
  says: v.array(v.string()),
  /** Where it is mended, as an address of the application; empty where on the page itself. */
  path: v.string(),
  /** Id of the page of a pack that it is of; empty where it is of none. */
  page: v.string(),
  /** Who looks after it; empty where nobody is named. */
  owner: v.string(),
});
export type IssueCheck = v.InferOutput<typeof IssueCheckSchema>;

export const ClosingQuerySchema = v.object({ scope: v.string(), as_at: v.string() });
export type ClosingQuery = v.InferOutput<typeof ClosingQuerySchema>;

/** What has to be done for a month, and what of it was. */
export const ClosingSchema = v.object({
  scope: v.object({ code: v.string(), name: v.string(), isGroup: v.boolean() }),
  asAt: v.object({ key: v.string(), name: v.string() }),
  revision: v.number(),
  /** Tasks of the scope; of a group its own and those of its entities. By the day on which they are due. */
  tasks: v.array(
    v.object({
      ...ClosingTaskSchema.entries,
      /** Of which entity or group it is in this line, and the period of its own calendar. */
      of: v.object({ code: v.string(), name: v.string(), period: v.string() }),
      /** Day by whose end it is to be done, as an ISO day. */
      due: v.string(),
      isLate: v.boolean(),
      /** By whom and when it was done; null while it is not. */
      done: v.nullable(v.object({ person: v.string(), at: v.string() })),
    }),
  ),
  /** The checklist itself, with tasks of other entities too. */
  list: ClosingListSchema,
});
export type ClosingView = v.InferOutput<typeof ClosingSchema>;

/** Whether a month can be issued, for a scope. */
export const IssueChecksSchema = v.object({ checks: v.array(IssueCheckSchema) });
export type IssueChecksView = v.InferOutput<typeof IssueChecksSchema>;

/** The checklist as it is to be, held against the revision that it was read at. */
export const SaveClosingListSchema = v.strictObject({ base: v.number(), list: ClosingListSchema });
export type SaveClosingList = v.InferOutput<typeof SaveClosingListSchema>;

export const TickSchema = v.strictObject({
  scope: v.string(),
  /** Key of the period. */
  period: v.string(),
  task: v.string(),
  isDone: v.boolean(),
});
export type Tick = v.InferOutput<typeof TickSchema>;
