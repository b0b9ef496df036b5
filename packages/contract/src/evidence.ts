import * as v from 'valibot';
import { BALANCE_STATES, BalanceEvidenceSchema, AttachedFileSchema, KeptEvidenceSchema } from '@margin-lens/core';

export const EvidenceQuerySchema = v.object({ scope: v.string(), as_at: v.string() });
export type EvidenceQuery = v.InferOutput<typeof EvidenceQuerySchema>;

/** A balance-sheet account held against evidence. Units: minor units, on the account's natural side. */
export const EvidenceRowSchema = v.object({
  account: v.string(),
  name: v.string(),
  balance: v.number(),
  state: v.picklist(BALANCE_STATES),
  /** Balance less evidence; null without an amount. */
  difference: v.nullable(v.number()),
  /** From when on it differs at each month's end; empty while it does not. */
  since: v.string(),
  /** What the balance was when the evidence was written, where it has moved since. */
  was: v.nullable(v.number()),
  isOpen: v.boolean(),
  /** With the name of who wrote it; null where there is none for this month. */
  evidence: v.nullable(KeptEvidenceSchema),
  /** The latest evidence before it, to go on from. */
  before: v.nullable(KeptEvidenceSchema),
});
export type EvidenceRow = v.InferOutput<typeof EvidenceRowSchema>;

/** How far an entity is. Units: `balances` and `covered` are sums of balances without their signs, minor units. */
const EvidenceSumSchema = v.object({
  code: v.string(),
  name: v.string(),
  currency: v.string(),
  accounts: v.number(),
  open: v.number(),
  differing: v.number(),
  balances: v.number(),
  /** Of accounts that agree, differ and may, or need none. */
  covered: v.number(),
});
export type EvidenceSum = v.InferOutput<typeof EvidenceSumSchema>;

/** Balances of an entity; of a group how far its entities are, since evidence is of the books of an entity. */
export const EvidenceSchema = v.object({
  scope: v.object({ code: v.string(), name: v.string(), currency: v.string(), isGroup: v.boolean() }),
  asAt: v.object({ key: v.string(), name: v.string() }),
  /** What is written is held against it. */
  revision: v.number(),
  rows: v.array(EvidenceRowSchema),
  entities: v.array(EvidenceSumSchema),
});
export type EvidenceView = v.InferOutput<typeof EvidenceSchema>;

/** Accounts of a chart at most. */
const MOST_ENTRIES = 5000;

/** Evidence that is written or taken out, all of it or none. */
export const SaveEvidenceSchema = v.strictObject({
  /** Revision that it was read at. */
  base: v.number(),
  put: v.pipe(v.array(BalanceEvidenceSchema), v.maxLength(MOST_ENTRIES)),
  remove: v.pipe(
    v.array(v.strictObject({ scope: v.string(), account: v.string(), period: v.string() })),
    v.maxLength(MOST_ENTRIES),
  ),
});
export type SaveEvidence = v.InferOutput<typeof SaveEvidenceSchema>;

export { AttachedFileSchema };
