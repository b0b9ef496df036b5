import type { DocumentMatch, MatchState } from '../books/match-documents';
import { digitsOf } from '../currency/minor-units';
import { exactFigure } from '../figure/format-figure';
import { dayShort } from '../period/period-name';
import type { LiveFormula } from './live-formula';
import type { Page, PageCell, PageRow } from './page';
import { countText } from '../words/writing-style';

/** What two entities have with each other by a rule, document by document. Units: minor units, debit positive. */
export interface PairStatement {
  group: string;
  /** ISO 4217 code that the balance is told in. */
  currency: string;
  asAt: string;
  rule: string;
  one: string;
  other: string;
  documents: readonly DocumentMatch[];
  /** Null where it cannot be told. */
  balance: Record<'own' | 'theirs' | 'difference' | 'booking' | 'rate', number | null>;
  /** What would make the sides agree, in sentences. */
  advice: readonly string[];
}

/** Documents that are listed one by one, of those that meet and of those that do not: the newest of them. */
const MOST_LISTED = 2_000; // 100 to 20,000

const STATE_WORDS: Record<MatchState, string> = {
  meets: '',
  alone: 'one side alone',
  other_amount: 'another amount',
  other_document: 'another number',
};

type Amounts = readonly [own: number | null, theirs: number | null, difference: number | null];

/**
 * A statement of a pair as a page that can be sent to a partner's bookkeeper: by currency what does not meet and what does,
 * with live sums, then the balance in the currency of the group and what the difference is of.
 */
export function pairPage(statement: PairStatement): Page {
  const { group, currency, asAt, rule, one, other, documents, balance, advice } = statement;
  const rows: PageRow[] = [];
  const add = (label: string, more: Partial<PageRow>) =>
    rows.push({
      ...{
        id: `r${rows.length}`,
        label,
        note: '',
        style: 'detail',
        kind: 'figures',
        depth: 0,
        startsPage: false,
        cells: [],
      },
      ...more,
    });
  const cells = (code: string, amounts: Amounts, formulaAt: (column: number) => LiveFormula | undefined): PageCell[] =>
    amounts.map((amount, column) => {
      const figure = { amount, unit: { kind: 'currency' as const, code, digits: digitsOf(code) } };
      return {
        ...{ figure, unit: figure.unit, decimals: digitsOf(code), note: '', address: `r${rows.length}~${column}` },
        text: amount === null ? '' : amount === 0 ? '–' : exactFigure(figure),
        formula: amount === null ? undefined : formulaAt(column),
      };
    });
  const apart = (column: number): LiveFormula | undefined =>
    column < 2 ? undefined : [{ row: rows.length, column: 0 }, '+', { row: rows.length, column: 1 }];
  const list = (code: string, matches: readonly DocumentMatch[], words: string) => {
    const earlier = matches.slice(0, -MOST_LISTED);
    if (earlier.length > 0)
      add(`${countText(earlier.length)} earlier documents that ${words}`, {
        depth: 1,
        cells: cells(code, amountsOf(earlier), apart),
      });
    for (const match of matches.slice(-MOST_LISTED))
      add(labelOf(match), { note: match.text, depth: 1, cells: cells(code, amountsOf([match]), apart) });
  };
  for (const code of new Set(documents.map((each) => each.currency))) {
    const all = documents.filter((each) => each.currency === code);
    const met = all.filter(({ state }) => state === 'meets');
    const open = all.filter(({ state }) => state !== 'meets');
    add(code, { style: 'heading', kind: 'words' });
    const first = rows.length;
    list(code, open, 'do not');
    list(code, met, 'meet');
    const sum = (column: number): LiveFormula => [
      'SUM(',
      { row: first, column },
      ':',
      { row: rows.length - 1, column },
      ')',
    ];
    add(`Together in ${code}`, { style: 'result', cells: cells(code, amountsOf(all), sum) });
  }
  const none = () => undefined;
  const { own, theirs, difference, booking, rate } = balance;
  add(`Balance in ${currency}`, { style: 'heading', kind: 'words' });
  add('As it stands in the group', { depth: 1, cells: cells(currency, [own, theirs, difference], apart) });
  add('of which booked otherwise', { depth: 2, cells: cells(currency, [null, null, booking], none) });
  add('of which exchange rates', { depth: 2, cells: cells(currency, [null, null, rate], none) });
  return {
    title: `${one} and ${other}`,
    subtitle: `${rule} · ${group}`,
    asAt: `documents up to the end of ${asAt}; claims and expense positive`,
    ...{ header: '', footer: '' },
    blocks: [
      {
        kind: 'table',
        table: {
          labelHead: 'Document',
          look: {},
          columns: [`${one} has`, `${other} has`, 'Difference'].map((label, at) => ({
            ...{
              id: `c${at}`,
              label,
              block: '',
              blockLabel: '',
              dates: '',
              isDated: true,
              flags: [],
              notation: 'none',
            },
            note: '',
            width: 150,
          })),
          rows,
        },
      },
      ...(advice.length > 0 ? [{ kind: 'heading' as const, text: 'What would make them agree' }] : []),
      ...advice.map((text) => ({ kind: 'text' as const, text })),
    ],
  };
}

function labelOf({ document, otherDocument, date, text, state }: DocumentMatch): string {
  const named = [document || text, otherDocument].filter(Boolean).join(' / ');
  return [dayShort(date), named, STATE_WORDS[state]].filter(Boolean).join(' · ');
}

function amountsOf(matches: readonly DocumentMatch[]): Amounts {
  const sum = (of: (match: DocumentMatch) => number) => matches.reduce((total, match) => total + of(match), 0);
  const [own, theirs] = [sum((match) => match.own), sum((match) => match.theirs)];
  return [own, theirs, own + theirs];
}
