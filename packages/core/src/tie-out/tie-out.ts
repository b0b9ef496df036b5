export const TIE_OUTS = [
  ...(['trial_balance', 'balance_sheet', 'result', 'cash_flow', 'coverage', 'balances', 'statements'] as const),
  'movements',
  ...(['rates', 'plausible_rates', 'translation'] as const),
  ...(['shares', 'intercompany', 'eliminations'] as const),
] as const;
export const TIE_OUT_UNITS = ['money', 'accounts', 'rates'] as const;

/**
 * A check that two figures that must agree do.
 *
 * Units: minor units of the scope's currency, or a count of accounts or rates; `difference` is left less right.
 */
export interface TieOut {
  check: (typeof TIE_OUTS)[number];
  /** What is checked: the layout's id, or empty for checks of the books. */
  subject: string;
  subjectName: string;
  left: TieOutSide;
  right: TieOutSide;
  difference: number;
  unit: (typeof TIE_OUT_UNITS)[number];
  agrees: boolean;
}

export interface TieOutSide {
  words: string;
  amount: number;
}

export function tieOut(
  check: TieOut['check'],
  subject: { id: string; name: string },
  left: TieOutSide,
  right: TieOutSide,
  unit: TieOut['unit'] = 'money',
): TieOut {
  const difference = left.amount - right.amount + 0;
  return {
    check,
    subject: subject.id,
    subjectName: subject.name,
    left,
    right,
    difference,
    unit,
    agrees: difference === 0,
  };
}
