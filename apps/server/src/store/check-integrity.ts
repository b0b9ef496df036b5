import type { EntityManager } from '@mikro-orm/better-sqlite';
import * as v from 'valibot';
import { BASES, Cube, digitsOf, DOCUMENT_KINDS, DocumentSchema, formatMinor } from '@margin-lens/core';
import { rowsThatDiffer } from './cube-proof';
import { currentDocuments } from './documents';
import { loadCube } from './load-cube';
import type { Moment } from './store';
import { checkWords } from '../base/words';

/** Two figures that must agree, and whether they do. */
export interface IntegrityCheck {
  name: string;
  agrees: boolean;
  says: string;
}

const SUMS = 'sum(debit) as debit, sum(credit) as credit, sum(quantity) as quantity';

/** Balances that differ from the sum of the lines they stand for; both sides must be empty. */
const BALANCES_UNLIKE_LINES = `
  with lines as (
    select l.entity, l.period, l.account, l.combination, l.basis, j.kind as entry_kind,
      sum(l.debit) as debit, sum(l.credit) as credit, sum(l.quantity) as quantity
    from journal_line l join journal j on j.id = l.journal where j.until is null group by 1, 2, 3, 4, 5, 6
    having sum(l.debit) <> 0 or sum(l.credit) <> 0 or sum(l.quantity) <> 0),
  kept as (
    select entity, period, account, combination, basis, entry_kind, ${SUMS} from balance where version = 0 group by 1, 2, 3, 4, 5, 6
    having sum(debit) <> 0 or sum(credit) <> 0 or sum(quantity) <> 0)
  select (select count(*) from (select * from lines except select * from kept))
    + (select count(*) from (select * from kept except select * from lines)) as n`;

const UNBALANCED = `
  select e.code as entity, e.currency, l.basis, sum(l.debit) as debit, sum(l.credit) as credit,
    (select count(*) from (select 1 from journal_line x join journal y on y.id = x.journal
      where y.until is null and x.entity = l.entity and x.basis = l.basis group by x.journal having sum(x.debit) <> sum(x.credit))) as journals
  from journal_line l join journal j on j.id = l.journal join entity e on e.id = l.entity and e.until is null
  where j.until is null group by l.entity, l.basis order by e.code, l.basis`;

/** Balances of versions that differ from the sum of their figures; both sides must be empty. */
const BALANCES_UNLIKE_FIGURES = `
  with figures as (
    select version, entity, period, account, combination, sum(amount) as amount, sum(quantity) as quantity
    from figure where until is null group by 1, 2, 3, 4, 5 having sum(amount) <> 0 or sum(quantity) <> 0),
  kept as (
    select version, entity, period, account, combination, sum(debit) - sum(credit) as amount, sum(quantity) as quantity
    from balance where version <> 0 group by 1, 2, 3, 4, 5 having sum(debit) <> sum(credit) or sum(quantity) <> 0)
  select (select count(*) from (select * from figures except select * from kept))
    + (select count(*) from (select * from kept except select * from figures)) as n`;

const NUMBERS_TWICE = `
  select e.code as entity, j.number from journal j join entity e on e.id = j.entity and e.until is null
  where j.until is null group by j.entity, j.fiscal_year, j.number having count(*) > 1 limit 1`;

/** Documents of the workspace that their schema does not take; the engine reads none of them. */
async function brokenDocuments(em: EntityManager): Promise<string[]> {
  const rows = await currentDocuments(em, DOCUMENT_KINDS);
  return rows.filter(({ body }) => !isDocument(body)).map(({ kind, id }) => `${kind} ${id}`);
}

function isDocument(body: string): boolean {
  try {
    return v.is(DocumentSchema, JSON.parse(body));
  } catch {
    return false;
  }
}

/**
 * Checks that the workspace holds together: every journal balances and has its number alone, balances are the sums of
 * their lines and of the figures of versions, the cube that statements read is the balances, and documents are as their
 * schemas want them.
 */
export async function checkIntegrity(
  databaseFile: string,
  { em, db, revision }: Pick<Moment, 'em' | 'db' | 'revision'>,
): Promise<IntegrityCheck[]> {
  const sides = db.prepare(UNBALANCED).safeIntegers().all() as {
    entity: string;
    currency: string;
    basis: bigint;
    debit: bigint;
    credit: bigint;
    journals: bigint;
  }[];
  const { n } = db.prepare(BALANCES_UNLIKE_LINES).get() as { n: number };
  const figures = db.prepare(BALANCES_UNLIKE_FIGURES).get() as { n: number };
  const twice = db.prepare(NUMBERS_TWICE).get() as { entity: string; number: string } | undefined;
  const broken = await brokenDocuments(em);
  const cube = loadCube(databaseFile, db, revision);
  const unread = rowsThatDiffer(db, new Cube(cube.revision, cube.segments));
  return [
    ...sides.map(({ entity, currency, basis, debit, credit, journals }): IntegrityCheck => {
      // as whole numbers of any size, so that a sum beyond what the books can keep is not rounded into agreeing
      const text = (minor: bigint) => `${formatMinor(minor, digitsOf(currency))} ${currency}`;
      return {
        name: checkWords.journals(entity, BASES[Number(basis)]!),
        agrees: debit === credit && journals === 0n,
        says: checkWords.sides(text(debit), text(credit), journals),
      };
    }),
    {
      name: checkWords.balances,
      agrees: n === 0,
      says: n === 0 ? checkWords.allGood : checkWords.differ(n),
    },
    {
      name: checkWords.versions,
      agrees: figures.n === 0,
      says: figures.n === 0 ? checkWords.allGood : checkWords.differ(figures.n),
    },
    {
      name: checkWords.read,
      agrees: unread === 0,
      says: unread === 0 ? checkWords.allGood : checkWords.differ(unread),
    },
    {
      name: checkWords.numbers,
      agrees: !twice,
      says: twice ? checkWords.twice(twice.number, twice.entity) : checkWords.allGood,
    },
    {
      name: checkWords.documents,
      agrees: broken.length === 0,
      says: broken.length === 0 ? checkWords.allGood : broken.join(', '),
    },
  ];
}
