import type * as v from 'valibot';
import {
  FieldsSchema,
  FieldValuesSchema,
  StatementViewSchema,
  TraceViewSchema,
  WhySchema,
  type StatementContext,
  type TraceRequest,
} from '@margin-lens/contract';
import type { Snapshot } from '../workspace/snapshot';
import { fieldsView, fieldValuesView } from './fields-view';
import { openKept, traceStatement, viewOf } from './open-statement';
import { whyView } from './why-view';

/** An answer about a kept statement: how it goes out, and what makes it. */
interface StatementAnswer<S extends v.GenericSchema, Q> {
  schema: S;
  answer(snapshot: Snapshot, id: string, query: Q): Promise<v.InferInput<S>>;
}

const answering = <S extends v.GenericSchema, Q>(
  schema: S,
  answer: StatementAnswer<S, Q>['answer'],
): StatementAnswer<S, Q> => ({ schema, answer });

/** What is answered about the figures of a kept statement, by name. */
export const STATEMENT_ANSWERS = {
  view: answering(StatementViewSchema, async (snapshot, id, context: StatementContext) =>
    viewOf(await openKept(snapshot, id, context)),
  ),
  trace: answering(TraceViewSchema, (snapshot, id, { address, skip, ...context }: TraceRequest) =>
    traceStatement(snapshot, id, context, address, skip ?? 0),
  ),
  why: answering(WhySchema, whyView),
  fields: answering(FieldsSchema, fieldsView),
  values: answering(FieldValuesSchema, fieldValuesView),
};
