/** A file of a ledger package; it comes in pieces, so that memory does not grow with it. */
export interface PackageFile {
  path: string;
  text(): Iterable<string> | AsyncIterable<Buffer>;
}

/** A file that holds one JSON value. */
export const jsonFile = (path: string, body: unknown): PackageFile => ({
  path,
  text: function* () {
    yield `${JSON.stringify(body, null, 2)}\n`;
  },
});
