import type { Constructor } from '@mikro-orm/core';
import type { Migration } from '@mikro-orm/migrations';
import { Migration0001First } from './0001-first';
import { Migration0002Undo } from './0002-undo';
import { Migration0003FirstPosting } from './0003-first-posting';
import { Migration0004Search } from './0004-search';
import { Migration0005Drafts } from './0005-drafts';
import { Migration0006Steps } from './0006-steps';
import { Migration0007FigureHistory } from './0007-figure-history';
import { Migration0008DraftStamps } from './0008-draft-stamps';
import { Migration0009JournalNumbers } from './0009-journal-numbers';
import { Migration0010PeopleAndRevisions } from './0010-people-and-revisions';
import { Migration0011JournalHistory } from './0011-journal-history';
import { Migration0012ActsBySubject } from './0012-acts-by-subject';
import { Migration0013AccountPartner } from './0013-account-partner';
import { Migration0014Shelf } from './0014-shelf';
import { Migration0015GroupTables } from './0015-group-tables';
import { Migration0016LocalCodes } from './0016-local-codes';
import { Migration0017Attributes } from './0017-attributes';
import { Migration0018DatedValues } from './0018-dated-values';
import { Migration0019WritingStyle } from './0019-writing-style';
import { Migration0020CashBasis } from './0020-cash-basis';
import { MIGRATION_NAMES } from './names';

type Name = (typeof MIGRATION_NAMES)[number];

const CLASSES: Record<Name, Constructor<Migration>> = {
  '0001-first': Migration0001First,
  '0002-undo': Migration0002Undo,
  '0003-first-posting': Migration0003FirstPosting,
  '0004-search': Migration0004Search,
  '0005-drafts': Migration0005Drafts,
  '0006-steps': Migration0006Steps,
  '0007-figure-history': Migration0007FigureHistory,
  '0008-draft-stamps': Migration0008DraftStamps,
  '0009-journal-numbers': Migration0009JournalNumbers,
  '0010-people-and-revisions': Migration0010PeopleAndRevisions,
  '0011-journal-history': Migration0011JournalHistory,
  '0012-acts-by-subject': Migration0012ActsBySubject,
  '0013-account-partner': Migration0013AccountPartner,
  '0014-shelf': Migration0014Shelf,
  '0015-group-tables': Migration0015GroupTables,
  '0016-local-codes': Migration0016LocalCodes,
  '0017-attributes': Migration0017Attributes,
  '0018-dated-values': Migration0018DatedValues,
  '0019-writing-style': Migration0019WritingStyle,
  '0020-cash-basis': Migration0020CashBasis,
};

export const MIGRATIONS = MIGRATION_NAMES.map((name) => ({ name, class: CLASSES[name] }));
