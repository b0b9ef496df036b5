import { NewAdjustmentSchema } from './adjustments';
import * as v from 'valibot';
import { ELIMINATION_KINDS, ELIMINATION_REASONS } from '@margin-lens/core';
import { FigureSchema, IssueSchema } from './figures';

/** Whose structure is asked for, and the month at whose end it stands. */
export const StructureQuerySchema = v.object({ as_at: v.string() });

const Percent = v.number();

export const HOLDING_METHODS = ['full', 'proportionate', 'equity'] as const;
const Day = v.pipe(v.string(), v.isoDate());
/** A share as it is kept: it holds from its day until the next of the same two entities; 0 percent ends it. */
export const ShareSchema = v.object({
  investor: v.pipe(v.string(), v.minLength(1)),
  investee: v.pipe(v.string(), v.minLength(1)),
  from: Day,
  percent: v.pipe(v.string(), v.regex(/^\d{1,3}(\.\d{1,8})?$/)),
  method: v.picklist(HOLDING_METHODS),
});
export type ShareView = v.InferOutput<typeof ShareSchema>;

/** A change of shares that is looked at before it is kept: shares to add or change, and those that go. */
export const StructureChangeSchema = v.object({
  as_at: v.string(),
  put: v.pipe(v.array(ShareSchema), v.maxLength(500)),
  remove: v.pipe(v.array(v.object({ investor: v.string(), investee: v.string(), from: v.string() })), v.maxLength(500)),
});
export type StructureChange = v.InferOutput<typeof StructureChangeSchema>;

/** What a change of shares would move; nothing is written. */
export const StructureEffectSchema = v.object({
  /** Why it cannot be kept; empty where it can. */
  issues: v.array(IssueSchema),
  entities: v.array(
    v.object({
      code: v.string(),
      name: v.string(),
      /** As one line: how it comes in and the owners' part in percent; null where it is no part. */
      before: v.nullable(v.object({ method: v.string(), effective: Percent })),
      after: v.nullable(v.object({ method: v.string(), effective: Percent })),
    }),
  ),
  /** Figures of the group before and after: minor units of its currency. */
  figures: v.array(
    v.object({ what: v.picklist(['result', 'assets', 'equity']), before: FigureSchema, after: FigureSchema }),
  ),
});
export type StructureEffect = v.InferOutput<typeof StructureEffectSchema>;

/** What was bought on a day, as it is kept. Amounts are decimals as text. */
const AcquisitionSchema = v.object({
  investor: v.string(),
  investee: v.string(),
  date: v.string(),
  /** In the currency of the investor. */
  consideration: v.string(),
  priorInterestFairValue: v.string(),
  nciMethod: v.string(),
  nciFairValue: v.string(),
  /** Balances that the books do not reach back to, and what items were worth beyond them; in the entity's currency. */
  items: v.array(
    v.object({
      kind: v.picklist(['book', 'fair_value']),
      item: v.string(),
      account: v.string(),
      localAmount: v.string(),
      expenseAccount: v.string(),
      lifeMonths: v.nullable(v.number()),
    }),
  ),
});
export type AcquisitionView = v.InferOutput<typeof AcquisitionSchema>;

/** A part that was sold on a day, as it is kept. Amounts in the currency of the investor, decimals as text. */
const DisposalSchema = v.object({
  investor: v.string(),
  investee: v.string(),
  date: v.string(),
  percentSold: v.string(),
  proceeds: v.string(),
  keptFairValue: v.string(),
});

/** A share with what it did to what was held before, and what was said of that. */
const ShareLineSchema = v.object({
  ...ShareSchema.entries,
  change: v.picklist(['bought', 'sold', 'other']),
  /** Percent held before. */
  before: Percent,
  /** Whether control is obtained, or lost, by it. */
  obtainsControl: v.boolean(),
  losesControl: v.boolean(),
  acquisition: v.nullable(AcquisitionSchema),
  disposal: v.nullable(DisposalSchema),
  /** What consolidation needs to know and is not said, in words. */
  lacks: v.array(v.string()),
});
export type ShareLineView = v.InferOutput<typeof ShareLineSchema>;

