import { attributesOf } from '../account/combination';
import type { CombinationTexts } from '../cube/combinations';
import type { BookRows } from './book-rows';

/** The movement codes that rows carry, by account; accounts without any are left out. */
export function codesByAccount(rows: BookRows, combinations: CombinationTexts): Map<number, Set<string>> {
  const found = new Map<number, Set<string>>();
  const codeOf = new Map<number, string>();
  rows((account, _, __, combination) => {
    let code = codeOf.get(combination);
    if (code === undefined)
      codeOf.set(combination, (code = attributesOf(combinations.textOf(combination)).get('flow') ?? ''));
    if (code === '') return;
    const codes = found.get(account);
    if (codes) codes.add(code);
    else found.set(account, new Set([code]));
  });
  return found;
}
