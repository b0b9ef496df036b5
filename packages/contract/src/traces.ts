import * as v from 'valibot';
import { ELIMINATION_KINDS, ELIMINATION_REASONS } from '@margin-lens/core';
import { FigureSchema } from './figures';
import { ContextSchema } from './statements';

export const TraceRequestSchema = v.object({
  ...ContextSchema.entries,
  address: v.string(),
  /** Journal lines passed over, for the next page of a long list. */
  skip: v.exactOptional(v.pipe(v.string(), v.regex(/^\d{1,9}$/), v.transform(Number))),
});
export type TraceRequest = v.InferOutput<typeof TraceRequestSchema>;

/** What stands at a place in the books; see `BookNode` in core. */
const BOOK_PLACES = [
  ...(['movement', 'opening_entries', 'flow', 'exchange_difference', 'entered', 'left'] as const),
  ...(['opening', 'closing', 'roll_over'] as const),
  ...(['reserve_net_assets', 'reserve_result', 'reserve_other', 'reserve_rounding'] as const),
] as const;

/** At what an amount was turned: a rate, quoted for the two currencies or through a third, or what it was worth then. */
const TurnedAtSchema = v.object({
  type: v.picklist(['average', 'closing', 'historical', 'share']),
  /** Units of `to` for one of `from`, or where `isInverse`, the other way round. */
  rate: v.exactOptional(
    v.object({
      rate: v.string(),
      isInverse: v.boolean(),
      then: v.exactOptional(v.object({ through: v.string(), rate: v.string(), isInverse: v.boolean() })),
    }),
  ),
  /** Percent of it that counts; absent where all does. */
  share: v.exactOptional(v.string()),
  /** Minor units of both currencies, debit positive. */
  stated: v.array(v.object({ date: v.string(), local: v.number(), amount: v.number() })),
});
export type TurnedAtView = v.InferOutput<typeof TurnedAtSchema>;

const TraceLabelSchema = v.variant('kind', [
  v.object({ kind: v.literal('cell'), row: v.string(), column: v.string(), block: v.string() }),
  v.object({ kind: v.literal('account'), number: v.string(), name: v.string() }),
  v.object({
    kind: v.literal('entity'),
    entity: v.string(),
    what: v.picklist(BOOK_PLACES),
    period: v.string(),
    number: v.string(),
    name: v.string(),
  }),
  /** The same in what consolidation does. */
  v.object({
    kind: v.literal('eliminations'),
    what: v.picklist(BOOK_PLACES),
    period: v.string(),
    number: v.string(),
    name: v.string(),
  }),
  /** A line of an elimination; names of the entities that it is of, empty where there is none. */
  v.object({
    kind: v.literal('elimination'),
    of: v.picklist(ELIMINATION_KINDS),
    reason: v.picklist(ELIMINATION_REASONS),
    rule: v.string(),
    text: v.string(),
    entity: v.string(),
    partner: v.string(),
    period: v.string(),
  }),
  v.object({
    kind: v.literal('period'),
    what: v.picklist(BOOK_PLACES),
    period: v.string(),
    number: v.string(),
    name: v.string(),
  }),
]);
export type TraceLabelView = v.InferOutput<typeof TraceLabelSchema>;

const PostingSchema = v.object({
  lineId: v.number(),
  journalId: v.number(),
  journal: v.string(),
  date: v.string(),
  description: v.string(),
  document: v.string(),
  /** As the entity's own books have it, where another account stands for it; empty else. */
  localAccount: v.string(),
  debit: v.number(),
  credit: v.number(),
  /** What the line adds to the figure above it, in the figure's sign. */
  amount: v.number(),
  /** Values that it was not posted with and is read with, and by what; in words. */
  completed: v.exactOptional(v.array(v.string())),
});
export type PostingView = v.InferOutput<typeof PostingSchema>;

/** One level of the Lens. */
export const TraceViewSchema = v.object({
  address: v.string(),
  label: TraceLabelSchema,
  figure: FigureSchema,
  operation: v.picklist([
    'sum',
    'difference',
    'percent_change',
    'quotient',
    'rank',
    'mean',
    'formula',
    'members',
    'eliminations',
    'elimination',
    'scaled',
    'at_difference',
    'rounding',
    'postings',
    'hidden',
    'undefined',
  ]),
  terms: v.array(
    v.object({ address: v.string(), label: TraceLabelSchema, sign: v.picklist([1, -1]), figure: FigureSchema }),
  ),
  omitted: v.number(),
  /** A formula as it is typed, with names. */
  formula: v.nullable(v.string()),
  sum: v.nullable(v.number()),
  /** At what an amount came into another currency, less at what; `rest` is what rounding gave, in minor units. */
  turned: v.nullable(
    v.object({
      from: v.string(),
      to: v.string(),
      at: TurnedAtSchema,
      less: v.nullable(TurnedAtSchema),
      rest: v.number(),
    }),
  ),
  postings: v.nullable(
    v.object({
      account: v.string(),
      period: v.string(),
      lines: v.array(PostingSchema),
      skipped: v.number(),
      count: v.number(),
      /** Sum of all lines, also those on other pages. */
      total: v.number(),
    }),
  ),
  /** Which journal lines a cell adds up, as the ledger lists them; null where it is more, or less, than that. */
  lines: v.nullable(
    v.object({
      scope: v.string(),
      account: v.string(),
      from: v.string(),
      to: v.string(),
      /** As the query of the ledger has it; empty for all values. */
      only: v.string(),
    }),
  ),
});
export type TraceView = v.InferOutput<typeof TraceViewSchema>;