/** A group at the end of a period: what each entity is in it, and who holds it. The head comes first. */
export const StructureViewSchema = v.object({
  group: v.object({ code: v.string(), name: v.string(), currency: v.string() }),
  asAt: v.string(),
  /** The day at whose end it stands. */
  day: v.string(),
  entities: v.array(
    v.object({
      code: v.string(),
      name: v.string(),
      currency: v.string(),
      /** As recorded: the head, in full, in proportion, or as one line. */
      method: v.picklist(['top', 'full', 'proportionate', 'equity']),
      /** Those of the group that hold it themselves. */
      holders: v.array(v.object({ code: v.string(), name: v.string(), percent: Percent })),
      /** Part of the owners of the group, and of others, in percent; the product along paths, added over paths. */
      effective: Percent,
      others: Percent,
      /** What is held by those that the group controls, in percent. */
      votes: Percent,
      /** Groups of their own that it heads, other than this one. */
      heads: v.array(v.object({ code: v.string(), name: v.string() })),
      /** What the votes say against the recorded method; null where they agree. */
      question: v.nullable(v.string()),
    }),
  ),
  /** Entities that are part of it and may not be seen. */
  hidden: v.number(),
  /** All shares in entities that are or were part of it, by entity and day. */
  shares: v.array(ShareLineSchema),
  /** What is to be known: entities that nobody holds, and days on which nobody held one. */
  notes: v.array(v.string()),
});
export type StructureView = v.InferOutput<typeof StructureViewSchema>;

/** Whose eliminations are asked for, at the end of which period, in which currency. */
export const EliminationsQuerySchema = v.object({
  as_at: v.string(),
  currency: v.exactOptional(v.pipe(v.string(), v.regex(/^[A-Z]{3}$/))),
});
export type EliminationsQuery = v.InferOutput<typeof EliminationsQuerySchema>;

/**
 * What something comes to: minor units; the result and its part of others of the year to date, the rest at the end of it.
 * Null where it cannot be told.
 */
const GroupTotalsSchema = v.object({
  result: v.nullable(v.number()),
  resultOfOthers: v.nullable(v.number()),
  assets: v.nullable(v.number()),
  liabilities: v.nullable(v.number()),
  others: v.nullable(v.number()),
  owners: v.nullable(v.number()),
});
export type GroupTotalsView = v.InferOutput<typeof GroupTotalsSchema>;

/** The eliminations of a group, each with its lines and what it does. */
export const EliminationsViewSchema = v.object({
  scope: v.object({ code: v.string(), name: v.string(), currency: v.string(), digits: v.number() }),
  asAt: v.object({ key: v.string(), name: v.string() }),
  /** What the entities bring in, before eliminations. */
  before: GroupTotalsSchema,
  /** Why something of that cannot be told, in words; empty where all can. */
  untold: v.string(),
  journals: v.array(
    v.object({
      id: v.string(),
      kind: v.picklist(ELIMINATION_KINDS),
      /** Names of the entities that it is of. */
      of: v.array(v.string()),
      /** Name of the rule, or number of the journal by hand; empty else. */
      rule: v.string(),
      /** As a person gave it. */
      text: v.string(),
      does: GroupTotalsSchema,
      /** Why it cannot be told what it does, in words; empty where it can. */
      untold: v.string(),
      lines: v.array(
        v.object({
          account: v.object({ number: v.string(), name: v.string() }),
          entity: v.string(),
          partner: v.string(),
          reason: v.picklist(ELIMINATION_REASONS),
          /** Debit positive, minor units: of the year to date, and all of it that stands at the end. */
          movement: v.number(),
          closing: v.number(),
        }),
      ),
    }),
  ),
  /** Eliminations of entities that may not be seen. */
  hidden: v.number(),
  /** What is not eliminated since the chart lacks an account for it, in words. */
  gaps: v.array(v.string()),
});
export type EliminationsView = v.InferOutput<typeof EliminationsViewSchema>;

/** What two entities have with each other by a rule. Minor units of the scope, debit positive. */
export const PairsViewSchema = v.object({
  scope: v.object({ code: v.string(), name: v.string(), currency: v.string(), digits: v.number() }),
  asAt: v.object({ key: v.string(), name: v.string() }),
  pairs: v.array(
    v.object({
      id: v.string(),
      rule: v.string(),
      kind: v.picklist(['balances', 'income_expense', 'interest']),
      one: v.object({ code: v.string(), name: v.string() }),
      other: v.object({ code: v.string(), name: v.string() }),
      /** Null where it cannot be told. */
      own: v.nullable(v.number()),
      theirs: v.nullable(v.number()),
      difference: v.nullable(v.number()),
      /** Why it cannot be told, in words; empty where it can. */
      untold: v.string(),
      /** Of the difference: what was booked otherwise, and what the rates did; null without a rate. */
      booking: v.nullable(v.number()),
      rate: v.nullable(v.number()),
      /** What of the difference was eliminated by hand; null where it cannot be told. */
      byHand: v.nullable(v.number()),
      tolerance: v.number(),
      /** Whether the sides agree, differ within the tolerance, by rates or what is eliminated alone, or have to be looked at. */
      state: v.picklist(['agrees', 'within', 'rates', 'by_hand', 'open', 'untold']),
    }),
  ),
  /** Pairs of entities that may not be seen. */
  hidden: v.number(),
});
export type PairsView = v.InferOutput<typeof PairsViewSchema>;

