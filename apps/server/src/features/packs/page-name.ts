import type { PackPage } from '@margin-lens/core';
import { packWords } from '../../base/words';
import type { WorkspaceModel } from '../workspace/workspace-model';

/** What a page of a pack is called: by its title, else by what it shows. */
export const pageName = (page: PackPage, { pages }: WorkspaceModel): string =>
  page.title ?? ('of' in page ? pages.find(({ id }) => id === page.of)?.name : undefined) ?? packWords.kind[page.kind];
