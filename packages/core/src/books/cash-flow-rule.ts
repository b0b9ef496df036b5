/**
 * A movement that feeds a line of the indirect cash flow: `factor` × the ledger movement (debit positive) of the account
 * under a movement code; an empty `flow` stands for all codes that no other rule of the account names.
 *
 * The factors of an account and code add up to −1, so that all lines together are the change in cash.
 * @source reference definition 10; indirect method: IAS 7.18(b), 7.20 (from memory)
 */
export interface CashFlowRule {
  account: string;
  flow: string;
  line: string;
  factor: number;
}
