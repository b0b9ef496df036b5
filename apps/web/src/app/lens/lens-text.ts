import {
  ELIMINATION_REASON_WORDS,
  ELIMINATION_WORDS,
  exactFigure,
  formatFigure,
  type Figure,
  noteOf,
  countText,
} from '@margin-lens/core/shown';
import type { CellView, TraceLabelView, TraceView } from '@margin-lens/contract';
import type { LensStep } from './lens-store';
import { turnedProof, turnedWords } from './turned-text';

const PLACE_WORDS = {
  movement: 'Movement',
  flow: 'Posted',
  exchange_difference: 'Exchange difference',
  entered: 'Came into the group',
  left: 'Left the group',
  opening: 'Opening',
  closing: 'Closing',
  opening_entries: 'Brought forward',
  roll_over: 'Result of the year before',
  reserve_net_assets: 'Net assets × change of closing',
  reserve_result: 'Result × closing less average',
  reserve_other: 'Posted × closing less its own',
  reserve_rounding: 'Rounding',
} as const;

/** A term's name and the thin text behind it; of several entities the entity is the name, else what stands there. */
export function labelWords(
  label: TraceLabelView,
  isNamed: NamedBy = 'both',
  isOfMany = false,
): { name: string; thin: string } {
  switch (label.kind) {
    case 'cell':
      if (isNamed === 'rows') return { name: label.row, thin: '' };
      if (isNamed === 'columns') return { name: columnWords(label), thin: '' };
      if (isNamed === 'columns of the block') return { name: label.column, thin: '' };
      return { name: label.row, thin: columnWords(label) };
    case 'account':
      return { name: `${label.number} ${label.name}`, thin: '' };
    case 'entity': {
      const [place, ...more] = placeWords(label);
      if (isOfMany || place === undefined)
        return { name: label.entity, thin: [...placeWords(label), label.period].join(' · ') };
      return { name: place, thin: [...more, label.entity, label.period].join(' · ') };
    }
    case 'eliminations':
      if (isOfMany) return { name: 'Eliminations', thin: [...placeWords(label), label.period].join(' · ') };
      return { name: label.period, thin: [...placeWords(label), 'Eliminations'].join(' · ') };
    case 'elimination': {
      const { of, reason, rule, text, entity, partner } = label;
      const between = [entity, partner].filter(Boolean).join(' and ');
      return {
        name: ELIMINATION_WORDS[of] + (rule === '' ? '' : `: ${rule}`),
        thin: [text || ELIMINATION_REASON_WORDS[reason], between].filter(Boolean).join(' · '),
      };
    }
    case 'period':
      return { name: label.period, thin: placeWords(label).join(' · ') };
  }
}

/** What stands at a place in the books; a plain movement goes without saying, and one step names the account it is of. */
const placeWords = ({
  what,
  number,
  name,
}: Extract<TraceLabelView, { kind: 'entity' | 'eliminations' | 'period' }>): string[] =>
  what === 'movement' ? [] : [PLACE_WORDS[what], ...(what === 'reserve_other' ? [`${number} ${name}`] : [])];

const columnWords = ({ block, column }: { block: string; column: string }) =>
  [block, column].filter(Boolean).join(' · ');

/** What tells the terms of a level apart: their rows, their columns, those of the block that the level is of, or both. */
type NamedBy = 'rows' | 'columns' | 'columns of the block' | 'both';

export function namedBy({ label, terms }: TraceView): NamedBy {
  const cells = terms.map((term) => term.label).filter((l) => l.kind === 'cell');
  if (label.kind !== 'cell' || cells.length < terms.length) return 'both';
  if (cells.every((cell) => cell.row === label.row))
    return cells.every((cell) => cell.block === label.block) ? 'columns of the block' : 'columns';
  return cells.every((cell) => cell.column === label.column && cell.block === label.block) ? 'rows' : 'both';
}

/** What happens on a level, as a heading over its terms. */
export function levelHeading({ operation, terms, omitted, turned }: TraceView): { title: string; aside: string } {
  const kinds = new Set(terms.map((term) => term.label.kind));
  const noun = kinds.has('account') ? 'account' : kinds.has('period') ? 'period' : 'part';
  const aside = omitted > 0 ? `${omitted} without figures left out` : '';
  switch (operation) {
    case 'sum':
      return { title: `Sum of ${terms.length} ${noun}${terms.length === 1 ? '' : 's'}`, aside };
    case 'members': {
      const entities = terms.filter(({ label }) => label.kind === 'entity').length;
      const rest = kinds.has('eliminations') ? ' and eliminations' : '';
      if (entities === 0 && rest !== '') return { title: 'Eliminations alone', aside };
      return { title: `Sum of ${entities} ${entities === 1 ? 'entity' : 'entities'}${rest}`, aside };
    }
    case 'eliminations':
      return { title: `Sum of ${terms.length} ${terms.length === 1 ? 'elimination' : 'eliminations'}`, aside };
    case 'elimination':
      return { title: terms.length === 0 ? 'From what is said of the group' : 'Found from', aside: '' };
    case 'scaled':
    case 'at_difference':
      return {
        title: turned?.at.type === 'share' ? 'Part that the group takes' : 'Translated',
        aside: turned ? turnedWords(turned) : '',
      };
    case 'rounding':
      return { title: 'Rounding', aside: 'what the exact steps leave when they are shown rounded' };
    case 'difference':
      return { title: 'Difference', aside: 'first less second' };
    case 'percent_change':
      return { title: 'Change in percent', aside: '(first − second) ÷ |second|' };
    case 'quotient':
      return { title: 'Ratio', aside: 'first ÷ second' };
    case 'rank':
      return { title: 'Rank', aside: 'the first among the others, the largest first' };
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

/** Operations whose terms add up to the figure. */
export const SUMS: ReadonlySet<TraceView['operation']> = new Set(['sum', 'members', 'eliminations']);

/** The line that proves a level: its terms put together again give the figure above. */
export function proofOf(level: TraceView): { text: string; holds: boolean } | undefined {
  const { figure, operation, terms, sum, postings } = level;
  const shown = exactFigure(figure);
  if (operation === 'postings' && postings) {
    const holds = postings.total === figure.amount;
    return {
      text: `${countText(postings.count)} lines add up to ${exactFigure({ ...figure, amount: postings.total })}`,
      holds,
    };
  }
  if (['undefined', 'hidden', 'rounding', 'elimination'].includes(operation) || figure.amount === null)
    return undefined;
  if (level.turned) return { text: turnedProof(level, level.turned), holds: true };
  if (SUMS.has(operation))
    return { text: `The terms add up to ${exactFigure({ ...figure, amount: sum })}`, holds: sum === figure.amount };
  if (operation === 'formula') return { text: `${level.formula} = ${shown}${unitWord(figure)}`, holds: true };
  if (operation === 'rank') return { text: `Number ${shown} of ${terms.length}`, holds: true };
  if (operation === 'mean') return { text: `The sum divided by ${terms.length} is ${shown}`, holds: true };
  const [of, base] = terms.map((term) => exactFigure(term.figure)) as [string, string];
  if (operation === 'difference') return { text: `${of} − ${base} = ${shown}${unitWord(figure)}`, holds: true };
  if (operation === 'quotient') return { text: `${of} ÷ ${base} = ${shown}${unitWord(figure)}`, holds: true };
  return { text: `(${of} − ${base}) ÷ |${base}| = ${shown} %`, holds: true };
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
