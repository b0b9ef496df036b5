import type { LedgerSlice } from '../books/ledger-slice';
import type { MemberBooks } from '../books/member-books';
import { ratesNeeded } from '../books/rates-needed';
import { bothWays, translationProof } from '../books/translation-proof';
import type { RateTable } from '../currency/rate-table';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import type { Scope } from '../scope/scope';
import { tieOut, type TieOut } from './tie-out';

/**
 * What proves figures in another currency: the reserve of each entity on two ways, the rates that are needed against
 * those that are there, and those that can be believed.
 *
 * @param sliceOf the books of one member in the scope's currency
 */
export function translationTieOuts(
  scope: Scope,
  { slice, at, rates }: { slice: LedgerSlice; at: FiscalPeriod; rates: RateTable },
  sliceOf: (member: MemberBooks) => LedgerSlice,
): TieOut[] {
  const members = (slice.members ?? (slice.member ? [slice.member] : [])).filter(({ isTranslated }) => isTranslated);
  if (members.length === 0) return [];
  const own = new Map(members.map(({ entity, own: { holdsData } }) => [entity.code, holdsData]));
  const needed = ratesNeeded(scope, at.ordinal, rates, (entity, period) => own.get(entity)?.[period] === 1);
  const there = needed.filter(({ quoted }) => quoted !== undefined);
  const subject = { id: '', name: scope.name };
  return [
    tieOut(
      'rates',
      subject,
      { words: 'Rates that are there', amount: there.length },
      { words: 'Rates that are needed', amount: needed.length },
      'rates',
    ),
    tieOut(
      'plausible_rates',
      subject,
      { words: 'Rates near the month before', amount: there.filter(({ doubt }) => doubt === undefined).length },
      { words: 'Rates in use', amount: there.length },
      'rates',
    ),
    ...members.flatMap((member) => reserveTieOut(member, sliceOf(member), at)),
  ];
}

function reserveTieOut({ entity }: MemberBooks, slice: LedgerSlice, { ordinal }: FiscalPeriod): TieOut[] {
  const line = translationProof(slice, ordinal, ordinal)[0];
  if (!line || line.untold) return [];
  const [rolled, missing] = bothWays(line);
  return [
    tieOut(
      'translation',
      { id: '', name: entity.name },
      { words: 'Translation reserve rolled forward', amount: rolled },
      { words: 'What the translated accounts leave', amount: missing },
    ),
  ];
}
