import type { StructureChange, StructureEffect } from '@margin-lens/contract';
import {
  checkOwnership,
  groupStructure,
  isProfitOrLoss,
  issue,
  percentOf,
  slot,
  type FiscalPeriod,
  type HeldEntity,
  type Issue,
  type LedgerSlice,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { maySee } from '../../base/viewer';
import { issueView } from '../statements/issue-view';
import { mayOpen, openPeriod } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';

type Holding = Snapshot['model']['holdings'][number];

/**
 * What a change of shares would move in a group at the end of a period: who is part of it and how, and its result, assets
 * and equity. Nothing is written.
 * @throws SRV_SCOPE_UNKNOWN, SRV_PERIOD_UNKNOWN
 */
export async function structureEffect(
  snapshot: Snapshot,
  code: string,
  change: StructureChange,
): Promise<StructureEffect> {
  const { filled: model, viewer } = snapshot;
  const group = model.group(code);
  if (!group) throw appError('SRV_SCOPE_UNKNOWN', { scope: code });
  const at = openPeriod(group, change.as_at);
  const now = model.holdings;
  const then = changed(now, change);
  const issues = problemsOf(snapshot, then, change);
  if (issues.length > 0) return { issues: issues.map(issueView), entities: [], figures: [] };
  const [before, after] = [now, then].map((holdings) => groupStructure(group.topEntity, holdings, at.end)) as [
    HeldEntity[],
    HeldEntity[],
  ];
  const line = (held: HeldEntity | undefined) =>
    held ? { method: held.method, effective: percentOf(held.effective) } : null;
  const codes = [...new Set([...before, ...after].map(({ entity }) => entity))].filter((each) => maySee(viewer, each));
  const books = await snapshot.books();
  const scopes = [now, then].map((holdings, index) => ({
    ...model.scopeOf(group, holdings),
    // what was read of the group as it is must not stand for what it would be
    ...(index === 1 && { code: `${code}*${JSON.stringify([change.put, change.remove])}` }),
  }));
  const isOpen = scopes.every((scope) => mayOpen(model, viewer, { ...scope, code }));
  const slices = isOpen ? scopes.map((scope) => books.ofScope(scope)) : [];
  return {
    issues: [],
    entities: codes.map((each) => {
      const of = (all: readonly HeldEntity[]) => line(all.find(({ entity }) => entity === each));
      return { code: each, name: model.entity(each)!.name, before: of(before), after: of(after) };
    }),
    figures: (['result', 'assets', 'equity'] as const).flatMap((what) => {
      const [first, second] = slices.map((slice) => figureOf(slice, what, at));
      return first && second ? { what, before: first, after: second } : [];
    }),
  };
}

/** The shares as they would be. */
function changed(holdings: readonly Holding[], { put, remove }: StructureChange): Holding[] {
  const key = ({ investor, investee, from }: Pick<Holding, 'investor' | 'investee' | 'from'>) =>
    [investor, investee, from].join('|');
  const gone = new Set([...put, ...remove].map(key));
  return [...holdings.filter((holding) => !gone.has(key(holding))), ...put];
}

function problemsOf({ filled: model }: Snapshot, holdings: readonly Holding[], { put }: StructureChange): Issue[] {
  const unknown = put
    .flatMap(({ investor, investee }) => [investor, investee])
    .filter((each) => !model.entity(each))
    .map((text) => issue('CORE_REFERENCE_UNKNOWN', { what: 'entity', text, file: 'entities.csv' }));
  const shares = holdings.map((holding) => ({ ...holding, percent: Number(holding.percent) }));
  const found = checkOwnership(shares, 'ownership.csv').filter(({ severity }) => severity === 'error');
  const over = put
    .filter(({ percent }) => Number(percent) > 100)
    .map(({ investee, percent, from }) => issue('CORE_OWNERSHIP_OVER_100', { entity: investee, percent, from }));
  return [...unknown, ...over, ...found];
}

/** Result of the year to date, assets or equity at the end of a period, each in its own orientation. */
function figureOf(slice: LedgerSlice, what: 'result' | 'assets' | 'equity', at: FiscalPeriod) {
  const unit = slice.currency!;
  let amount = 0;
  for (const [index, account] of slice.accounts.entries()) {
    const counts =
      what === 'assets'
        ? account.nature === 'asset'
        : isProfitOrLoss(account) || (what === 'equity' && account.nature === 'equity');
    if (!counts) continue;
    const missing = slice.problems?.closingAt(index, at.ordinal);
    if (missing?.origin) return { amount: null, unit, reason: missing.reason, origin: missing.origin };
    if (missing) return { amount: null, unit, reason: missing.reason };
    amount += slice.closing[slot(slice, index, at.ordinal)]!;
  }
  return { amount: (what === 'assets' ? amount : -amount) + 0, unit };
}
