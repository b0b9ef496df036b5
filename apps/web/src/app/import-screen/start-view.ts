import {
  proposeClassification,
  type Classification,
  type Nature,
  type ProposedClassification,
  type StartingBooks,
} from '@margin-lens/core';
import type { SurveyView } from '@margin-lens/contract';
import type { Cells } from '../shared/sheet/sheet-model';

/** Cells of an account in the sheet that a workspace is started with. */
export const AT = { number: 0, name: 1, nature: 2, heading: 3, subHeading: 4, role: 5 } as const;
export const CELL_COUNT = 6;

export interface ProposedAccount {
  cells: Cells;
  stand: number;
  because: string;
  confidence: ProposedClassification['confidence'];
}

/** The accounts of a file with a classification proposed for each, by number. */
export function proposedAccounts({ accounts }: SurveyView): Map<string, ProposedAccount> {
  const proposals = proposeClassification(accounts);
  return new Map(
    accounts.map(({ number, name, stand }, index) => {
      const { nature, heading, subHeading, role, because, confidence } = proposals[index]!;
      return [number, { cells: [number, name, nature, heading, subHeading, role], stand, because, confidence }];
    }),
  );
}

export const accountOfCells = (
  cells: Cells,
): { number: string; name: string } & Omit<Classification, 'nature'> & { nature: Nature | '' } => ({
  number: cells[AT.number]!,
  name: cells[AT.name]!,
  nature: cells[AT.nature] as Nature | '',
  heading: cells[AT.heading]!,
  subHeading: cells[AT.subHeading]!,
  role: cells[AT.role]!,
});

export interface Sums {
  assets: number;
  liabilities: number;
  equity: number;
  profit: number;
  /** What accounts without a nature hold. */
  none: number;
}

/** What the books would say by the natures chosen, each in its natural sign; all of them come to assets = the rest. */
export function sumsOf(rows: readonly Cells[], standOf: (number: string) => number): Sums {
  const sums: Sums = { assets: 0, liabilities: 0, equity: 0, profit: 0, none: 0 };
  for (const cells of rows) {
    const stand = standOf(cells[AT.number]!);
    const nature = cells[AT.nature];
    if (nature === 'asset') sums.assets += stand;
    else if (nature === 'liability') sums.liabilities -= stand;
    else if (nature === 'equity') sums.equity -= stand;
    else if (nature === 'income' || nature === 'expense') sums.profit -= stand;
    else if (nature !== 'statistic') sums.none += stand;
  }
  return sums;
}

export const isReady = ({ name, entities, accounts }: StartingBooks): boolean =>
  name.trim() !== '' &&
  accounts.every(({ nature }) => nature !== '') &&
  entities.every((entity) => entity.name.trim() !== '' && /^[A-Z]{3}$/.test(entity.currency));
