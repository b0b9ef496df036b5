import { Migration0001First } from './0001-first';

export const MIGRATIONS = [{ name: '0001-first', class: Migration0001First }];
