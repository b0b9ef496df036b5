export * from './figures';
export * from './imports';
export * from './statements';
export * from './workspace';
