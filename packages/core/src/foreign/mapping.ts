import * as v from 'valibot';
import { DELIMITERS } from './delimiter';
import { hasMonthColumns, PURPOSES, resourceOf, type Purpose } from './targets';
import { DATE_ORDERS, DECIMAL_SIGNS } from '../words/writing-style';

export const ENCODINGS = ['utf-8', 'utf-16le', 'utf-16be', 'windows-1252'] as const;
export type Encoding = (typeof ENCODINGS)[number];

/** Prefix of a column of a trial balance that holds one period of many: `month:FY2027-P05`. */
export const MONTH_PREFIX = 'month:';

/**
 * How a foreign file is read. Kept once confirmed, so that the next file of the same columns needs no asking.
 *
 * Shape: `columns` from target to the name of the file's column; `constants` fill targets that no column fills;
 * `values` replace codes of the file by our own, by target.
 */
export const MappingSchema = v.object({
  schema: v.literal(1),
  kind: v.literal('mapping'),
  id: v.pipe(v.string(), v.regex(/^[a-z0-9_-]+$/)),
  name: v.pipe(v.string(), v.minLength(1), v.maxLength(120)),
  purpose: v.picklist(PURPOSES),
  /** Names of the file's columns in order, by which the next such file is recognised. */
  header: v.array(v.string()),
  headerLine: v.pipe(v.number(), v.integer(), v.minValue(1)),
  encoding: v.picklist(ENCODINGS),
  delimiter: v.picklist(DELIMITERS),
  sheet: v.optional(v.string()),
  decimal: v.picklist(DECIMAL_SIGNS),
  dateOrder: v.picklist(DATE_ORDERS),
  /** Shares are written as 80 or as 0.8. */
  shareForm: v.optional(v.picklist(['percent', 'fraction']), 'percent'),
  /** Amounts of a trial balance: balances at the end of the month, or what moved in it. */
  measure: v.optional(v.picklist(['closing', 'movement']), 'closing'),
  /**
   * Where the books hold nothing before a trial balance of closings: what it first says of the balance sheet was there when
   * the fiscal year opened, or came about in its month.
   */
  start: v.optional(v.picklist(['opened', 'moved']), 'opened'),
  /** Sign of plan figures: as the account grows, or debit positive. */
  sign: v.optional(v.picklist(['natural', 'debit']), 'natural'),
  columns: v.record(v.string(), v.string()),
  constants: v.record(v.string(), v.string()),
  values: v.record(v.string(), v.record(v.string(), v.string())),
});
export type Mapping = v.InferOutput<typeof MappingSchema>;

/** Targets that must be filled before a file can be read, as alternatives: each inner list needs one of its targets. */
export function requiredTargets(purpose: Purpose): readonly (readonly string[])[] {
  if (purpose === 'journals') return [['entity'], ['account'], ['date'], ['amount', 'debit', 'credit']];
  if (purpose === 'trial_balance') return [['entity'], ['account']];
  if (purpose === 'figures') return [['version'], ['entity'], ['account']];
  const required = resourceOf(purpose)!
    .columns.filter((column) => column.required)
    .map((column) => [column.name]);
  // how a share is consolidated follows from its size where the file does not say it
  return required.filter(([name]) => !(purpose === 'ownership' && name === 'method'));
}

/** Targets of which one must give the amounts where no month has a column of its own. */
export const amountsOf = (purpose: Purpose): readonly string[] =>
  purpose === 'figures' ? ['amount', 'quantity'] : ['amount', 'debit', 'credit'];

/** The required targets that neither a column nor a constant fills. */
export function missingTargets({ purpose, columns, constants }: Mapping): (readonly string[])[] {
  const isFilled = (name: string) => columns[name] !== undefined || (constants[name] ?? '') !== '';
  const missing = requiredTargets(purpose).filter((names) => !names.some(isFilled));
  if (!hasMonthColumns(purpose)) return missing;
  const hasMonths = Object.keys(columns).some((name) => name.startsWith(MONTH_PREFIX));
  if (hasMonths) return missing;
  const amounts = amountsOf(purpose);
  return [...missing, ...(amounts.some(isFilled) ? [] : [amounts]), ...(isFilled('period') ? [] : [['period']])];
}
