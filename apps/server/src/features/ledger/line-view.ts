import type { LedgerLineView } from '@margin-lens/contract';
import { BASES, inWords, JOURNAL_KINDS } from '@margin-lens/core';
import { attributeList } from '../../store/attributes';
import type { StoredLine } from '../../store/lines';

/** What the ids of stored lines stand for. */
export interface LineWords {
  accounts: ReadonlyMap<number, { number: string; name: string }>;
  /** Keys of periods. */
  periods: ReadonlyMap<number, string>;
  /** Names of partners by their codes. */
  partners: ReadonlyMap<string, string>;
}

export function lineView(row: StoredLine, { accounts, periods, partners }: LineWords): LedgerLineView {
  const { parts, kind, basis, account, period, isLate, ...line } = row;
  const { number, name } = accounts.get(account)!;
  return {
    ...line,
    isLate: isLate === 1,
    kind: JOURNAL_KINDS[kind]!,
    basis: BASES[basis]!,
    period: periods.get(period) ?? '',
    account: number,
    accountName: name,
    attributes: attributeList(parts).map(({ name: of, value }) => ({
      ...{ name: of, value },
      text: (of === 'partner' ? partners.get(value) : undefined) ?? inWords(value),
    })),
  };
}
