import { selects, type AccountSet } from '../account/account-set';
import type { Account } from '../account/nature';
import { changeRows, freshId, insertRows, rowIds } from './edit-rows';
import { outlineOf, type AccountsRow, type Row } from './row-layout';

const accountRows = (rows: readonly Row[]): AccountsRow[] =>
  outlineOf(rows).flatMap(({ row }) => (row.kind === 'accounts' ? [row] : []));

/** Rows that an account stands in, however their rules pick it. */
export const rowsWithAccount = (rows: readonly Row[], account: Account): AccountsRow[] =>
  accountRows(rows).filter((row) => selects(row.accounts, account));

const alone = (number: string) => ({ by: 'account' as const, number });

/** Where an account most likely belongs: into a row, or into a new one behind a row that is near to it. */
export type LikelyPlace = { row: AccountsRow; label?: never } | { label: string; behind: AccountsRow; row?: never };

/**
 * Where an account most likely belongs: into the row of its sub-heading, or that of its whole heading. Where these have no
 * row, a new row of its sub-heading (or heading) behind its nearest neighbour; without headings into the row whose
 * numbers begin as its own does. Undefined where nothing is near.
 *
 * Shape: rows that hold some values of dimensions only are passed over; of several the one whose nearest account number
 * is closest.
 */
export function likelyPlace(
  rows: readonly Row[],
  account: Account,
  accounts: readonly Account[],
): LikelyPlace | undefined {
  const { heading, subHeading, nature, number } = account;
  const held = accountRows(rows)
    .filter(({ where = [] }) => where.length === 0)
    .map((row) => ({ row, members: membersOf(row.accounts, accounts).filter((other) => other.number !== number) }));
  const nearest = (isAlike: (other: Account) => boolean) =>
    held
      .flatMap(({ row, members }) =>
        members.filter(isAlike).map((other) => ({ row, members, far: distance(other.number, number) })),
      )
      .sort((a, b) => a.far - b.far)[0];
  if (heading === '') {
    const alike = nearest((other) => other.nature === nature && beginsAs(other.number, number));
    return alike && { row: alike.row };
  }
  const ofSubHeading = nearest((other) => other.heading === heading && other.subHeading === subHeading);
  if (ofSubHeading) return { row: ofSubHeading.row };
  const ofHeading = nearest((other) => other.heading === heading);
  const kinds = new Set(
    ofHeading?.members.filter((other) => other.heading === heading).map((other) => other.subHeading),
  );
  if (ofHeading && (subHeading === '' || kinds.size > 1)) return { row: ofHeading.row };
  const behind = ofHeading ?? nearest((other) => other.nature === nature);
  return behind && { label: ofHeading ? subHeading : subHeading || heading, behind: behind.row };
}

/** Digits that accounts of a group share at the beginning of their numbers. */
const SHARED_DIGITS = 2; // 1 to 3
const beginsAs = (a: string, b: string): boolean => a.slice(0, SHARED_DIGITS) === b.slice(0, SHARED_DIGITS);

/** Puts accounts where they most likely belong, one after the other; those that are near nothing stay out. */
export const placeAsLikely = (
  rows: readonly Row[],
  placed: readonly Account[],
  accounts: readonly Account[],
): readonly Row[] =>
  placed.reduce<readonly Row[]>((held, account) => {
    const place = likelyPlace(held, account, accounts);
    if (!place) return held;
    return place.row ? placeAccount(held, place.row.id, account) : placeInNewRow(held, place, account);
  }, rows);

/** Puts an account into a new row behind another, which reads as that one does. */
function placeInNewRow(
  rows: readonly Row[],
  { label, behind }: { label: string; behind: AccountsRow },
  account: Account,
): Row[] {
  const id = freshId(label, new Set(rowIds(rows)));
  const { orientation, shown, style, direction } = behind;
  const reading = { orientation, shown, style, direction };
  const own = Object.fromEntries(Object.entries(reading).filter(([, value]) => value !== undefined));
  const row: AccountsRow = { kind: 'accounts', id, label, accounts: { include: [alone(account.number)] }, ...own };
  return insertRows(rows, [row], behind.id);
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
