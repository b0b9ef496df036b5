import { WORD_RULES, type WordRule } from './classification-words';
import { isProfitOrLoss, type Nature } from './nature';

/** An account as a trial balance brings it, with what is known of it. */
export interface AccountToClassify {
  number: string;
  name: string;
  /** Debit positive, in any unit; only its sign is looked at. */
  stand: number;
  /** What a person has settled; learned from and left as it is. */
  settled?: Classification;
}

export interface Classification {
  nature: Nature;
  heading: string;
  subHeading: string;
  role: string;
}

export interface ProposedClassification extends Classification {
  number: string;
  /** Why, for the person who confirms it. */
  because: string;
  /**
   * `sure`: name and number agree; `likely`: one of them says it; `guess`: only the side of the balance does, or it speaks
   * against the name.
   */
  confidence: 'settled' | 'sure' | 'likely' | 'guess';
}

/** Share of the accounts of a number class that must be of one kind for the class to decide. */
const CLEAR_MAJORITY = 0.65;

const OTHER: Record<Nature, Pick<Classification, 'heading' | 'subHeading'>> = {
  asset: { heading: 'Current assets', subHeading: 'Other receivables' },
  liability: { heading: 'Current liabilities', subHeading: 'Other payables' },
  equity: { heading: 'Equity', subHeading: 'Reserves' },
  income: { heading: 'Other operating income', subHeading: 'Other operating income' },
  expense: { heading: 'Operating expenses', subHeading: 'Other operating expenses' },
  statistic: { heading: 'Statistics', subHeading: 'Quantities' },
};

const NATURE_PLURAL: Record<Nature, string> = {
  asset: 'assets',
  liability: 'liabilities',
  equity: 'equity',
  income: 'income',
  expense: 'expenses',
  statistic: 'statistics',
};

const plain = (name: string): string => name.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase().trim();

type Kind = 'balance_sheet' | 'profit_or_loss';
const kindOf = (nature: Nature): Kind => (isProfitOrLoss({ nature }) ? 'profit_or_loss' : 'balance_sheet');

/** Counts by key, and the key that holds a clear majority, if one does. */
function majority<K>(keys: readonly K[]): K | undefined {
  const counts = new Map<K, number>();
  for (const key of keys) counts.set(key, (counts.get(key) ?? 0) + 1);
  const [best] = [...counts].sort((a, b) => b[1] - a[1]);
  return best && best[1] / keys.length >= CLEAR_MAJORITY ? best[0] : undefined;
}

const CLASS_LENGTHS = [2, 1] as const;

/** What most accounts of a number class are, by the class's leading characters; the longer class comes first. */
class NumberClasses {
  private readonly natures = new Map<string, Nature[]>();

  learn(number: string, nature: Nature): void {
    for (const length of CLASS_LENGTHS) {
      const prefix = number.slice(0, length);
      if (prefix.length === length) this.natures.set(prefix, [...(this.natures.get(prefix) ?? []), nature]);
    }
  }

  private decide<K>(number: string, of: (nature: Nature) => K): { decided: K; prefix: string } | undefined {
    for (const length of CLASS_LENGTHS) {
      const prefix = number.slice(0, length);
      const held = this.natures.get(prefix) ?? [];
      const decided = held.length >= 2 ? majority(held.map(of)) : undefined;
      if (decided !== undefined) return { decided, prefix };
    }
    return undefined;
  }

  kind(number: string) {
    return this.decide(number, kindOf);
  }

  nature(number: string) {
    return this.decide(number, (nature) => nature);
  }
}

/** The nature that the side of a balance suggests. */
const natureOfSide = (stand: number, kind: Kind | undefined): Nature =>
  kind === 'profit_or_loss' ? (stand < 0 ? 'income' : 'expense') : stand < 0 ? 'liability' : 'asset';

/** The side that the balances of a nature stand on; quantities stand on either. */
const SIDE_OF: Record<Nature, 'debit' | 'credit' | 'either'> = {
  ...{ asset: 'debit', expense: 'debit', liability: 'credit', equity: 'credit', income: 'credit', statistic: 'either' },
};

/** Whether a balance stands where those of a rule usually do. */
const standsOn = ({ nature, side = SIDE_OF[nature] }: WordRule, stand: number): boolean =>
  stand === 0 || side === 'either' || side === (stand > 0 ? 'debit' : 'credit');

