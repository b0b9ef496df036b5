import type { How } from '@margin-lens/contract';
import type { Generation, Part } from '@margin-lens/core';
import { booksDone } from '../base/words';

/** What a write of the workspace can be. */
export const REVISION_KINDS = [
  'import',
  'undo_import',
  'adjust',
  'take_out_adjustment',
  'set_up_table',
  'set_up_workspace',
  'close_periods',
  'open_periods',
  'add_document',
  'keep_document',
  'write_remark',
  'change_remark',
  'take_out_remark',
  'bring_back_remark',
  'mark_seen',
  'unmark_seen',
  'write_evidence',
  'attach_file',
  'detach_file',
  'write_closing_list',
  'tick_off',
  'take_off_tick',
  'issue_pack',
  'take_back_issue',
  'make_version',
  'set_up_version',
  'move_version',
  'take_out_version',
  'bring_back_version',
  'change_figures',
] as const;
export type RevisionKind = (typeof REVISION_KINDS)[number];

/** Kinds that make, move and take out versions; their subject is the version's code. */
export const VERSION_ACTS: readonly RevisionKind[] = [
  'make_version',
  'set_up_version',
  'move_version',
  'take_out_version',
  'bring_back_version',
];

/** What more there is to say of a write. */
export interface RevisionDetails {
  /** Why, in a person's words. */
  reason?: string;
  /** What was done to a version, in words. */
  what?: string;
  /** How figures were changed, of which entity (`*` for several), and what the person called it. */
  how?: How;
  scope?: string;
  label?: string;
  /** Periods that were opened or closed. */
  periods?: readonly string[];
}

/** A write as it is asked for: what it is, and what it is about (a file, a table, a code, an id). */
export interface Act {
  kind: RevisionKind;
  subject: string;
  details?: RevisionDetails;
}

/** A write as it is kept. */
export interface Revision extends Required<Act> {
  id: number;
  at: string;
  /** Id of the person. */
  person: string;
  touches: readonly Part[];
  /** The moment after it. */
  generation: Generation;
}

/** What a write is called where the history of a table or the origin of a journal is shown. */
export function actInWords({ kind, subject, details }: Pick<Revision, 'kind' | 'subject' | 'details'>): string {
  switch (kind) {
    case 'import':
      return booksDone.delivery(subject);
    case 'undo_import':
      return booksDone.undone(subject);
    case 'adjust':
      return booksDone.adjusted(details.reason ?? '');
    case 'set_up_table':
      return booksDone.setUp(subject);
    case 'set_up_workspace':
      return booksDone.setUp('workspace');
    default:
      return details.what ?? booksDone.other(kind, subject);
  }
}
