import { readSelector, selectorText, type AccountSet } from '../account/account-set';
import type { Account } from '../account/nature';
import { storeFormula, typedFormula, type NameSpace } from '../formula/formula-names';
import { freshId } from './edit-rows';
import { outlineOf, type Row, type RowKind } from './row-layout';

/** What rows are called in text, and the other way round. */
const KIND_WORDS: Record<RowKind, string> = {
  accounts: 'accounts',
  statistic: 'statistic',
  cash_flow: 'cash flow',
  group: 'total',
  formula: 'formula',
  ratio: 'ratio',
  heading: 'heading',
  text: 'text',
  line: 'line',
  blank: 'blank',
};

/** What a statistic of quantities is called, beside one of statistical accounts. */
const QUANTITY = 'quantity';

const kindWords = (row: Row): string => (row.kind === 'statistic' && row.counts ? QUANTITY : KIND_WORDS[row.kind]);

/** An account set as it is written. @example '6400–6489, 6495 without 6410' */
export function accountSetText({ include, exclude = [] }: AccountSet): string {
  const kept = include.map(selectorText).join(', ');
  return exclude.length === 0 ? kept : `${kept} without ${exclude.map(selectorText).join(', ')}`;
}

/** Reads a written account set; the first part that the chart does not know is named. */
export function readAccountSet(text: string, accounts: readonly Account[]): { set: AccountSet } | { unknown: string } {
  const [kept = '', left = ''] = text.split(/\s+without\s+/);
  const read = (part: string) =>
    part
      .split(',')
      .map((rule) => rule.trim())
      .filter(Boolean)
      .map((rule) => readSelector(rule, accounts) ?? rule);
  const [include, exclude] = [read(kept), read(left)];
  const unknown = [...include, ...exclude].find((rule) => typeof rule === 'string');
  if (typeof unknown === 'string') return { unknown };
  const set = {
    include: include as AccountSet['include'],
    ...(exclude.length > 0 ? { exclude: exclude as AccountSet['include'] } : {}),
  };
  return include.length === 0 ? { unknown: text } : { set };
}

/** What a row holds, as it is written in a spreadsheet beside its label. */
function holdsText(row: Row, names: NameSpace): string {
  const labelOf = (id: string) => names.own.find((other) => other.id === id)?.label ?? id;
  switch (row.kind) {
    case 'accounts':
    case 'statistic':
      return accountSetText(row.accounts);
    case 'cash_flow':
      return row.line;
    case 'formula':
      return typedFormula(row.formula, names);
    case 'ratio':
      return `${labelOf(row.numerator)} ÷ ${labelOf(row.denominator)}`;
    default:
      return '';
  }
}

/**
 * Rows as tab-separated text: label, indented two spaces a level, kind, and what it holds.
 * @example 'Cost of sales\ttotal\t\n  Energy\taccounts\t6400–6489, 6495'
 */
export function rowsAsText(rows: readonly Row[], names: NameSpace): string {
  return outlineOf(rows)
    .map(({ row, depth }) => [`${'  '.repeat(depth)}${row.label}`, kindWords(row), holdsText(row, names)].join('\t'))
    .join('\n');
}

/**
 * Reads rows from tab-separated text, as `rowsAsText` writes it or as a list of labels from a spreadsheet.
 *
 * A label that is a heading, sub-heading or account of the chart and says no more becomes a row of accounts; any other
 * a heading. Formulas may name the rows of the text and those of the layout.
 * Missing: what cannot be read becomes a heading, and is said in `unread`.
 */
export function rowsFromText(
  text: string,
  accounts: readonly Account[],
  names: NameSpace,
): { rows: Row[]; unread: string[] } {
  const taken = new Set(names.own.map(({ id }) => id));
  const lines = text
    .replace(/\r/g, '')
    .split('\n')
    .filter((line) => line.trim() !== '');
  const read = lines.map((line) => {
    const [label = '', kind = '', holds = ''] = line.split('\t');
    const id = freshId(label, taken);
    taken.add(id);
    return {
      id,
      label: label.trim(),
      depth: Math.floor(/^ */.exec(label)![0].length / 2),
      kind: kind.trim(),
      holds: holds.trim(),
    };
  });
  const known: NameSpace = { ...names, own: [...names.own, ...read.map(({ id, label }) => ({ id, label }))] };
  const unread: string[] = [];
  const made = read.map(({ id, label, kind, holds, depth }) => {
    const row = rowFromText({ id, label }, kind, holds, accounts, known);
    if (!row) unread.push(label);
    return { depth, row: row ?? { kind: 'heading' as const, id, label } };
  });
  return { rows: nested(made), unread };
}

function rowFromText(
  base: { id: string; label: string },
  words: string,
  holds: string,
  accounts: readonly Account[],
  names: NameSpace,
): Row | undefined {
  const kind =
    words.toLowerCase() === QUANTITY
      ? 'statistic'
      : (Object.keys(KIND_WORDS) as RowKind[]).find((one) => KIND_WORDS[one] === words.toLowerCase());
  switch (kind) {
    case undefined: {
      const selector = readSelector(base.label, accounts);
      if (selector) return { kind: 'accounts', ...base, accounts: { include: [selector] } };
      return words === '' ? { kind: 'heading', ...base } : undefined;
    }
    case 'accounts':
    case 'statistic': {
      const read = readAccountSet(holds, accounts);
      const counts = words.toLowerCase() === QUANTITY ? { counts: 'quantity' as const } : {};
      return 'set' in read ? { kind, ...base, ...counts, accounts: read.set } : undefined;
    }
    case 'cash_flow':
      return holds === '' ? undefined : { kind, ...base, line: holds };
    case 'group':
      return { kind, ...base, children: [] };
    case 'formula':
    case 'ratio': {
      const stored = storeFormula(holds, names);
      if (stored.error) return undefined;
      const parts = /^\{(\w+)\}\s*[÷/]\s*\{(\w+)\}$/.exec(stored.formula);
      if (kind === 'ratio' && parts) return { kind, ...base, numerator: parts[1]!, denominator: parts[2]! };
      return { kind: 'formula', ...base, formula: stored.formula };
    }
    default:
      return { kind, ...base };
  }
}

/** Puts rows that are indented further than a total before them into it. */
function nested(flat: readonly { depth: number; row: Row }[]): Row[] {
  const top: Row[] = [];
  const open: { depth: number; children: Row[] }[] = [];
  for (const { depth, row } of flat) {
    while (open.length > 0 && open[open.length - 1]!.depth >= depth) open.pop();
    const into = open[open.length - 1]?.children ?? top;
    if (row.kind === 'group') {
      const children: Row[] = [];
      into.push({ ...row, children });
      open.push({ depth, children });
    } else into.push(row);
  }
  return top;
}
