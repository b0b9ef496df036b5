import { isProfitOrLoss, type Account } from '../account/nature';
import type { AccountSelector } from '../account/account-set';
import type { CashFlowRule } from '../books/cash-flow-rule';
import { freshId } from './edit-rows';
import type { AccountsRow, FormulaRow, GroupRow, LayoutPurpose, Row, RowLayout, RowReading } from './row-layout';
import { inWords, sentenceCase, withinSentence } from '../words/in-words';

/** Makes rows with ids of their own. */
class RowMaker {
  private readonly taken = new Set<string>();

  id(words: string): string {
    const made = freshId(words, this.taken);
    this.taken.add(made);
    return made;
  }

  accounts(label: string, include: AccountSelector[], more: Partial<AccountsRow> = {}): AccountsRow {
    return { kind: 'accounts', id: this.id(label), label, accounts: { include }, ...more };
  }

  group(label: string, more: Partial<GroupRow>, children: () => Row[]): GroupRow {
    const id = this.id(label);
    return { kind: 'group', id, label, ...more, children: children() };
  }

  sum(label: string, parts: readonly { id: string; sign: 1 | -1 }[], more: Partial<FormulaRow> = {}): FormulaRow {
    const formula = parts
      .map(({ id, sign }, at) => `${sign < 0 ? (at === 0 ? '-' : ' - ') : at === 0 ? '' : ' + '}{${id}}`)
      .join('');
    return { kind: 'formula', id: this.id(label), label, style: 'result', formula, ...more };
  }
}

const distinct = (texts: readonly string[]) => [...new Set(texts)];

/** One row for each sub-heading of some accounts of a chart, or for the heading where there is none. */
function rowsBySubHeading(
  make: RowMaker,
  chart: readonly Account[],
  accounts: readonly Account[],
  more: Partial<AccountsRow>,
): AccountsRow[] {
  return distinct(accounts.map(({ heading, subHeading }) => `${heading}\n${subHeading}`)).map((key) => {
    const [heading, subHeading] = key.split('\n') as [string, string];
    const isUnder = (account: Account) => account.heading === heading && account.subHeading === subHeading;
    const held = accounts.filter(isUnder);
    const row = make.accounts(
      subHeading || heading || 'Without heading',
      held.map(({ number }) => ({ by: 'account', number })),
      more,
    );
    if (!heading || !subHeading) return row;
    // by sub-heading, so that accounts added later find their row
    const others = chart.filter((account) => isUnder(account) && !held.includes(account));
    const exclude =
      others.length === 0 ? {} : { exclude: others.map(({ number }) => ({ by: 'account' as const, number })) };
    return { ...row, accounts: { include: [{ by: 'sub_heading', heading, subHeading }], ...exclude } };
  });
}

function incomeRows(accounts: readonly Account[]): Pick<RowLayout, 'rows' | 'shareBase' | 'result'> {
  const make = new RowMaker();
  const held = accounts.filter(isProfitOrLoss);
  const groups = distinct(held.map(({ heading }) => heading)).map((heading) => {
    const inHeading = held.filter((account) => account.heading === heading);
    const isCost = inHeading.every(({ nature }) => nature === 'expense');
    const look = { shown: isCost ? 'brackets' : 'plain', orientation: isCost ? 'debit' : 'credit' } as const;
    return make.group(heading || 'Without heading', look, () => rowsBySubHeading(make, accounts, inHeading, look));
  });
  const isIncome = ({ orientation }: GroupRow) => orientation === 'credit';
  const shareBase = groups.find(isIncome)?.id;
  const profit = make.sum(
    'Profit for the period',
    groups.map((group) => ({ id: group.id, sign: isIncome(group) ? 1 : -1 })),
    { id: 'profit', direction: 'up' },
  );
  return {
    ...(shareBase ? { shareBase } : {}),
    result: profit.id,
    rows: groups.length === 0 ? [] : [...groups, profit],
  };
}

