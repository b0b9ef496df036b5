import { exactFigure, formatFigure, type Figure, noteOf } from '@margin-lens/core/shown';
import type { CellView, TraceLabelView, TraceView } from '@margin-lens/contract';
import type { LensStep } from './lens-store';

const BALANCE_WORDS = {
  movement: 'Movement',
  opening: 'Opening',
  closing: 'Closing',
  opening_entries: 'Brought forward',
  roll_over: 'Result of the year before',
} as const;

/** A term's name and the thin text behind it. */
export function labelWords(
  label: TraceLabelView,
  isNamed: 'rows' | 'columns' | 'both' = 'both',
): { name: string; thin: string } {
  switch (label.kind) {
    case 'cell':
      if (isNamed === 'rows') return { name: label.row, thin: '' };
      if (isNamed === 'columns') return { name: columnWords(label), thin: '' };
      return { name: label.row, thin: columnWords(label) };
    case 'account':
      return { name: `${label.number} ${label.name}`, thin: '' };
    case 'entity':
      return { name: label.entity, thin: label.period };
    case 'period':
      return { name: label.period, thin: label.what === 'movement' ? '' : BALANCE_WORDS[label.what] };
  }
}

const columnWords = ({ block, column }: { block: string; column: string }) =>
  [block, column].filter(Boolean).join(' · ');

/** Whether the terms of a level differ by row, by column, or in both. */
export function namedBy({ label, terms }: TraceView): 'rows' | 'columns' | 'both' {
  const cells = terms.map((term) => term.label).filter((l) => l.kind === 'cell');
  if (label.kind !== 'cell' || cells.length < terms.length) return 'both';
  if (cells.every((cell) => cell.row === label.row)) return 'columns';
  return cells.every((cell) => cell.column === label.column && cell.block === label.block) ? 'rows' : 'both';
}

/** What happens on a level, as a heading over its terms. */
export function levelHeading({ operation, terms, omitted, rate }: TraceView): { title: string; aside: string } {
  const kinds = new Set(terms.map((term) => term.label.kind));
  const noun = kinds.has('account') ? 'account' : kinds.has('period') ? 'period' : 'part';
  const aside = omitted > 0 ? `${omitted} without figures left out` : '';
  switch (operation) {
    case 'sum':
      return { title: `Sum of ${terms.length} ${noun}${terms.length === 1 ? '' : 's'}`, aside };
    case 'members':
      return { title: `Sum of ${terms.length} ${terms.length === 1 ? 'entity' : 'entities'}`, aside };
    case 'scaled':
      return { title: 'Translated', aside: rate ? rateWords(rate) : '' };
    case 'difference':
      return { title: 'Difference', aside: 'first less second' };
    case 'percent_change':
      return { title: 'Change in percent', aside: '(first − second) ÷ |second|' };
    case 'quotient':
      return { title: 'Ratio', aside: 'first ÷ second' };
    case 'mean':
      return { title: `Mean of ${terms.length}`, aside: 'added up and divided by their number' };
    case 'formula':
      return { title: 'Formula', aside: '' };
    case 'postings':
      return { title: 'Journal lines', aside: '' };
    case 'hidden':
      return { title: 'Not permitted', aside: 'what it is made of is not yours to see' };
    case 'undefined':
      return { title: 'No figure', aside: '' };
  }
}

