import { SaxesParser, type SaxesTagPlain } from 'saxes';
import { fileWrong } from '../base/words';

/** How deep elements may stand in each other, and the longest text or tag, characters. */
const DEEPEST = 64; // 32 to 200
const TOKEN_AT_MOST = 200_000; // 50,000 to 2 million

/** Why XML is not read on: it declares entities, goes beyond a limit, or is not well-formed. */
export class XmlProblem extends Error {
  constructor(
    readonly kind: 'doctype' | 'limit' | 'damaged',
    message: string,
  ) {
    super(message);
  }
}

export interface XmlHandlers {
  open?(name: string, attributes: Record<string, string>): void;
  close?(name: string): void;
  text?(text: string): void;
  /** True when nothing more is wanted. */
  isEnough?(): boolean;
}

/** A name without the prefix that some writers put in front of every one. */
const localName = (name: string): string => name.slice(name.indexOf(':') + 1);

/** Reads XML from texts as they come, within limits; memory does not grow with it. */
export class GuardedXml {
  private readonly parser = new SaxesParser({ xmlns: false });
  private depth = 0;
  private sinceTag = 0;

  constructor(private readonly handlers: XmlHandlers) {
    const { parser } = this;
    parser.on('doctype', () => {
      throw new XmlProblem('doctype', fileWrong.entities);
    });
    parser.on('error', (error) => {
      throw new XmlProblem('damaged', error.message);
    });
    parser.on('opentag', ({ name, attributes }: SaxesTagPlain) => {
      this.sinceTag = 0;
      if (++this.depth > DEEPEST) throw new XmlProblem('limit', fileWrong.tooDeep(DEEPEST));
      handlers.open?.(localName(name), attributes);
    });
    parser.on('closetag', ({ name }) => {
      this.sinceTag = 0;
      this.depth--;
      handlers.close?.(localName(name));
    });
    if (!handlers.text) return;
    parser.on('text', (text) => handlers.text!(text));
    parser.on('cdata', (text) => handlers.text!(text));
  }

  /** Line of the text that is being read, counted from 1. */
  get line(): number {
    return this.parser.line;
  }

  /**
   * Takes the next text; false when nothing more is wanted.
   * @throws XmlProblem for document types, nesting or tokens without end, and what is not well-formed
   */
  write(text: string): boolean {
    // in pieces, so that a text or an attribute without end is met before memory is full of it
    for (let from = 0; from < text.length; from += TOKEN_AT_MOST) {
      const piece = text.slice(from, from + TOKEN_AT_MOST);
      this.sinceTag += piece.length;
      if (this.sinceTag > 2 * TOKEN_AT_MOST) throw new XmlProblem('limit', fileWrong.endless);
      this.parser.write(piece);
      if (this.handlers.isEnough?.()) return false;
    }
    return true;
  }

  /** @throws XmlProblem when the text is not whole */
  close(): void {
    this.parser.close();
  }
}
