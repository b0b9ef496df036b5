import { Migration0001First } from './0001-first';
import { Migration0002Undo } from './0002-undo';
import { Migration0003FirstPosting } from './0003-first-posting';
import { Migration0004Search } from './0004-search';
import { Migration0005Drafts } from './0005-drafts';
import { Migration0006Steps } from './0006-steps';
import { Migration0007FigureHistory } from './0007-figure-history';
import { Migration0008DraftStamps } from './0008-draft-stamps';
import { Migration0009JournalNumbers } from './0009-journal-numbers';

export const MIGRATIONS = [
  { name: '0001-first', class: Migration0001First },
  { name: '0002-undo', class: Migration0002Undo },
  { name: '0003-first-posting', class: Migration0003FirstPosting },
  { name: '0004-search', class: Migration0004Search },
  { name: '0005-drafts', class: Migration0005Drafts },
  { name: '0006-steps', class: Migration0006Steps },
  { name: '0007-figure-history', class: Migration0007FigureHistory },
  { name: '0008-draft-stamps', class: Migration0008DraftStamps },
  { name: '0009-journal-numbers', class: Migration0009JournalNumbers },
];