function balanceSheetRows(
  accounts: readonly Account[],
): Pick<RowLayout, 'rows' | 'shareBase' | 'result' | 'counterpart'> {
  const make = new RowMaker();
  const byHeading = (held: readonly Account[], orientation: 'debit' | 'credit', extra: () => Row[] = () => []) => {
    const headings = distinct(held.map(({ heading }) => heading));
    return headings.map((heading, at) =>
      make.group(heading || 'Without heading', { orientation }, () => [
        ...rowsBySubHeading(
          make,
          accounts,
          held.filter((account) => account.heading === heading),
          { orientation },
        ),
        ...(at === 0 ? extra() : []),
      ]),
    );
  };
  const ofNature = (nature: Account['nature']) => accounts.filter((account) => account.nature === nature);
  const result = () => [
    make.accounts('Result for the year', natures('income', 'expense'), {
      orientation: 'credit',
      reads: 'closing',
      direction: 'neutral',
    }),
  ];
  const assets = make.group('Total assets', { orientation: 'debit', style: 'result' }, () =>
    byHeading(ofNature('asset'), 'debit'),
  );
  const funds = make.group('Total equity and liabilities', { orientation: 'credit', style: 'result' }, () => {
    const equity = ofNature('equity');
    const own = equity.length > 0 ? byHeading(equity, 'credit', result) : result();
    return [...own, ...byHeading(ofNature('liability'), 'credit')];
  });
  return { shareBase: assets.id, result: assets.id, counterpart: funds.id, rows: [assets, funds] };
}

/** Every account once, debit positive, so that all together come to nothing. @source double entry */
function trialBalanceRows(accounts: readonly Account[]): Pick<RowLayout, 'rows' | 'covers'> {
  const make = new RowMaker();
  const held = accounts.filter(({ nature }) => nature !== 'statistic');
  const debit = { orientation: 'debit', direction: 'neutral' } as const;
  const groups = distinct(held.map(({ heading }) => heading)).map((heading) =>
    make.group(heading || 'Without heading', debit, () =>
      rowsBySubHeading(
        make,
        accounts,
        held.filter((account) => account.heading === heading),
        debit,
      ),
    ),
  );
  const total = make.sum(
    'Total',
    groups.map(({ id }) => ({ id, sign: 1 })),
    debit,
  );
  const natures = [...new Set(held.map(({ nature }) => nature))];
  const covers = { include: natures.map((nature) => ({ by: 'nature' as const, nature })) };
  return groups.length === 0 ? { rows: [] } : { covers, rows: [...groups, total] };
}

type Section = 'operating' | 'investing' | 'financing';

const LASTING = /non-current|fixed|property|plant|intangible|investment|long-term/i;
const FUNDING = /borrow|loan|lease|debt|bank|capital|dividend/i;

/** Where the movements of an account belong in a cash flow. @source IAS 7.10 to 7.17 (from memory), by heading */
function sectionOf({ nature, heading, subHeading, role }: Account): Section {
  const words = `${heading} ${subHeading}`;
  if (nature === 'equity' || role === 'dividends') return 'financing';
  if (nature === 'asset' && LASTING.test(words)) return 'investing';
  return nature === 'liability' && FUNDING.test(words) ? 'financing' : 'operating';
}

const sentence = (line: string) => sentenceCase(inWords(line));

