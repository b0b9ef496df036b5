import * as v from 'valibot';
import { nameText, shortText } from '../layout/text-limits';

/** File of a ledger package with what balances were held against. */
export const EVIDENCE_FILE = 'balance-evidence.json';

/** Where a figure from outside the ledger comes from; `not_needed` says that the account wants none, from then on. */
export const EVIDENCE_SOURCES = [
  ...(['bank', 'sub_ledger', 'listing', 'confirmation', 'calculation', 'not_needed'] as const),
] as const;
export type EvidenceSource = (typeof EVIDENCE_SOURCES)[number];

const MOST_FILES = 20;

/** A file that shows the figure, by the digest of its bytes. */
export const AttachedFileSchema = v.strictObject({
  name: v.pipe(shortText, v.regex(/^[^/\\]+$/)),
  sha256: v.pipe(v.string(), v.regex(/^[0-9a-f]{64}$/)),
  bytes: v.pipe(v.number(), v.integer(), v.minValue(0)),
});
export type AttachedFile = v.InferOutput<typeof AttachedFileSchema>;

const isoDay = v.pipe(v.string(), v.isoDate());

/**
 * A balance-sheet account of an entity at the end of a period held against a figure from outside the ledger.
 *
 * Units: `amount` in minor units of the entity's currency, on the account's natural side; null where none is needed.
 */
const entries = {
  scope: v.string(),
  account: v.string(),
  /** Key of the period at whose end the balance stands. */
  period: v.string(),
  /** Empty where it is open yet. */
  source: v.picklist(['', ...EVIDENCE_SOURCES]),
  amount: v.nullable(v.pipe(v.number(), v.safeInteger())),
  /** Day of the statement or listing; empty where it is that of the balance. */
  dated: v.union([v.literal(''), isoDay]),
  note: shortText,
  /** Who is to look after it. */
  owner: v.union([v.literal(''), nameText]),
  /** A difference that may stay, as the note says. */
  accepted: v.boolean(),
  files: v.pipe(v.array(AttachedFileSchema), v.maxLength(MOST_FILES)),
};

type Said = Pick<
  v.InferOutput<v.StrictObjectSchema<typeof entries, undefined>>,
  'source' | 'amount' | 'accepted' | 'note'
>;

/** A figure says where it comes from, an account that needs none has none, and a difference stays for a reason. */
const isSound = ({ source, amount, accepted, note }: Said): boolean =>
  (amount === null || (source !== '' && source !== 'not_needed')) && (!accepted || note.trim() !== '');
const SOUND = 'a figure says where it comes from, and a difference that may stay says why';

export const BalanceEvidenceSchema = v.pipe(
  v.strictObject(entries),
  v.check((said) => isSound(said), SOUND),
);
export type BalanceEvidence = v.InferOutput<typeof BalanceEvidenceSchema>;

/** As it is kept: who wrote it and when, and what the balance was then. */
export const KeptEvidenceSchema = v.pipe(
  v.strictObject({
    ...entries,
    balance: v.pipe(v.number(), v.safeInteger()),
    person: v.string(),
    at: v.pipe(v.string(), v.isoTimestamp()),
  }),
  v.check((said) => isSound(said), SOUND),
);
export type KeptEvidence = v.InferOutput<typeof KeptEvidenceSchema>;

/** Id under which it is kept. */
export const evidenceId = ({ scope, account, period }: Pick<BalanceEvidence, 'scope' | 'account' | 'period'>): string =>
  `${scope}|${account}|${period}`;
