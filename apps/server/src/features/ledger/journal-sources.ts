import type { EntityManager } from '@mikro-orm/better-sqlite';
import type { JournalFile, JournalView } from '@margin-lens/contract';
import { sourceAddress } from '@margin-lens/core';
import { rowsHaving, type PackageRow } from '../../store/masters';

/** A journal as rows of attachments name it, and the documents of its lines. */
type Sourced = Pick<JournalView, 'number' | 'fiscalYear'> & {
  entity: { code: string };
  lines: readonly { document: string; documentType: string }[];
};

/** Where the documents of a journal open, each document once, and the files that hang on it or on them. */
export async function journalSources(
  em: EntityManager,
  journal: Sourced,
): Promise<Pick<JournalView, 'documents' | 'files'>> {
  const links = (await rowsHaving(em, 'source_links', { entity: journal.entity.code })).map((row) => ({
    entity: String(row['entity']),
    documentType: String(row['document_type'] ?? ''),
    pattern: String(row['pattern']),
  }));
  const { entity, number, fiscalYear, lines } = journal;
  const documents = new Map(lines.map(({ document, documentType }) => [document, documentType]));
  documents.delete('');
  return {
    documents: [...documents].map(([document, type]) => ({
      document,
      documentType: type,
      address:
        sourceAddress(links, {
          document,
          document_type: type,
          journal: number,
          entity: entity.code,
          fiscal_year: String(fiscalYear),
        }) ?? null,
    })),
    files: (await attachmentsOf(em, journal)).map(fileOf),
  };
}

const fileOf = (row: PackageRow): JournalFile => ({
  name: String(row['name']),
  sha256: String(row['sha256']),
  journal: String(row['journal'] ?? ''),
  document: String(row['document'] ?? ''),
});

/** Rows of attachments that name the journal, a document of it, or both. */
export async function attachmentsOf(
  em: EntityManager,
  { entity, number, fiscalYear, lines }: Sourced,
): Promise<PackageRow[]> {
  const documents = [...new Set(lines.map(({ document }) => document))];
  const rows = await rowsHaving(em, 'attachments', {
    ...{ entity: entity.code, fiscal_year: fiscalYear },
    ...{ journal: { $in: ['', number] }, document: { $in: ['', ...documents] } },
  });
  return rows.filter((row) => row['journal'] !== '' || row['document'] !== '');
}
