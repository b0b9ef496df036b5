import type { Issue, IssueCode, Mapping } from '@margin-lens/core';
import type { DeliveryEffect } from '../../store/delivery-effect';
import type { JournalCounts } from '../../store/journal-store';
import type { MasterCounts } from '../../store/masters';
import type { FigureCounts } from '../../store/staged-figures';
import type { PackageSource } from './package-source';

export interface ImportProgress {
  file: string;
  /** Rows read of this file, and lines of journals in all. */
  rows: number;
  bytesRead: number;
  bytesTotal: number;
}

export interface ImportCounts extends JournalCounts, FigureCounts {
  documents: number;
  masters: Record<string, MasterCounts>;
}

export type ImportOutcome =
  | { state: 'done'; importId: number; revision: number; counts: ImportCounts; findings: FindingList; seconds: number }
  | { state: 'checked'; counts: ImportCounts; effect: DeliveryEffect; findings: FindingList }
  | { state: 'refused'; findings: FindingList }
  | { state: 'cancelled' };

export interface FindingList {
  shown: Issue[];
  errors: number;
  countByCode: [IssueCode, number][];
}

export interface ImportRequest {
  source: PackageSource;
  fileName: string;
  digest: string;
  person: string;
  onProgress(progress: ImportProgress): void;
  isCancelled(): boolean;
  now(): Date;
  /** Read and check everything, say what it would change, and leave the books as they are. */
  isTrial?: boolean;
  /** Replace journals that come with other content than they have in the books, instead of refusing them. */
  replacesChanged?: boolean;
  /** Take out normal journals of the months it touches that the delivery leaves out. */
  isComplete?: boolean;
  /** How the foreign file that the source stands for was read; kept with the delivery. */
  mapping?: Mapping;
  /** Size of journals.csv from which a second thread parses it; for tests. */
  threadFromBytes?: number;
  /** Journals that are remembered while lines are read; for tests. */
  journalsHeld?: number;
}
