import { referencesOf, type FormulaReference } from './formula';
import { parseFormula, type FormulaError } from './parse-formula';

/** A row or column that a formula can name. */
export interface Nameable {
  id: string;
  label: string;
}

/** The rows or columns of the layout that the formula stands in, and the layouts whose rows it may name. */
export interface NameSpace {
  own: readonly Nameable[];
  others: readonly { id: string; name: string; rows: readonly Nameable[] }[];
}

export type StoredFormula = { formula: string; error?: never } | { formula?: never; error: FormulaError };

const same = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();

/** Whether a name begins with the words of another. */
const begins = (label: string, name: string) => label.trim().toLowerCase().startsWith(`${name.trim().toLowerCase()} `);

/** The one that bears a name: exactly, else whatever the case. */
function named<T extends { label: string }>(things: readonly T[], name: string): T[] {
  const exact = things.filter(({ label }) => label.trim() === name);
  return exact.length > 0 ? exact : things.filter(({ label }) => same(label, name));
}

/**
 * Turns a formula as it is typed into the one that is stored: names become ids, so that renaming and moving break
 * nothing.
 *
 * Missing: a name that nothing bears, or that two rows bear, is an error with its place.
 */
export function storeFormula(typed: string, names: NameSpace): StoredFormula {
  const parsed = parseFormula(typed);
  if (parsed.error) return { error: parsed.error };
  let stored = '';
  let at = 0;
  for (const reference of inTextOrder(referencesOf(parsed.tree))) {
    if (reference.op === 'ref') continue;
    const found = idOf(reference, names);
    if (typeof found !== 'string') return { error: found };
    stored += typed.slice(at, reference.from) + found;
    at = reference.to;
  }
  return { formula: (stored + typed.slice(at)).trim() };
}

const inTextOrder = (references: FormulaReference[]) => references.sort((a, b) => a.from - b.from);

function idOf(reference: Extract<FormulaReference, { op: 'name' }>, names: NameSpace): string | FormulaError {
  const { name, layout, from, to } = reference;
  if (layout === undefined) {
    const found = named(names.own, name);
    if (found.length > 1) return { problem: `“${name}” stands twice; give one another name`, from, to };
    const begun = found.length === 1 ? found : names.own.filter(({ label }) => begins(label, name));
    if (begun.length === 1) return `{${begun[0]!.id}}`;
    const which = begun.map(({ label }) => `“${label}”`).join(' or ');
    return { problem: which === '' ? `Nothing is called “${name}”` : `“${name}” may be ${which}; say which`, from, to };
  }
  const other = names.others.find((candidate) => same(candidate.name, layout));
  if (!other) return { problem: `There are no rows called “${layout}”`, from, to };
  const found = named(other.rows, name);
  if (found.length === 0) return { problem: `“${layout}” has no row “${name}”`, from, to };
  return `{${other.id}.${found[0]!.id}}`;
}

const STANDS_BARE = /^\p{L}(?: *[\p{L}\d_.'’&%])*$/u;
const nameOf = (label: string) => (STANDS_BARE.test(label) ? label : `"${label.replaceAll('"', '')}"`);

/** A stored formula as it is typed and read: ids become the names that their rows bear now. */
export function typedFormula(stored: string, names: NameSpace): string {
  return stored.replace(/\{([a-z][a-z0-9_]*)(?:\.([a-z][a-z0-9_]*))?\}/g, (whole, first: string, second?: string) => {
    if (second === undefined) {
      const own = names.own.find(({ id }) => id === first);
      return own ? nameOf(own.label) : whole;
    }
    const other = names.others.find(({ id }) => id === first);
    const row = other?.rows.find(({ id }) => id === second);
    return other && row ? `${nameOf(row.label)} @ ${nameOf(other.name)}` : whole;
  });
}

/** A stored formula with some of its ids replaced, for rows that were copied under ids of their own. */
export const renameInFormula = (stored: string, renamed: ReadonlyMap<string, string>): string =>
  stored.replace(/\{([a-z][a-z0-9_]*)\}/g, (whole, id: string) => (renamed.has(id) ? `{${renamed.get(id)!}}` : whole));
