import type { EvidenceQuery, EvidenceRow, EvidenceSum, EvidenceView } from '@margin-lens/contract';
import {
  isOpenBalance,
  periodName,
  periodOfAsAt,
  proveBalances,
  type Books,
  type KeptEvidence,
  type ProvedBalance,
} from '@margin-lens/core';
import { maySee, requireAllValues } from '../../base/viewer';
import { heldEntities, openPeriod, openScope } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';
import type { Entity } from '../workspace/workspace-model';
import { keptEvidence } from './kept-evidence';

/**
 * Balance-sheet accounts of an entity held against evidence; of a group how far its entities are.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN, SRV_VALUES_LIMITED
 */
export async function evidenceView(snapshot: Snapshot, query: EvidenceQuery): Promise<EvidenceView> {
  const { filled: model, viewer, em, revision } = snapshot;
  const scope = openScope(model, viewer, query.scope);
  const at = openPeriod(scope, query.as_at);
  requireAllValues(viewer);
  const books = await snapshot.books();
  const group = model.group(scope.code);
  const members = heldEntities(scope, at)
    .map(({ code }) => model.entity(code)!)
    .filter(({ code }) => maySee(viewer, code));
  const kept = await keptEvidence(em, new Set(members.map(({ code }) => code)));
  const proved = members.map((entity) => ({ entity, balances: provedBalances(books, entity, query.as_at, kept) }));
  return {
    scope: { code: scope.code, name: scope.name, currency: scope.currency.code, isGroup: group !== undefined },
    asAt: { key: at.key, name: periodName(at) },
    revision,
    rows: group ? [] : proved.flatMap(({ balances }) => balances.map(rowView)),
    entities: proved.map(({ entity, balances }) => sumOf(entity, balances)),
  };
}

/** Balances of an entity held against what is kept of it; none where its calendar has no such period. */
export function provedBalances(
  books: Books,
  entity: Entity,
  asAt: string,
  kept: readonly KeptEvidence[],
): ProvedBalance[] {
  const slice = books.read(entity);
  const at = periodOfAsAt(slice.calendar, asAt);
  return at
    ? proveBalances(
        slice,
        at,
        kept.filter(({ scope }) => scope === entity.code),
      )
    : [];
}

const rowView = (proved: ProvedBalance): EvidenceRow => {
  const { account, evidence, before, since } = proved;
  const { balance, state, difference, was } = proved;
  return {
    ...{ account: account.number, name: account.name, balance, state, difference, was },
    ...{ since: since ? periodName(since) : '', isOpen: isOpenBalance(proved) },
    ...{ evidence: evidence ?? null, before: before ?? null },
  };
};

function sumOf({ code, name, currency }: Entity, balances: readonly ProvedBalance[]): EvidenceSum {
  const sizeOf = (held: readonly ProvedBalance[]) => held.reduce((sum, { balance }) => sum + Math.abs(balance), 0);
  const open = balances.filter(isOpenBalance);
  return {
    ...{ code, name, currency: currency.code, accounts: balances.length, open: open.length },
    differing: balances.filter(({ state }) => state === 'differs').length,
    balances: sizeOf(balances),
    covered: sizeOf(balances) - sizeOf(open),
  };
}
