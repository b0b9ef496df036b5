import { Readable } from 'node:stream';
import Papa from 'papaparse';
import { issue, type Issue } from '@margin-lens/core';

/** How a text file is written; a ledger package is UTF-8 with commas. */
export interface TextForm {
  encoding: string;
  delimiter: string;
}

const PACKAGE_FORM: TextForm = { encoding: 'utf-8', delimiter: ',' };

/** Takes rows as they come; returns false to stop reading. `line` is the physical line on which the row begins. */
export interface RowSink {
  header(names: string[], line: number): boolean;
  row(fields: string[], line: number): void;
  /** Called for lines without anything in them that stand before a row. */
  blank?(line: number): void;
  /** Called between chunks with the bytes read so far; throw to stop. */
  pause(bytes: number): void;
}

/** Longest row, characters: a quotation mark that is never closed would make one of the whole file. */
const ROW_AT_MOST = 4_000_000; // 1 to 20 million

class NotInEncoding extends Error {}
class RowTooLong extends Error {}

async function* decodeText(
  stream: Readable,
  encoding: string,
  onText: (text: string, bytes: number) => void,
): AsyncGenerator<string> {
  const decoder = new TextDecoder(encoding, { fatal: true });
  const decode = (chunk?: Buffer) => {
    try {
      return chunk ? decoder.decode(chunk, { stream: true }) : decoder.decode();
    } catch {
      throw new NotInEncoding();
    }
  };
  for await (const chunk of stream as AsyncIterable<Buffer>) {
    const text = decode(chunk);
    onText(text, chunk.length);
    yield text;
  }
  yield decode();
}

const newlinesIn = (fields: readonly string[]): number => {
  let count = 0;
  for (const field of fields) if (field !== '' && field.includes('\n')) count += field.split('\n').length - 1;
  return count;
};

/**
 * Streams a CSV file (RFC 4180; UTF-8 and commas unless another form is given) into a sink; memory does not grow with the file.
 *
 * Missing: empty lines are passed over. Encoding and quotation errors are reported as findings.
 */
export async function readCsv(
  file: string,
  stream: Readable,
  sink: RowSink,
  report: (found: Issue) => void,
  form = PACKAGE_FORM,
): Promise<void> {
  let blanks: number[] = [];
  let line = 1;
  let isHeaderRead = false;
  let bytes = 0;

  let hasQuotes = false;
  /** Characters that came since the last whole row. */
  let unread = 0;

  const takeRow = (fields: string[]): boolean => {
    const at = line;
    line += 1 + (hasQuotes ? newlinesIn(fields) : 0);
    if (fields.length === 1 && fields[0]!.trim() === '') {
      if (sink.blank) blanks.push(at);
      return true;
    }
    for (const blank of blanks) sink.blank!(blank);
    blanks = [];
    if (isHeaderRead) {
      sink.row(fields, at);
      return true;
    }
    isHeaderRead = true;
    return sink.header(fields, at);
  };

  await new Promise<void>((resolve, reject) => {
    let failure: unknown;
    const text = Readable.from(
      decodeText(stream, form.encoding, (chunk, count) => {
        bytes += count;
        unread += chunk.length;
        if (unread > ROW_AT_MOST) throw new RowTooLong();
        hasQuotes ||= chunk.includes('"');
      }),
    );
    const fail = (error: unknown, parser?: Papa.Parser) => {
      failure ??= error;
      parser?.abort();
      text.destroy();
      stream.destroy();
    };
    text.on('error', (error) => reject(failure ?? error));
    Papa.parse<string[]>(text, {
      delimiter: form.delimiter,
      skipEmptyLines: false,
      chunk: ({ data, errors }, parser) => {
        try {
          const quotes = errors.find((error) => error.type === 'Quotes');
          if (quotes)
            report(
              issue(
                'CORE_TABLE_QUOTES',
                { problem: quotes.message.toLowerCase() },
                { file, line: line + (quotes.row ?? 0) },
              ),
            );
          if (data.length > 0) unread = 0;
          for (const fields of data) if (!takeRow(fields)) return fail(undefined, parser);
          sink.pause(bytes);
        } catch (error) {
          fail(error ?? new Error('stopped'), parser);
        }
      },
      complete: () => (failure === undefined ? resolve() : reject(failure)),
      error: (error: unknown) => reject(failure ?? error),
    });
  }).catch((error: unknown) => {
    if (error instanceof NotInEncoding) report(issue('CORE_TABLE_ENCODING', {}, { file, line }));
    else if (error instanceof RowTooLong)
      report(issue('CORE_TABLE_ROW_LONG', { limit: ROW_AT_MOST / 1e6 }, { file, line }));
    else throw error;
  });
  if (!isHeaderRead) report(issue('CORE_TABLE_EMPTY', {}, { file }));
}
