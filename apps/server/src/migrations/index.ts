import { Migration0001First } from './0001-first';
import { Migration0002Undo } from './0002-undo';

export const MIGRATIONS = [
  { name: '0001-first', class: Migration0001First },
  { name: '0002-undo', class: Migration0002Undo },
];
