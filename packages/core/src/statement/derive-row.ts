import {
  accountUnit,
  isFlow,
  naturalOrientation,
  type Account,
  type Direction,
  type Orientation,
} from '../account/nature';
import { NUMBER, RATIO, type Unit } from '../figure/figure';
import { sameUnit } from '../formula/formula-unit';
import type { Row, RowReading } from '../layout/row-layout';
import type { CompiledRow, Member } from './compiled-row';

/** What follows for a row from what it holds. */
export type Derived = Pick<CompiledRow, 'orientation' | 'direction' | 'additive' | 'flow' | 'unit' | 'rule'> &
  Partial<Pick<CompiledRow, 'inCycle'>>;

export const flip = (direction: Direction, sign: number): Direction =>
  direction === 'neutral' || sign > 0 ? direction : direction === 'up' ? 'down' : 'up';

const agreed = (directions: readonly Direction[]): Direction =>
  directions.length > 0 && directions.every((d) => d === directions[0]) ? directions[0]! : 'neutral';

/** Whether a row reads a part of the movement that is no posting. */
export const isPart = (reads: RowReading | undefined): reads is 'exchange_difference' | 'entered' | 'left' =>
  reads === 'exchange_difference' || reads === 'entered' || reads === 'left';

const isOverTime = (reads: RowReading | undefined, held: readonly Account[]) =>
  reads === undefined ? held.every(isFlow) : reads === 'flow' || isPart(reads);

/**
 * What of a row can be added up: money where there is any, else what is of the first part's unit. Money and people make
 * no sum, whichever of them stands first.
 */
export function alike<T>(parts: readonly T[], unitOf: (part: T) => Unit): { parts: readonly T[]; leftOut: boolean } {
  const units = parts.map(unitOf);
  const unit = units.find(({ kind }) => kind === 'currency') ?? units[0];
  const same = parts.filter((_, at) => sameUnit(units[at]!, unit!));
  return { parts: same, leftOut: same.length < parts.length };
}

/**
 * A row of accounts. Orientation, direction and unit follow from their natures unless set: of income and costs together
 * each account counts as the row reads it, so that costs net of income are for the better where they fall.
 */
export function deriveFromAccounts(
  members: readonly Member[],
  accounts: readonly Account[],
  currency: Unit,
  { orientation, reads }: { orientation?: Orientation | undefined; reads?: RowReading | undefined } = {},
): Derived {
  const held = members.map(({ account }) => accounts[account]!);
  const own = orientation ?? (held[0] ? naturalOrientation(held[0].nature) : 'debit');
  return {
    orientation: own,
    direction: agreed(held.map(({ better, nature }) => flip(better, own === naturalOrientation(nature) ? 1 : -1))),
    additive: true,
    flow: isOverTime(reads, held),
    unit: held[0] ? accountUnit(held[0], currency) : currency,
    rule: { from: 'accounts', members, reads },
  };
}

/** A row that adds and subtracts other rows. */
export function deriveFromRows(
  terms: readonly { part: CompiledRow; sign: 1 | -1 }[],
  orientation: Orientation,
  currency: Unit,
  broken: boolean,
): Derived {
  const inCycle = broken || terms.some(({ part }) => part.inCycle);
  return {
    orientation,
    direction: agreed(terms.map(({ part, sign }) => flip(part.direction, sign)).filter((d) => d !== 'neutral')),
    additive: terms.every(({ part }) => part.additive),
    flow: terms.every(({ part }) => part.flow),
    unit: terms[0]?.part.unit ?? currency,
    inCycle,
    rule: { from: 'rows', terms: terms.map(({ part, sign }) => ({ row: part.index, sign })) },
  };
}

/** The unit that a row was given, if any. */
export function givenUnit(unit: Row['unit'], currency: Unit): Unit | undefined {
  switch (unit) {
    case undefined:
      return undefined;
    case 'money':
      return currency;
    case 'percent':
      return RATIO;
    case 'number':
      return NUMBER;
    case 'days':
      return { kind: 'days' };
    case 'pieces':
      return { kind: 'count', name: 'pieces', digits: 0 };
  }
}
