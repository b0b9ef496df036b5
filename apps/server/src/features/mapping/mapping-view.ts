import type { LocalCodeView, MappingQuery, MappingView } from '@margin-lens/contract';
import { attributesOf, localValuesOf, periodName } from '@margin-lens/core';
import { maySee, requireAllValues } from '../../base/viewer';
import { localLines, type LocalLines } from '../../store/local-lines';
import { rowsOf } from '../../store/masters';
import { openPeriod, openScope } from '../workspace/open-scope';
import { localCodes } from '../workspace/posting-masters';
import type { Snapshot } from '../workspace/snapshot';

/**
 * The accounts and values of entities of a scope that keep their books in codes of their own, with what stands for them and
 * what was posted on them up to a period; those that nothing is said of come first, the largest at the front.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN, SRV_VALUES_LIMITED
 */
export async function mappingView(snapshot: Snapshot, query: MappingQuery): Promise<MappingView> {
  const { filled: model, viewer, db, em } = snapshot;
  const scope = openScope(model, viewer, query.scope);
  const at = openPeriod(scope, query.as_at);
  requireAllValues(viewer);
  const maps = localCodes({ account_map: await rowsOf(em, 'account_map'), value_map: await rowsOf(em, 'value_map') });
  const seen = scope.members.filter(({ entity }) => maySee(viewer, entity.code));
  const unmapped = model.accounts.find(({ role }) => role === 'unmapped');
  const books = await snapshot.books();
  const textOf = (id: number) => books.balances.combinations.textOf(id);
  return {
    scope: { code: scope.code, name: scope.name },
    asAt: { key: at.key, name: periodName(at) },
    unmapped: unmapped ? { number: unmapped.number, name: unmapped.name } : null,
    targets: [
      ...model.accounts
        .filter(({ role }) => role !== 'unmapped')
        .map(({ number, name }) => ({ dimension: '', code: number, name })),
      ...(await rowsOf(em, 'dimensions')).map((row) => ({
        ...{ dimension: String(row['dimension']), code: String(row['value']), name: String(row['name']) },
      })),
    ],
    entities: seen.map(({ entity: { id, code, name, currency } }) => {
      const lines = localLines(db, id, at.end);
      const all = [...accountsOf(lines, snapshot), ...valuesOf(lines, textOf)];
      return {
        ...{ code, name, currency: currency.code, hasMap: maps.hasOwnAccounts(code) },
        codes: all.sort((a, b) => Number(a.to !== null) - Number(b.to !== null) || sizeOf(b) - sizeOf(a)),
      };
    }),
  };
}

const sizeOf = ({ debit, credit }: LocalCodeView) => debit + credit;

function accountsOf(lines: readonly LocalLines[], { filled: model }: Snapshot): LocalCodeView[] {
  const byId = new Map(model.accounts.map((account) => [model.accountIds.get(account.number)!, account]));
  const found = new Map<string, LocalCodeView>();
  for (const each of lines) {
    if (each.localAccount === '') continue;
    const { role, number, name } = byId.get(each.account)!;
    const to = role === 'unmapped' ? null : { code: number, name };
    take(found, each, { kind: 'account', dimension: '', code: each.localAccount, to });
  }
  return [...found.values()];
}

function valuesOf(lines: readonly LocalLines[], textOf: (combination: number) => string): LocalCodeView[] {
  const found = new Map<string, LocalCodeView>();
  for (const each of lines)
    for (const [dimension, code] of localValuesOf(each.localValues)) {
      const value = attributesOf(textOf(each.combination)).get(dimension);
      const to = value === undefined ? null : { code: value, name: value };
      take(found, each, { kind: 'value', dimension, code, to });
    }
  return [...found.values()];
}

/** Adds lines to those of the same code and what stands for it. */
function take(
  found: Map<string, LocalCodeView>,
  { lines, debit, credit, first, last, example }: LocalLines,
  of: Pick<LocalCodeView, 'kind' | 'dimension' | 'code' | 'to'>,
): void {
  const key = [of.dimension, of.code, of.to?.code].join('\u001f');
  const held = found.get(key);
  if (!held) return void found.set(key, { ...of, lines, debit, credit, first, last, example });
  held.lines += lines;
  held.debit += debit;
  held.credit += credit;
  if (first < held.first) held.first = first;
  if (last > held.last) held.last = last;
}
