import type { ForeignCell, Mapping } from '@margin-lens/core';

/** An account as a file has it. Units: `stand` in units of the currency, debit positive. */
export interface AccountOfFile {
  name: string;
  stand: number;
}

/** What a foreign file calls its accounts, and what the rows made of it post to them. */
export class AccountsOfFile {
  private readonly held = new Map<string, AccountOfFile>();
  /** Names by the line that they stand on: rows of a trial balance are made once all of it is read. */
  private readonly names = new Map<number, string>();
  private nameAt = -1;
  private at = { account: -1, debit: -1, credit: -1 };

  constructor(
    private readonly mapping: Mapping,
    /** Which accounts are asked about. */
    private readonly isAsked: (number: string) => boolean,
  ) {}

  /** @param names of the file's columns; `header` are those of the rows made */
  begin(names: readonly string[], header: readonly string[]): void {
    this.nameAt = names.indexOf(this.mapping.columns['account_name'] ?? '');
    const place = (name: string) => header.indexOf(name);
    this.at = { account: place('account'), debit: place('debit'), credit: place('credit') };
  }

  /** Takes a line of the file as it stands there, before the rows that are made of it. */
  read(cells: readonly ForeignCell[], line: number): void {
    if (this.nameAt >= 0) this.names.set(line, String(cells[this.nameAt] ?? '').trim());
  }

  /** Takes a row that was made of a line. */
  made(fields: readonly string[], line: number): void {
    const number = fields[this.at.account] ?? '';
    const called = this.names.get(line) ?? '';
    this.names.delete(line); // a ledger has millions of lines
    if (number === '' || !this.isAsked(number)) return;
    const held = this.held.get(number) ?? { name: '', stand: 0 };
    held.name ||= called;
    held.stand += (Number(fields[this.at.debit]) || 0) - (Number(fields[this.at.credit]) || 0);
    this.held.set(number, held);
  }

  of(number: string): AccountOfFile {
    const { name = '', stand = 0 } = this.held.get(number) ?? {};
    return { name, stand: Math.round(stand * 100) / 100 };
  }

  numbers(): string[] {
    return [...this.held.keys()];
  }
}
