import { parentPort, workerData } from 'node:worker_threads';
import Database from 'better-sqlite3';
import { prepare } from './open-orm';
import { wordsOfLine, type IndexedLine } from './line-words';

/** Lines of one transaction: others that want to write wait no longer than for these. */
const CHUNK = 4_000;
/** Pause after each, longer than others take to look for the lock again. */
const PAUSE_MS = 60;
/** Times that it waits for others, and how long each time. */
const TRIES = 20;
const WAIT_MS = 5_000;

const nobody = new Int32Array(new SharedArrayBuffer(4));
const pause = () => Atomics.wait(nobody, 0, 0, PAUSE_MS);

/** Adds the words of lines that came since, a chunk at a time, until none is left. */
function catchUp(databaseFile: string): void {
  const db = new Database(databaseFile);
  prepare(db);
  // this thread has nothing else to do
  db.pragma(`busy_timeout = ${WAIT_MS}`);
  const read = db.prepare(
    `select l.id, l.entity, l.account, l.period, l.debit, l.credit, l.description, l.document, j.number, c.parts
     from journal_line l join journal j on j.id = l.journal join combination c on c.id = l.combination
     where l.id > ? order by l.id limit ${CHUNK}`,
  );
  const insert = db.prepare('insert into line_words (rowid, words) values (?, ?)');
  const note = db.prepare('update search_state set indexed_to = ?');
  const chunk = db.transaction((): number => {
    const { at } = db.prepare('select indexed_to as at from search_state').get() as { at: number };
    const lines = read.all(at) as IndexedLine[];
    for (const line of lines) insert.run(line.id, wordsOfLine(line));
    if (lines.length > 0) note.run(lines.at(-1)!.id);
    return lines.length;
  });
  let tries = TRIES;
  try {
    while (tries > 0) {
      try {
        if (chunk.immediate() < CHUNK) return;
        tries = TRIES;
        pause();
      } catch (error) {
        // someone writes for long, such as a delivery; what is left is added after it
        if ((error as { code?: string }).code !== 'SQLITE_BUSY') throw error;
        tries--;
      }
    }
  } finally {
    db.close();
  }
}

catchUp(workerData as string);
parentPort!.postMessage('done');
