import type { PackView } from '@margin-lens/contract';
import { boundOf, withShared, type PackDocument, type Scope } from '@margin-lens/core';
import { packWords } from '../../base/words';
import type { Snapshot } from '../workspace/snapshot';
import type { WorkspaceModel } from '../workspace/workspace-model';
import type { MadePage } from './pack-pages';

/** What says something of one entity or group whoever the pack is read for. */
export function packBound(
  { filled }: Snapshot,
  pack: PackDocument,
  scope: Scope,
  made: readonly MadePage[],
): PackView['bound'] {
  const whole = withShared(pack, filled.documentsOf('pack'));
  const found = boundOf(whole, [...filled.entities, ...filled.groups]);
  if (found.length === 0) return [];
  const related = relatedTo(filled, scope);
  return found.map(({ page, by, scope: { code, name } }) => ({
    ...{ page, by },
    title: made.find(({ paper }) => paper.id === page)?.paper.page.title ?? packWords.everySheet,
    says: by === 'scope' ? packWords.readFor(name) : packWords.names(name),
    isOther: !related.has(code),
  }));
}

/** Who is looked at, those that belong to it, and groups that it belongs to. */
function relatedTo(model: WorkspaceModel, { code, members }: Scope): ReadonlySet<string> {
  const own = members.map(({ entity }) => entity.code);
  const above = model.groups.filter((group) => {
    const codes = new Set(model.scope(group.code)?.members.map(({ entity }) => entity.code));
    return own.every((each) => codes.has(each));
  });
  return new Set([code, ...own, ...above.map((group) => group.code)]);
}
