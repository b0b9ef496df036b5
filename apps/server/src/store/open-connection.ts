import Database from 'better-sqlite3';

/** A connection of its own for one write, with room for sorting in memory. */
export function openConnection(file: string): Database.Database {
  const db = new Database(file);
  db.pragma('journal_mode = WAL');
  db.pragma('synchronous = FULL');
  db.pragma('busy_timeout = 5000');
  db.pragma('cache_size = -300000');
  db.pragma('temp_store = FILE');
  return db;
}
