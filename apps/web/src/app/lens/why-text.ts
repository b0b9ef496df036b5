import { exactFigure, formatFigure, REST, type ShownUnit } from '@margin-lens/core';
import type { WhyView } from '@margin-lens/contract';

/** A draft of the explanation in words: the whole, then the two largest parts, and what goes against them. */
export function whySentence({ row, of, base, from, to, unit, terms }: WhyView, shown: ShownUnit): string {
  const change = to - from;
  const text = (amount: number) => formatFigure({ amount, unit }, shown);
  if (change === 0) return `${row}: ${of} is as ${base}.`;
  const named = terms.filter(({ id }) => id !== REST);
  const along = named.filter(({ amount }) => Math.sign(amount) === Math.sign(change)).slice(0, 2);
  const [against] = named.filter(({ amount }) => Math.sign(amount) === -Math.sign(change));
  const parts = along.map(({ label, amount }) => `${label} ${text(amount)}`).join(' and ');
  const offset = against ? `, partly offset by ${against.label} ${text(against.amount)}` : '';
  return `${row}: ${of} ${text(change)} against ${base}${parts === '' ? '' : `, mostly ${parts}`}${offset}.`;
}

export const exactOf = ({ unit }: WhyView, amount: number): string => exactFigure({ amount, unit });
