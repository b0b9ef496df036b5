import type { Page, PageBlock, ShownUnit } from '@margin-lens/core';

/** What a page shows beside its title. */
export interface Content {
  title?: string;
  subtitle?: string;
  blocks: readonly PageBlock[];
  facts?: Page['facts'];
  unit?: ShownUnit;
  /** What is to be done about it, in words. */
  open?: string[];
  versions?: string[];
}