/** The line that proves a level: its terms put together again give the figure above. */
export function proofOf(level: TraceView): { text: string; holds: boolean } | undefined {
  const { figure, operation, terms, sum, postings } = level;
  const shown = exactFigure(figure);
  if (operation === 'postings' && postings) {
    const holds = postings.total === figure.amount;
    return {
      text: `${postings.count.toLocaleString('en-GB')} lines add up to ${exactFigure({ ...figure, amount: postings.total })}`,
      holds,
    };
  }
  if (operation === 'undefined' || operation === 'hidden' || figure.amount === null) return undefined;
  if (operation === 'scaled' && level.rate) return translationProof(level, level.rate);
  if (operation === 'sum' || operation === 'members')
    return { text: `The terms add up to ${exactFigure({ ...figure, amount: sum })}`, holds: sum === figure.amount };
  if (operation === 'formula') return { text: `${level.formula} = ${shown}${unitWord(figure)}`, holds: true };
  if (operation === 'mean') return { text: `The sum divided by ${terms.length} is ${shown}`, holds: true };
  const [of, base] = terms.map((term) => exactFigure(term.figure)) as [string, string];
  if (operation === 'difference') return { text: `${of} − ${base} = ${shown}${unitWord(figure)}`, holds: true };
  if (operation === 'quotient') return { text: `${of} ÷ ${base} = ${shown}${unitWord(figure)}`, holds: true };
  return { text: `(${of} − ${base}) ÷ |${base}| = ${shown} %`, holds: true };
}

/** @example rateWords({ from: 'PLN', to: 'EUR', rate: '4.3121', isInverse: true, rest: 0 }) // '4.3121 PLN for 1 EUR, the month’s average' */
function rateWords({ from, to, rate, isInverse }: NonNullable<TraceView['rate']>): string {
  return `${rate} ${isInverse ? `${from} for 1 ${to}` : `${to} for 1 ${from}`}, the month’s average`;
}

/** The amount in its own currency, the rate, and what rounding gave so that parts add up. */
function translationProof({ figure, terms }: TraceView, { rate, isInverse, rest }: NonNullable<TraceView['rate']>) {
  const local = terms.reduce((sum, term) => sum + (term.figure.amount ?? 0), 0);
  const own = terms[0] ? exactFigure({ ...terms[0].figure, amount: local }) : '0';
  const rounding = rest === 0 ? '' : `, with ${exactFigure({ ...figure, amount: rest })} so that parts add up`;
  return { text: `${own} ${isInverse ? '÷' : '×'} ${rate} = ${exactFigure(figure)}${rounding}`, holds: true };
}

const unitWord = ({ unit }: Figure) => {
  if (unit.kind === 'points') return ' percentage points';
  if (unit.kind === 'basis_points') return ' basis points';
  return unit.kind === 'ratio' ? ' %' : unit.kind === 'days' ? ' days' : '';
};

/** The big number's unit, said after it. */
export function unitAfter({ unit, amount, word }: Figure): string {
  if (amount === null || word) return '';
  if (unit.kind === 'currency') return unit.code;
  if (unit.kind === 'points') return 'percentage points';
  if (unit.kind === 'basis_points') return 'basis points';
  if (unit.kind === 'days') return 'days';
  if (unit.kind === 'number') return '';
  return unit.kind === 'count' ? unit.name : '%';
}

/** A sentence about the selected figure: good or bad and by what percentage, or why there is none. */
export function sentenceOf(cell: CellView | undefined, percent?: CellView): string {
  if (!cell) return '';
  const share = percent?.amount ? `${formatFigure({ ...percent, amount: Math.abs(percent.amount) }, 1)} %` : '';
  const judged = [cell.favour ?? '', share].filter(Boolean).join(', ');
  return [judged, noteOf(cell)].filter(Boolean).join(' · ');
}

export interface Crumb {
  name: string;
  thin: string;
  amount: string;
}

/** The levels above; a month that was opened by its account alone bears the name of the account. */
export function crumbsOf(steps: readonly LensStep[]): Crumb[] {
  return steps.map((step, at) => {
    if (step.kind === 'journal') return { name: `Journal ${step.journal.number}`, thin: '', amount: '' };
    const { label, figure } = step.level;
    const above = steps[at - 1];
    const isNamedAbove = above?.kind === 'level' && above.level.label.kind === 'account';
    const words =
      label.kind === 'period' && !isNamedAbove
        ? { name: `${label.number} ${label.name}`, thin: label.period }
        : labelWords(label);
    return { ...words, amount: exactFigure(figure) };
  });
}
