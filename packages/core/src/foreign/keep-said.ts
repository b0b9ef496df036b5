import { targetOfColumn, withTarget } from './column-targets';
import type { Mapping } from './mapping';

/** Fields that hold one answer whatever the file looks like. */
const ANSWERS = ['decimal', 'dateOrder', 'shareForm', 'measure', 'start', 'sign'] as const;

/** What another look at a file brought. */
export interface NextLook {
  mapping: Mapping;
  header: readonly string[];
  /** Names of the targets that its columns can fill. */
  targets: ReadonlySet<string>;
  /** Codes that a target can take, where they are known. */
  codes: Readonly<Record<string, readonly { code: string }[]>>;
}

const changedKeys = <T>(before: Readonly<Record<string, T>>, after: Readonly<Record<string, T>>): string[] =>
  [...new Set([...Object.keys(before), ...Object.keys(after)])].filter((key) => before[key] !== after[key]);

/**
 * The mapping that another look at a file proposes, with what a person had put right in the one before it: answers,
 * columns that the file still has, values for the whole file that can still be chosen, and codes.
 */
export function keepSaid(proposed: Mapping, said: Mapping, next: NextLook): Mapping {
  const kept = { ...next.mapping };
  for (const field of ANSWERS) if (said[field] !== proposed[field]) Object.assign(kept, { [field]: said[field] });

  for (const column of next.header) {
    const target = targetOfColumn(said.columns, column);
    if (target === targetOfColumn(proposed.columns, column)) continue;
    if (target === '' || next.targets.has(target)) kept.columns = withTarget(kept.columns, column, target);
  }
  const canTake = (target: string, value: string) =>
    value === '' || (next.targets.has(target) && (next.codes[target]?.some(({ code }) => code === value) ?? true));
  for (const target of changedKeys(proposed.constants, said.constants)) {
    const value = said.constants[target] ?? '';
    if (canTake(target, value)) kept.constants = { ...kept.constants, [target]: value };
  }
  for (const [target, texts] of Object.entries(said.values)) {
    for (const text of changedKeys(proposed.values[target] ?? {}, texts)) {
      kept.values = { ...kept.values, [target]: { ...kept.values[target], [text]: texts[text]! } };
    }
  }
  return kept;
}
