import type { BooksCheckView, BooksFindingView } from '@margin-lens/contract';

/** Findings that nobody has looked at. */
export const openFindings = (view: BooksCheckView): BooksFindingView[] => view.findings.filter(({ seen }) => !seen);
