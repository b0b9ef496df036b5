import type { PackContext, StatementContext } from '@margin-lens/contract';
import {
  ACTUAL,
  BASIS_WORDS,
  readConditions,
  writeConditions,
  type DimensionCondition,
  type PackPage,
  type PageDiffers,
} from '@margin-lens/core';
import { packWords } from '../../base/words';
import { heldContext } from '../statements/open-statement';
import { conditionWords } from '../statements/statement-texts';
import type { Snapshot } from '../workspace/snapshot';
import type { WorkspaceModel } from '../workspace/workspace-model';

/** In what a page is read: as its pack, but for what it says of itself. */
export function pageContext(pack: PackContext, { unit: _, where, ...differs }: PageDiffers = {}): StatementContext {
  const own = Object.fromEntries(Object.entries(differs).filter(([, value]) => value !== undefined));
  // another entity has its own currency
  const { currency, ...shared } = pack;
  const kept = differs.scope === undefined && currency !== undefined ? { currency } : {};
  return { ...shared, ...kept, ...own, ...(where && { where: writeConditions(where) }) };
}

/** In what a page is read in another way than its pack, also where what it shows keeps it from following: in words. */
export function differsInWords({ filled, model }: Snapshot, page: PackPage, pack: PackContext): string[] {
  const shown = 'of' in page ? filled.pages.find(({ id }) => id === page.of) : undefined;
  const asked = pageContext(pack, page.differs);
  const held = shown ? heldContext(shown, asked) : asked;
  return inWords(model, {
    ...(held.scope !== asked.scope && { scope: held.scope }),
    ...(held.version !== undefined && held.version !== asked.version && { version: held.version }),
    ...(held.basis !== undefined && held.basis !== asked.basis && { basis: held.basis }),
    ...(held.where !== undefined && held.where !== asked.where && { where: readConditions(held.where) }),
    ...page.differs,
  });
}

function inWords(
  model: WorkspaceModel,
  { scope, currency, version, against, where, allocation, organised, basis, unit }: PageDiffers,
): string[] {
  const nameOf = (code: string) => (code === ACTUAL ? packWords.actual : (model.version(code)?.name ?? code));
  return [
    ...(scope === undefined ? [] : [model.entity(scope)?.name ?? model.group(scope)?.name ?? scope]),
    ...(currency === undefined ? [] : [currency]),
    ...(version === undefined ? [] : [nameOf(version)]),
    ...(against === undefined ? [] : [packWords.against(nameOf(against))]),
    ...(where === undefined ? [] : filterInWords(model, where)),
    ...(allocation === undefined ? [] : [packWords.allocation]),
    ...(organised === undefined ? [] : [packWords.organised]),
    ...(basis === undefined ? [] : [BASIS_WORDS[basis]]),
    ...(unit === undefined ? [] : [packWords.unit[unit]]),
  ];
}

function filterInWords({ trees }: WorkspaceModel, where: readonly DimensionCondition[]): string[] {
  const said = readConditions(writeConditions(where));
  return said.length === 0 ? [packWords.unfiltered] : conditionWords(said, trees);
}
