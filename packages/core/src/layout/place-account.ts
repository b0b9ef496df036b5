import { selects, type AccountSet } from '../account/account-set';
import type { Account } from '../account/nature';
import { changeRows } from './edit-rows';
import { outlineOf, type AccountsRow, type Row } from './row-layout';

const accountRows = (rows: readonly Row[]): AccountsRow[] =>
  outlineOf(rows).flatMap(({ row }) => (row.kind === 'accounts' ? [row] : []));

/** Rows that an account stands in, however their rules pick it. */
export const rowsWithAccount = (rows: readonly Row[], account: Account): AccountsRow[] =>
  accountRows(rows).filter((row) => selects(row.accounts, account));

const alone = (number: string) => ({ by: 'account' as const, number });

/**
 * The row that an account most likely belongs to: that of its neighbours under the same sub-heading, else heading, else
 * of the same nature; among several the one whose nearest account number is closest.
 */
export function likelyRow(
  rows: readonly Row[],
  account: Account,
  accounts: readonly Account[],
): AccountsRow | undefined {
  const held = accountRows(rows).map((row) => ({ row, members: membersOf(row.accounts, accounts) }));
  const alike: ((other: Account) => boolean)[] = [
    (other) => other.heading === account.heading && other.subHeading === account.subHeading,
    (other) => other.heading === account.heading,
    (other) => other.nature === account.nature,
  ];
  for (const isAlike of alike) {
    const near = held
      .flatMap(({ row, members }) =>
        members.filter(isAlike).map((other) => ({ row, far: distance(other.number, account.number) })),
      )
      .sort((a, b) => a.far - b.far);
    if (near[0]) return near[0].row;
  }
  return undefined;
}

const membersOf = (set: AccountSet, accounts: readonly Account[]) =>
  accounts.filter((account) => selects(set, account));

const distance = (a: string, b: string): number => {
  const [x, y] = [Number(a), Number(b)];
  return Number.isFinite(x) && Number.isFinite(y) ? Math.abs(x - y) : a === b ? 0 : 1;
};

/** Puts an account into a row: no longer left out there, and named when no rule of the row takes it. */
export const placeAccount = (rows: readonly Row[], id: string, account: Account): Row[] =>
  changeRows(rows, new Set([id]), (row) => {
    if (row.kind !== 'accounts' && row.kind !== 'statistic') return row;
    const exclude = row.accounts.exclude?.filter((rule) => !(rule.by === 'account' && rule.number === account.number));
    const set: AccountSet = { include: row.accounts.include, ...(exclude && exclude.length > 0 ? { exclude } : {}) };
    return {
      ...row,
      accounts: selects(set, account) ? set : { ...set, include: [...set.include, alone(account.number)] },
    };
  });

/** Takes an account out of a row: no longer named there, and left out when a rule of the row still takes it. */
export const displaceAccount = (rows: readonly Row[], id: string, account: Account): Row[] =>
  changeRows(rows, new Set([id]), (row) => {
    if (row.kind !== 'accounts' && row.kind !== 'statistic') return row;
    const named = row.accounts.include.filter((rule) => !(rule.by === 'account' && rule.number === account.number));
    const include = named.length > 0 ? named : row.accounts.include;
    const set: AccountSet = { ...row.accounts, include };
    return {
      ...row,
      accounts: selects(set, account) ? { ...set, exclude: [...(set.exclude ?? []), alone(account.number)] } : set,
    };
  });
