/** All migrations in their order; each is done once in the life of a workspace file. */
export const MIGRATION_NAMES = [
  '0001-first',
  '0002-undo',
  '0003-first-posting',
  '0004-search',
  '0005-drafts',
  '0006-steps',
  '0007-figure-history',
  '0008-draft-stamps',
  '0009-journal-numbers',
  '0010-people-and-revisions',
  '0011-journal-history',
  '0012-acts-by-subject',
  '0013-account-partner',
  '0014-shelf',
  '0015-group-tables',
  '0016-local-codes',
] as const;
