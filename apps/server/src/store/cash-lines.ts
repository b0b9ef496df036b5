import type Database from 'better-sqlite3';
import { attributesOf, deriveCash, type DerivedCash, type LineOfDocuments } from '@margin-lens/core';
import { combinationsBehind } from './balances';
import { journalHeld } from './line-filter';

/** Accounts of a chart, by their ids: those that hold cash, and those of balances that can have documents. */
export interface AccountsForCash {
  cash: readonly number[];
  /** What others owe. */
  debit: readonly number[];
  /** What is owed to others. */
  credit: readonly number[];
}

/** An entity, and the revision at which its lines are read. */
export interface AskedCash {
  entity: number;
  revision: number;
}

/** What the cash basis of an entity moves, from the journals that name documents or settle them. */
export function derivedCash(
  db: Database.Database,
  { entity, revision }: AskedCash,
  { cash, debit, credit }: AccountsForCash,
): DerivedCash {
  const items = accountsOfDocuments(db, entity, [...debit, ...credit]);
  if (items.length === 0) return deriveCash([], { cash: new Set(), items: new Set(), isDebit: () => true, partnerOf });
  const partners = new Map(
    combinationsBehind(db, 0).map(({ id, parts }) => [id, attributesOf(parts).get('partner') ?? '']),
  );
  const isDebit = new Set(debit);
  return deriveCash(linesOfDocuments(db, entity, items, revision), {
    cash: new Set(cash),
    items: new Set(items),
    isDebit: (account) => isDebit.has(account),
    partnerOf: (combination) => partners.get(combination) ?? '',
  });
}

const partnerOf = (): string => '';

/** Those of some accounts whose lines have a due day, or settle a document. */
function accountsOfDocuments(db: Database.Database, entity: number, among: readonly number[]): number[] {
  const has = db
    .prepare("select 1 from journal_line where account = ? and entity = ? and (due <> '' or settles <> '') limit 1")
    .pluck();
  return among.filter((account) => has.get(account, entity) !== undefined);
}

function linesOfDocuments(
  db: Database.Database,
  entity: number,
  items: readonly number[],
  revision: number,
): LineOfDocuments[] {
  const lines = db
    .prepare(
      `select l.id, l.journal, l.account, l.period, l.combination, j.kind as isOpening, l.date, l.document,
         l.document_type as documentType, l.due, l.settles, l.debit, l.credit, l.quantity
       from journal_line l join journal j on j.id = l.journal
       where l.basis = 0 and l.entity = ? and j.kind in (0, 1) and ${journalHeld('j', revision)} and l.journal in
         (select journal from journal_line where entity = ? and account in (select value from json_each(?)))`,
    )
    .all(entity, entity, JSON.stringify(items)) as (Omit<LineOfDocuments, 'isOpening'> & { isOpening: unknown })[];
  // of many lines no second copy is made
  for (const line of lines) line.isOpening = line.isOpening === 1;
  return lines as LineOfDocuments[];
}
