import {
  type DefaultTreeAdapterMap,
  defaultTreeAdapter,
  InsertionMode,
  Parser,
  type ParserOptions,
  Token,
  Tokenizer,
  type TokenHandler,
} from 'parse5';

type Map = DefaultTreeAdapterMap;
type Placed = Token.ElementLocation;
type AttachAt = Parameters<Parser<Map>['_attachElementToTree']>[2];

/** Where text is inserted as it comes, spaces and all: there, a space within it needs no token of its own. */
const takesTextWhole = new Set<InsertionMode>([
  InsertionMode.IN_BODY,
  InsertionMode.IN_CELL,
  InsertionMode.IN_CAPTION,
  InsertionMode.TEXT,
]);

const SPACE = 0x20;
const LINE_FEED = 0x0a;
const TAB = 0x09;

/**
 * parse5 makes a token of each word and one of each space between two, because before the head and in tables they are told
 * apart. Where they are not, a space goes on with the text that it stands in.
 */
class TextTokenizer extends Tokenizer {
  readonly #parser: PlacingParser;

  constructor(options: ConstructorParameters<typeof Tokenizer>[0], parser: PlacingParser) {
    super(options, parser as TokenHandler);
    this.#parser = parser;
  }

  protected override _emitCodePoint(cp: number): void {
    if (
      (cp === SPACE || cp === LINE_FEED || cp === TAB) &&
      this.currentCharacterToken?.type === Token.TokenType.CHARACTER &&
      takesTextWhole.has(this.#parser.insertionMode)
    )
      this._extendRun(cp);
    else super._emitCodePoint(cp);
  }
}

/**
 * parse5's parser, which spends half of its time on the places of nodes: here they are written in place, without an object
 * for each step. The tree and the places are its own, held by a test against parse5 itself.
 */
export class PlacingParser extends Parser<Map> {
  constructor(options: ParserOptions<Map>) {
    super(options);
    this.tokenizer = new TextTokenizer(this.options, this);
  }

  override _attachElementToTree(
    element: Map['element'],
    location: Token.LocationWithAttributes | null,
    { parent, beforeElement }: AttachAt,
  ): void {
    if (this.options.sourceCodeLocationInfo) element.sourceCodeLocation = location && placed(location);
    if (beforeElement) defaultTreeAdapter.insertBefore(parent, element, beforeElement);
    else defaultTreeAdapter.appendChild(parent, element);
  }

  /** @param closing nothing where text alone stood before: elements that were not written end then */
  override _setEndLocation(element: Map['element'], closing: Token.Token | null): void {
    const at = element.sourceCodeLocation;
    const end = closing?.location;
    if (!at || !end) return;
    const isItsTag = closing.type === Token.TokenType.END_TAG && closing.tagName === element.tagName;
    if (isItsTag) at.endTag = end;
    at.endLine = isItsTag ? end.endLine : end.startLine;
    at.endCol = isItsTag ? end.endCol : end.startCol;
    at.endOffset = isItsTag ? end.endOffset : end.startOffset;
  }
}

const placed = (l: Token.LocationWithAttributes): Placed => ({
  startLine: l.startLine,
  startCol: l.startCol,
  startOffset: l.startOffset,
  endLine: l.endLine,
  endCol: l.endCol,
  endOffset: l.endOffset,
  ...(l.attrs && { attrs: l.attrs }),
  startTag: l,
});
