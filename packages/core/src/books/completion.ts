import { membersOf, type AccountSet } from '../account/account-set';
import type { Attributes } from '../account/combination';
import type { DimensionTree } from '../account/dimension-tree';
import type { Account } from '../account/nature';
import { issue, type Issue } from '../issue/issue';

/** Which postings without a value are read with one: those that meet all that it names. */
export interface CompletionRule {
  id: string;
  accounts?: AccountSet | undefined;
  partners?: readonly string[] | undefined;
  /** A part of the posting's text, in small or capital letters. */
  text?: string | undefined;
  value: string;
}

/** Values that postings without one of a dimension are read with; the first rule that a posting meets counts. */
export interface Completion {
  id: string;
  name: string;
  dimension: string;
  rules: readonly CompletionRule[];
}

/** A value that a posting is read with, and what says so. */
export interface Completed {
  dimension: string;
  value: string;
  completion: Completion;
  /** Place among the rules of the completion. */
  rule: number;
}

/** What keeps a completion from being taken: a dimension or a value that there is not, or a rule that names nothing. */
export function checkCompletion({ name, dimension, rules }: Completion, trees: readonly DimensionTree[]): Issue[] {
  const tree = trees.find((each) => each.name === dimension);
  if (!tree) return [issue('CORE_COMPLETION_DIMENSION', { completion: name, dimension })];
  const known = new Set(tree.values.map(({ value }) => value));
  return rules.flatMap(({ accounts, partners = [], text, value }, at) => {
    const rule = String(at + 1);
    if (!known.has(value)) return [issue('CORE_COMPLETION_VALUE', { completion: name, rule, dimension, value })];
    const namesNothing = !accounts?.include.length && partners.length === 0 && text === undefined;
    return namesNothing ? [issue('CORE_COMPLETION_ALL', { completion: name, rule })] : [];
  });
}

/** Whether the text of a posting holds a text that a rule names. */
export const holdsText = (posting: string, text: string): boolean => posting.toLowerCase().includes(text.toLowerCase());

interface Compiled {
  accounts: ReadonlySet<number> | undefined;
  partners: ReadonlySet<string> | undefined;
  text: string | undefined;
  completed: Completed;
}

/** Completions of a chart, ready to be asked; rules for values that there are not are passed over, and keep their place. */
export class Completions {
  /** Texts that rules name, each once. */
  readonly texts: readonly string[];
  private readonly byDimension: readonly (readonly Compiled[])[];

  constructor(
    completions: readonly Completion[],
    private readonly accounts: readonly Account[],
    trees: readonly DimensionTree[],
  ) {
    const known = new Map(trees.map(({ name, values }) => [name, new Set(values.map(({ value }) => value))]));
    const all = completions.flatMap((completion) =>
      completion.rules.map(({ accounts: set, partners, text, value }, rule) => ({
        accounts: set && set.include.length > 0 ? new Set(membersOf(set, accounts)) : undefined,
        partners: partners && partners.length > 0 ? new Set(partners) : undefined,
        text,
        completed: { dimension: completion.dimension, value, completion, rule },
      })),
    );
    const compiled = all.filter(({ completed: { dimension, value } }) => known.get(dimension)?.has(value));
    this.byDimension = [...new Set(completions.map(({ dimension }) => dimension))].map((dimension) =>
      compiled.filter(({ completed }) => completed.dimension === dimension),
    );
    this.texts = [...new Set(compiled.flatMap(({ text }) => text ?? []))];
  }

  /** What postings of an account that carry some values are read with. @param hasText whether a posting's text holds another */
  of(account: number, attributes: Attributes, hasText: (text: string) => boolean): Completed[] {
    const partner = attributes.get('partner') ?? '';
    return this.byDimension.flatMap((rules) => {
      if (attributes.get(rules[0]?.completed.dimension ?? '')) return [];
      const met = rules.find(
        ({ accounts, partners, text }) =>
          accounts?.has(account) !== false && partners?.has(partner) !== false && (text === undefined || hasText(text)),
      );
      return met ? [met.completed] : [];
    });
  }

  /** Dimensions that are completed by the text of a posting. */
  get dimensionsByText(): string[] {
    const rules = this.byDimension.flat().filter(({ text }) => text !== undefined);
    return [...new Set(rules.map(({ completed }) => completed.dimension))];
  }

  /** Accounts of which texts of postings are read. */
  get accountsByText(): number[] {
    const rules = this.byDimension.flat().filter(({ text }) => text !== undefined);
    return this.accounts.flatMap((_, at) => (rules.some(({ accounts }) => accounts?.has(at) !== false) ? [at] : []));
  }

  /** Accounts of which the same rules are asked, together. */
  get alike(): number[][] {
    const rules = this.byDimension.flat();
    const groups = new Map<string, number[]>();
    this.accounts.forEach((_, at) => {
      const key = rules.map(({ accounts }) => (accounts?.has(at) !== false ? 1 : 0)).join('');
      groups.set(key, [...(groups.get(key) ?? []), at]);
    });
    return [...groups.values()];
  }
}