const byRule = ({ nature, heading, subHeading, role = '' }: WordRule): Classification => ({
  nature,
  heading,
  subHeading,
  role,
});

/**
 * Proposes nature, heading, sub-heading and role of accounts from their names, from where their numbers lie among the
 * others, and from the sides of their balances. A person confirms them.
 *
 * Shape: one proposal an account, in the order given. The roles that one account can have go to the first.
 * @source common practice; tested on the classes of the French general chart of accounts (ANC 2014-03)
 */
export function proposeClassification(accounts: readonly AccountToClassify[]): ProposedClassification[] {
  const classes = new NumberClasses();
  const rulesOf = accounts.map(({ name }) => WORD_RULES.filter(({ words }) => words.test(plain(name))));
  accounts.forEach(({ number, settled }, index) => {
    const nature = settled?.nature ?? rulesOf[index]![0]?.nature;
    if (nature) classes.learn(number, nature);
  });
  const proposals = accounts.map((account, index) => propose(account, rulesOf[index]!, classes));
  return onceOnly(withNeighbours(accounts, proposals), ['retained_earnings', 'translation_reserve']);
}

function propose(
  { number, name, stand, settled }: AccountToClassify,
  rules: readonly WordRule[],
  classes: NumberClasses,
): ProposedClassification {
  if (settled) return { number, ...settled, because: 'as it is', confidence: 'settled' };
  const kind = classes.kind(number);
  const fitting = kind ? rules.filter(({ nature }) => kindOf(nature) === kind.decided) : rules;
  const side = stand < 0 ? 'a credit balance' : stand > 0 ? 'a debit balance' : 'no balance';
  const [first] = fitting;
  if (first) {
    const onSide = fitting.find((each) => standsOn(each, stand));
    const chosen = onSide ?? first;
    const says = `the name says “${chosen.words.exec(plain(name))?.[0] ?? ''}”`;
    if (chosen !== first)
      return { number, ...byRule(chosen), because: `${says}, and it has ${side}`, confidence: 'guess' };
    if (!onSide) return { number, ...byRule(chosen), because: `${says}, but it has ${side}`, confidence: 'guess' };
    return {
      number,
      ...byRule(chosen),
      because: kind ? `${says}, and numbers from ${kind.prefix} are of that kind` : says,
      confidence: kind ? 'sure' : 'likely',
    };
  }
  const nature = classes.nature(number);
  if (nature) {
    const because = `most numbers from ${nature.prefix} are ${NATURE_PLURAL[nature.decided]}`;
    return { number, nature: nature.decided, ...OTHER[nature.decided], role: '', because, confidence: 'likely' };
  }
  const guessed = natureOfSide(stand, kind?.decided);
  return { number, nature: guessed, ...OTHER[guessed], role: '', because: `it has ${side}`, confidence: 'guess' };
}

/** An account that only its number speaks for takes heading and sub-heading from the nearest number before it. */
function withNeighbours(
  accounts: readonly AccountToClassify[],
  proposals: readonly ProposedClassification[],
): ProposedClassification[] {
  const named = proposals
    .filter(({ because, confidence }) => confidence === 'settled' || because.startsWith('the name'))
    .sort((a, b) => (a.number < b.number ? -1 : 1));
  return proposals.map((proposal, index) => {
    if (proposal.confidence !== 'likely' || proposal.because.startsWith('the name')) return proposal;
    const { number } = accounts[index]!;
    const near = named.filter((other) => other.number < number && other.nature === proposal.nature).at(-1);
    if (near?.number.slice(0, 2) !== number.slice(0, 2)) return proposal;
    const { heading, subHeading } = near;
    return { ...proposal, heading, subHeading, because: `${proposal.because}; next to ${near.number}` };
  });
}

/** Roles that only one account can have stay with the first that has them. */
function onceOnly(proposals: readonly ProposedClassification[], roles: readonly string[]): ProposedClassification[] {
  const taken = new Set(
    proposals
      .filter(({ confidence, role }) => confidence === 'settled' && roles.includes(role))
      .map(({ role }) => role),
  );
  return proposals.map((proposal) => {
    if (proposal.confidence === 'settled' || !roles.includes(proposal.role)) return proposal;
    if (taken.has(proposal.role)) return { ...proposal, role: '' };
    taken.add(proposal.role);
    return proposal;
  });
}
