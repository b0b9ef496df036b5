import type Database from 'better-sqlite3';
import { ACTUAL_ID, allRuns, mergeRuns, type Cube, type Segment } from '@margin-lens/core';
import { heldRows, sumsOfMonth } from './cube-rows';

/** Months of entities that were held against the balances, and what differs. */
export interface CubeProof {
  months: number;
  differences: string[];
}

interface Month {
  version: number;
  entity: number;
  period: number;
}

/**
 * Holds the cube against the balances in every month that a change has moved: the cube got there by the journal lines and
 * figures that came and went, the balances by posting. The connection must be at the revision of the cube.
 */
export function proveChange(db: Database.Database, cube: Cube, change: Segment): CubeProof {
  const months = monthsOf(change);
  return { months: months.length, differences: months.flatMap((month) => differencesIn(db, cube, month)) };
}

/** Holds the whole cube against all balances and figures, row by row; gives how many rows differ. */
export const rowsThatDiffer = (db: Database.Database, cube: Cube): number =>
  mergeRuns([allRuns(cube.whole()), allRuns(mergeRuns([allRuns(heldRows(db))], -1))]).period.length;

function monthsOf({ version, entity, firstRow, period }: Segment): Month[] {
  const months = new Map<string, Month>();
  for (let run = 0; run < version.length; run++)
    for (let row = firstRow[run]!; row < firstRow[run + 1]!; row++) {
      const month = { version: version[run]!, entity: entity[run]!, period: period[row]! };
      months.set(Object.values(month).join('.'), month);
    }
  return [...months.values()];
}

function differencesIn(db: Database.Database, cube: Cube, { version, entity, period }: Month): string[] {
  const held = new Map(sumsOfMonth(db, version, entity, period).map((sum) => [sum.account, sum]));
  const differences: string[] = [];
  const compare = (account: number, debit: number, credit: number, quantity: number) => {
    const sum = held.get(account) ?? { debit: 0, credit: 0, quantity: 0 };
    held.delete(account);
    // figures stand on the side of their sign, their balances on the sides of the changes that made them
    const sides = version === ACTUAL_ID ? sum.debit - debit : 0;
    if (sum.debit - sum.credit !== debit - credit || sum.quantity !== quantity || sides !== 0)
      differences.push(`version ${version}, entity ${entity}, period ${period}, account ${account}`);
  };
  for (const { account, debit, credit, quantity } of cube.sumsOfMonth(version, entity, period))
    compare(account, debit, credit, quantity);
  for (const account of [...held.keys()]) compare(account, 0, 0, 0);
  return differences;
}
