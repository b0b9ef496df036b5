import type { RemarkText } from '@margin-lens/contract';
import type { Explanation, ExplanationKind } from '@margin-lens/core';
import { exactFigure } from '@margin-lens/core/shown';
import { currencyUnit } from '../shared/currency-unit';

export const KIND_WORDS: Readonly<Record<ExplanationKind, string>> = {
  timing: 'Timing',
  permanent: 'Permanent',
  one_off: 'One-off',
};

/** The variance that stands to be explained. Units: `effect` in minor units of `currency`, what it does to profit. */
export interface ToExplain {
  effect: number;
  currency: string;
  /** Key of its month. */
  month: string;
  /** Months that can give it back. */
  later: readonly { key: string; name: string }[];
}

/** A remark that says what its variance is, or no longer says it. */
export function withExplanation({ explains: _, ...remark }: RemarkText, explains: Explanation | undefined): RemarkText {
  return explains ? { ...remark, explains } : remark;
}

/** What a remark says that its variance is; empty where it says nothing, without its amount where the currency is not known. */
export function explanationInWords(explains: Explanation | undefined, of: ToExplain | undefined): string {
  if (!explains) return '';
  const { kind, amount, returns } = explains;
  return [
    KIND_WORDS[kind],
    of ? `${exactFigure({ amount, unit: currencyUnit(of.currency) })} on profit` : '',
    returns === '' ? '' : `back in ${of?.later.find(({ key }) => key === returns)?.name ?? returns}`,
  ]
    .filter(Boolean)
    .join(' · ');
}