export const PairDocumentsQuerySchema = v.object({
  ...EliminationsQuerySchema.entries,
  rule: v.string(),
  one: v.string(),
  other: v.string(),
});
export type PairDocumentsQuery = v.InferOutput<typeof PairDocumentsQuerySchema>;

/** An elimination by hand that takes what a pair differs by out of the group: amounts as text in the group's currency. */
export const PairEliminationSchema = v.object({
  group: v.string(),
  rule: v.string(),
  /** A number that no journal has yet. */
  journal: v.string(),
  period: v.string(),
  currency: v.string(),
  /** Of which entity's figures it is, and with whom. */
  entity: v.string(),
  partner: v.string(),
  /** Where the difference stands, and what takes it off there. */
  account: v.string(),
  accountName: v.string(),
  side: v.picklist(['debit', 'credit']),
  amount: v.string(),
  /** The account that takes it up; empty where none is known. */
  against: v.string(),
  reason: v.string(),
});
export type PairElimination = v.InferOutput<typeof PairEliminationSchema>;

/** The documents of a pair that do not meet, by their days, and how many do. Minor units of each one's own currency, debit positive. */
export const PairDocumentsSchema = v.object({
  meet: v.number(),
  /** How many do not meet beside those that are listed. */
  more: v.number(),
  documents: v.array(
    v.object({
      state: v.picklist(['other_amount', 'other_document', 'alone']),
      document: v.string(),
      otherDocument: v.string(),
      date: v.string(),
      currency: v.string(),
      digits: v.number(),
      own: v.number(),
      theirs: v.number(),
      text: v.string(),
      /** What would make them meet, in words; empty where nothing has to be done. */
      advice: v.string(),
      /** The adjustment that would do so, as it could be posted after a look at it; null where none is known. */
      entry: v.nullable(v.object({ entityName: v.string(), draft: NewAdjustmentSchema })),
    }),
  ),
  /** Null where nothing is left that could be eliminated. */
  elimination: v.nullable(PairEliminationSchema),
});
export type PairDocuments = v.InferOutput<typeof PairDocumentsSchema>;

const AccountNameSchema = v.object({ number: v.string(), name: v.string() });

/** Standing rules that lines of a group's entities speak for. Amounts: minor units of the scope. */
export const ProposedRulesSchema = v.object({
  rules: v.array(
    v.object({
      /** A name that no rule has yet. */
      rule: v.string(),
      kind: v.picklist(['balances', 'income_expense']),
      accounts: v.array(AccountNameSchema),
      partnerAccounts: v.array(AccountNameSchema),
      /** Pairs of entities that it would be about, and what is on both sides of them. */
      pairs: v.number(),
      amount: v.number(),
    }),
  ),
  /** Accounts in which one entity names another that has nothing on the other side. */
  alone: v.array(AccountNameSchema),
});
export type ProposedRules = v.InferOutput<typeof ProposedRulesSchema>;

export const PairStatementQuerySchema = v.object({
  ...PairDocumentsQuerySchema.entries,
  format: v.picklist(['xlsx', 'pdf', 'csv']),
});

/** What an entity goes through until it stands in the figures of its group. */
export const READINESS_STEPS = ['delivered', 'checked', 'matched', 'translated', 'in_group'] as const;
/** What can stand in the way, by where it is mended. */
export const READINESS_FINDINGS = [
  ...(['delivery', 'owners', 'rates', 'partners', 'pairs', 'stock', 'eliminations', 'books'] as const),
] as const;

/** How far a group is at the end of a period: its entities step by step, and what stands in the way. */
export const ReadinessSchema = v.object({
  scope: v.object({ code: v.string(), name: v.string(), currency: v.string() }),
  asAt: v.object({ key: v.string(), name: v.string() }),
  entities: v.array(
    v.object({
      code: v.string(),
      name: v.string(),
      steps: v.array(
        v.object({
          step: v.picklist(READINESS_STEPS),
          /** `none` where the step is not for the entity. */
          state: v.picklist(['done', 'open', 'none']),
          says: v.string(),
        }),
      ),
    }),
  ),
  /** Entities that may not be seen. */
  hidden: v.number(),
  findings: v.array(
    v.object({
      kind: v.picklist(READINESS_FINDINGS),
      /** Whom it concerns, and what figures it touches; a whole sentence. */
      says: v.string(),
      /** Where it is mended: the entity, or the group. */
      scope: v.string(),
    }),
  ),
});
export type Readiness = v.InferOutput<typeof ReadinessSchema>;
