/** How a workbook writes amounts of a currency with so many decimals: negative in brackets, nothing as a dash. */
export function moneyFormat(digits: number): string {
  const decimals = digits > 0 ? `.${'0'.repeat(digits)}` : '';
  return `#,##0${decimals};(#,##0${decimals});"–"`;
}