function cashFlowRows(
  accounts: readonly Account[],
  rules: readonly CashFlowRule[],
): Pick<RowLayout, 'rows' | 'result'> {
  const make = new RowMaker();
  const byNumber = new Map(accounts.map((account) => [account.number, account]));
  const ruled = new Set(rules.map(({ account }) => account));
  const flow = { orientation: 'credit', reads: 'flow' as RowReading, direction: 'neutral' } as const;

  const lines = distinct(rules.map(({ line }) => line)).map((line) => {
    const own = rules.filter((rule) => rule.line === line);
    const isWornOff = own.every(({ flow: code }) => /dep|amort|impair/i.test(code));
    const sections = new Set(own.map((rule) => sectionOf(byNumber.get(rule.account)!)));
    const section: Section =
      isWornOff || sections.has('operating') ? 'operating' : sections.has('investing') ? 'investing' : 'financing';
    const isProfit = own.some((rule) => isProfitOrLoss(byNumber.get(rule.account)!));
    return {
      section,
      isProfit,
      row: { kind: 'cash_flow', id: make.id(line), label: sentence(line), line } satisfies Row,
    };
  });
  const free = accounts.filter(
    (account) => account.nature !== 'statistic' && account.role !== 'cash' && !ruled.has(account.number),
  );
  const results = free.filter(isProfitOrLoss);
  const others = (section: Section) =>
    rowsBySubHeading(
      make,
      accounts,
      free.filter((account) => !isProfitOrLoss(account) && sectionOf(account) === section),
      flow,
    ).map((row) => ({
      ...row,
      label: `Change in ${withinSentence(row.label)}`,
    }));
  const profit = () =>
    results.length === 0
      ? []
      : [
          make.accounts(
            'Profit for the period',
            ruled.size === 0 ? natures('income', 'expense') : results.map(({ number }) => ({ by: 'account', number })),
            flow,
          ),
        ];
  const group = (label: string, section: Section, first: () => Row[] = () => []) =>
    make.group(label, { orientation: 'credit', direction: 'neutral' }, () => [
      ...first(),
      ...lines
        .filter((line) => line.section === section)
        .sort((a, b) => Number(b.isProfit) - Number(a.isProfit))
        .map(({ row }) => row),
      ...others(section),
    ]);
  const groups = [
    group('Cash flow from operating activities', 'operating', profit),
    group('Cash flow from investing activities', 'investing'),
    group('Cash flow from financing activities', 'financing'),
  ].filter(({ children }) => children.length > 0);
  const beside = [
    ...cashBesideFlows(make),
    make.accounts('Rounding, and exchange differences in the result', natures('asset', 'liability', 'equity'), {
      ...{ reads: 'exchange_difference', orientation: 'credit', direction: 'neutral', whenEmpty: 'hide' },
    }),
  ];
  const change = make.sum(
    'Change in cash',
    [...groups, ...beside].map(({ id }) => ({ id, sign: 1 })),
    { direction: 'neutral' },
  );
  const cash = (label: string, reads: RowReading) =>
    make.accounts(label, [{ by: 'role', role: 'cash' }], { reads, orientation: 'debit', direction: 'neutral' });
  return {
    result: change.id,
    rows: [...groups, ...beside, change, cash('Cash at the beginning', 'opening'), cash('Cash at the end', 'closing')],
  };
}

const natures = (...all: Account['nature'][]): AccountsRow['accounts']['include'] =>
  all.map((nature) => ({ by: 'nature', nature }));

/** What of cash no flow tells, of groups and in other currencies: what rates do to it, and what entities bring and take. */
function cashBesideFlows(make: RowMaker): Row[] {
  const row = (label: string, reads: RowReading, include: AccountSelector[]) =>
    make.accounts(label, include, { reads, orientation: 'debit', direction: 'neutral', whenEmpty: 'hide' });
  const of = (role: string): AccountSelector[] => [{ by: 'role', role }];
  return [
    row('Effect of exchange rates on cash', 'exchange_difference', of('cash')),
    row('Cash that came with entities', 'entered', of('cash')),
    row('Gain on entities that came', 'entered', of('bargain_purchase_gain')),
    row('Cash that went with entities', 'left', of('cash')),
    row('Gain on entities that went, in their holders’ books', 'left', of('disposal_gain')),
  ];
}

/** What rows can be proposed for; a trial balance is of no purpose of its own. */
export type ProposedPurpose = Exclude<LayoutPurpose, 'free'> | 'trial_balance';

const NAMES: Record<ProposedPurpose, string> = {
  income: 'Income by heading',
  balance_sheet: 'Balance sheet by heading',
  cash_flow: 'Cash flow, indirect',
  trial_balance: 'Trial balance by heading',
};

/**
 * A covered layout from the chart of accounts alone: groups for its headings, a row for each sub-heading, and the result.
 *
 * Shape: headings in the order of their first account. A cash flow takes its lines from the cash-flow rules where there
 * are any, and the movements of all other accounts by sub-heading, so that it meets the change in cash.
 */
export function proposeRows(
  purpose: ProposedPurpose,
  accounts: readonly Account[],
  cashFlow: readonly CashFlowRule[] = [],
): RowLayout {
  const known = new Set(accounts.map(({ number }) => number));
  const rules = cashFlow.filter(({ account }) => known.has(account));
  const made = {
    income: () => incomeRows(accounts),
    balance_sheet: () => balanceSheetRows(accounts),
    cash_flow: () => cashFlowRows(accounts, rules),
    trial_balance: () => trialBalanceRows(accounts),
  }[purpose]();
  const name = NAMES[purpose];
  return {
    ...{ schema: 1, kind: 'row_layout', id: freshId(name, new Set()), name },
    purpose: purpose === 'trial_balance' ? 'free' : purpose,
    ...made,
  };
}
