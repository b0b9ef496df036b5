export * from './adjustments';
export * from './books-check';
export * from './figures';
export * from './imports';
export * from './ledger';
export * from './periods';
export * from './statements';
export * from './workspace';
