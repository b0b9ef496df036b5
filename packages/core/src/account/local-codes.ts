import { codeRanges, isInRange, type CodeRange } from './code-ranges';

/** Which code of the group stands for codes of an entity's own books, from a day on. */
export interface CodeRule {
  entity: string;
  /** Codes and ranges. @example '4000..4199, 4300' */
  from: string;
  to: string;
  /** ISO day; empty for always. */
  since: string;
}

/** The same of the values of a dimension, one by one. */
export interface ValueRule extends CodeRule {
  dimension: string;
}

interface Read {
  ranges: readonly CodeRange[];
  to: string;
  since: string;
}

/** The accounts and dimension values of entities that keep their books in codes of their own. */
export class LocalCodes {
  private readonly accounts = new Map<string, Read[]>();
  private readonly values = new Map<string, Read[]>();

  constructor(accounts: readonly CodeRule[] = [], values: readonly ValueRule[] = []) {
    for (const rule of accounts) hold(this.accounts, rule.entity, { ...rule, ranges: codeRanges(rule.from) ?? [] });
    for (const rule of values) {
      const { from } = rule;
      hold(this.values, valueKey(rule.entity, rule.dimension), { ...rule, ranges: [{ from, to: from }] });
    }
  }

  /** Whether an entity has accounts of its own: one that nothing is said of is then not mapped yet, and no mistake. */
  hasOwnAccounts(entity: string): boolean {
    return this.accounts.has(entity);
  }

  hasOwnValues(entity: string, dimension: string): boolean {
    return this.values.has(valueKey(entity, dimension));
  }

  /** The account of the group that stands for one of an entity on a day; undefined where nothing is said. */
  account(entity: string, code: string, day: string): string | undefined {
    return targetOf(this.accounts.get(entity), code, day);
  }

  /** The same of a value of a dimension. */
  value(entity: string, dimension: string, code: string, day: string): string | undefined {
    return targetOf(this.values.get(valueKey(entity, dimension)), code, day);
  }

  /** Days on which something of an entity begins to be said otherwise. */
  changesOf(entity: string): string[] {
    const ofEntity = [...this.values].filter(([key]) => key.startsWith(valueKey(entity, '')));
    const rules = [...(this.accounts.get(entity) ?? []), ...ofEntity.flatMap(([, read]) => read)];
    return [...new Set(rules.map(({ since }) => since))].filter((day) => day !== '').sort();
  }
}

const valueKey = (entity: string, dimension: string) => `${entity}\u001f${dimension}`;

const hold = (held: Map<string, Read[]>, key: string, rule: Read): void => {
  held.set(key, [...(held.get(key) ?? []), rule]);
};

/** Of those that speak of a code on a day, the one that began last, and then one that names it alone before a range. */
function targetOf(rules: readonly Read[] | undefined, code: string, day: string): string | undefined {
  let found: { since: string; isAlone: boolean; to: string } | undefined;
  for (const { ranges, since, to } of rules ?? []) {
    const range = since > day ? undefined : ranges.find((each) => isInRange(each, code));
    if (!range) continue;
    const isAlone = range.from === range.to;
    if (found && (found.since > since || (found.since === since && found.isAlone))) continue;
    found = { since, isAlone, to };
  }
  return found?.to;
}
