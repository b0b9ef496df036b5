import { exactFigure, type Unit } from '@margin-lens/core/shown';
import type { StatementView, TieOutsView } from '@margin-lens/contract';

export interface TieOut {
  name: string;
  agrees: boolean;
  /** Both sides or the difference, in words. */
  says: string;
  /** The same in few words, for the foot. */
  brief: string;
  /** The cell to look at when it does not agree. */
  cell?: string;
  /** The page to look at instead, where the cause is not in the statement. */
  path?: string;
}

/** What the checks are called. */
export const CHECK_WORDS: Record<TieOutsView['ties'][number]['check'], string> = {
  trial_balance: 'Trial balance',
  balance_sheet: 'Balance sheet balances',
  result: 'Result meets equity',
  cash_flow: 'Cash flow meets cash',
  coverage: 'Every account placed once',
  balances: 'Balances equal lines',
  statements: 'Statements read the balances',
  rates: 'Every rate is there',
  plausible_rates: 'Rates are plausible',
  shares: 'Shares meet the equity that they are of',
  movements: 'Movements lead from opening to closing',
  intercompany: 'Entities agree on what they owe each other',
  eliminations: 'Eliminations are complete',
  translation: 'Translation reserve, two ways',
};

/** A tie-out of the workspace as the light lists it; it leads to the page of them. */
export function lightOf(tie: TieOutsView['ties'][number], currency: Unit): TieOut {
  const amount = (n: number) => (tie.unit === 'money' ? exactFigure({ amount: n, unit: currency }) : String(n));
  const says = tie.agrees ? tie.subjectName : `${tie.subjectName}, off by ${amount(tie.difference)}`;
  return { name: CHECK_WORDS[tie.check], agrees: tie.agrees, says, brief: says, path: '/tie-outs' };
}

const joined = (names: readonly string[]) =>
  names.length <= 2 ? names.join(' and ') : `${names.slice(0, 2).join(', ')} and ${names.length - 2} more`;

function trialBalanceLight(
  { debit, credit }: NonNullable<StatementView['trialBalance']>,
  exact: (amount: number) => string,
): TieOut {
  const agrees = debit === credit;
  return {
    name: 'Trial balance',
    agrees,
    says: agrees ? `Debits and credits agree at ${exact(debit)}` : `Off by ${exact(debit - credit)}`,
    brief: agrees ? 'trial balance agrees' : `trial balance off by ${exact(debit - credit)}`,
  };
}

/** The checks of a shown statement: trial balance, profit, coverage. Pure: contract in, words out. */
export function tieOutsOf(view: StatementView, currency: Unit): TieOut[] {
  const exact = (amount: number) => exactFigure({ amount, unit: currency });
  const off = view.profit.filter((proof) => proof.difference !== 0);
  const { misplaced, accounts, placedOnce } = view.coverage;
  const used = misplaced.filter((account) => account.used);
  const heads = new Map(view.columns.map((column) => [column.id, column]));
  const worst = off[off.length - 1];
  const figureColumn = worst?.column ?? view.columns.find((column) => column.kind === 'figure')?.id;
  const culprit = view.misplacedRows[0];
  const lookAt = culprit && figureColumn ? { cell: `${culprit.id}~${figureColumn}` } : {};
  const checks: TieOut[] = view.trialBalance ? [trialBalanceLight(view.trialBalance, exact)] : [];
  if (view.profit.length > 0) {
    checks.push({
      name: 'Profit',
      agrees: off.length === 0,
      says: worst
        ? `Off by ${exact(worst.difference)} in ${heads.get(worst.column)?.blockLabel ?? ''}: shown ${exact(worst.shown)}, trial balance ${exact(worst.trialBalance)}`
        : 'Agrees with the trial balance in every column',
      brief: worst ? `Profit off by ${exact(worst.difference)}` : 'Profit agrees with the trial balance',
      ...(worst ? lookAt : {}),
    });
  }
  if (accounts > 0) {
    checks.push({
      name: 'Coverage',
      agrees: used.length === 0,
      says:
        used.length === 0
          ? coveredWords(placedOnce, misplaced.length)
          : [misplacedWords(used, false), misplacedWords(used, true)].filter(Boolean).join('; '),
      brief:
        used.length === 0
          ? coveredWords(placedOnce, misplaced.length)
          : `${placedOnce} of ${accounts} accounts placed once`,
      ...lookAt,
    });
  }
  return [...checks, ...breakdownProof(view, exact)];
}

const HOLDS_HIDDEN = 'The total also holds what you may not see';

/** Whether the values of a breakdown add up, and to what the statement has. */
function breakdownProof({ breakdown }: StatementView, exact: (amount: number) => string): TieOut[] {
  if (!breakdown) return [];
  const { parts, statement, holdsHidden } = breakdown.proof;
  const told = (off: number | null, name: string, agrees: string) => {
    if (off === null) return [];
    const says = off === 0 ? agrees : `${agrees}: off by ${exact(off)}`;
    return [{ name, agrees: off === 0, says, brief: says }];
  };
  return [
    ...told(parts, 'Parts', 'The values add up to the total'),
    ...(holdsHidden ? [{ name: 'Parts', agrees: true, says: HOLDS_HIDDEN, brief: HOLDS_HIDDEN }] : []),
    ...told(statement, 'Statement', 'The total is that of the statement'),
  ];
}

/** Names the accounts without a row, or those in several rows. */
function misplacedWords(accounts: StatementView['coverage']['misplaced'], isPlaced: boolean): string {
  const names = accounts.filter((a) => a.rows.length > 0 === isPlaced).map((a) => `${a.number} ${a.name}`);
  if (names.length === 0) return '';
  if (isPlaced) return `${joined(names)} counted in more than one row`;
  return `${joined(names)} ${names.length === 1 ? 'has' : 'have'} no row`;
}

const coveredWords = (placedOnce: number, unused: number): string =>
  unused === 0
    ? `All ${placedOnce} accounts placed once`
    : `${placedOnce} of ${placedOnce + unused} accounts placed once, the rest never used`;
