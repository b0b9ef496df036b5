import { COMBINATION_SEPARATOR } from '@margin-lens/core';

/** Partner, flow and dimension values of a stored combination, by name; empty ones are left out. */
export function attributeList(parts: string): { name: string; value: string }[] {
  const [partner = '', flow = '', ...dimensions] = parts.split(COMBINATION_SEPARATOR);
  const named = dimensions.map((pair) => {
    const at = pair.indexOf('=');
    return { name: pair.slice(0, at), value: pair.slice(at + 1) };
  });
  return [{ name: 'partner', value: partner }, { name: 'flow', value: flow }, ...named].filter(
    ({ value }) => value !== '',
  );
}
