/** Joins the parts of a combination: partner, flow, then `dimension=value` in the order of dimension names. */
export const COMBINATION_SEPARATOR = '\u001f';

/** Partner, movement code and dimension values of a posting or figure, by name; `partner` and `flow` are always there. */
export type Attributes = ReadonlyMap<string, string>;

/** Texts of combinations that are kept read; books hold a few thousand, and each is asked for many times. */
const KEPT = 20_000; // 1,000 to 1,000,000
const read = new Map<string, Attributes>();

/** Reads the text of a combination. */
export function attributesOf(combination: string): Attributes {
  const known = read.get(combination);
  if (known) return known;
  const attributes = readAttributes(combination);
  if (read.size >= KEPT) read.clear();
  read.set(combination, attributes);
  return attributes;
}

function readAttributes(combination: string): Attributes {
  const [partner = '', flow = '', ...pairs] = combination.split(COMBINATION_SEPARATOR);
  const attributes = new Map(pairs.map(namedValue));
  attributes.set('partner', partner).set('flow', flow);
  return attributes;
}

/** Writes the text of a combination; the same values always give the same text. */
export function combinationOf(attributes: Attributes): string {
  const pairs = [...attributes]
    .filter(([name, value]) => name !== 'partner' && name !== 'flow' && value !== '')
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([name, value]) => `${name}=${value}`);
  return [attributes.get('partner') ?? '', attributes.get('flow') ?? '', ...pairs].join(COMBINATION_SEPARATOR);
}

const namedValue = (pair: string): [name: string, value: string] => {
  const at = pair.indexOf('=');
  return [pair.slice(0, at), pair.slice(at + 1)];
};

/** Values of dimensions as an entity's own books have them, by name, as `localValuesText` writes them. */
export const localValuesOf = (text: string): Map<string, string> =>
  new Map(text === '' ? [] : text.split(COMBINATION_SEPARATOR).map(namedValue));

export const localValuesText = (values: ReadonlyMap<string, string>): string =>
  [...values]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([name, value]) => `${name}=${value}`)
    .join(COMBINATION_SEPARATOR);

/** The combination without any value. */
export const NO_VALUES = combinationOf(new Map());
