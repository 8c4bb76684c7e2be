/** Reads a stylesheet: every address that it loads. */
import { Byte } from '../bytes.ts';
import { closesAgain } from './comments.ts';
import { Blocks } from './css/blocks.ts';
import { type CssSink, decodeEscapes, scanCss } from './css/scan.ts';
import { emptyReading } from './empty.ts';
import { firstLine } from './first-line.ts';
import { type Holder, holderOf } from './holder.ts';
import { lineAmount } from './lines.ts';
import type { Fault, FaultCode, Kind, Reading, Reference } from './reading.ts';
import { makeSource, type Source } from './source.ts';

const URL_FUNCTION = holderOf('css', '', 'url()');
const SRC_FUNCTION = holderOf('css', '', 'src()');
const IMAGE_SET = holderOf('css', '', 'image-set()');
const IMPORT = holderOf('css', '', '@import');

/** Reads CSS (CSS Syntax Level 3). Never throws. */
export function readCss(bytes: Uint8Array): Reading {
  return readCssSource(makeSource(bytes), 'utf-8');
}

/** Reads a list of declarations, such as the value of a `style` attribute: it has no rules that could be left open. */
export function readDeclarations(source: Source): Reading {
  const reader = new CssReader(source);
  scanCss(source.bytes, reader);
  return { ...emptyReading('utf-8'), references: reader.references };
}

/**
 * Reads a stylesheet. `url(#local)` and `@namespace` load nothing and stay out; an
 * `@import` after other rules loads nothing either, and is a fault.
 */
export function readCssSource(source: Source, encoding: string): Reading {
  const reader = new CssReader(source);
  scanCss(source.bytes, reader);
  return { ...emptyReading(encoding), references: reader.references, faults: reader.allFaults() };
}

class CssReader implements CssSink {
  readonly references: Reference[] = [];
  readonly faults: Fault[] = [];
  readonly #source: Source;
  /** Names of the functions that are open, innermost last; empty for a bare parenthesis. */
  readonly #functions: string[] = [];
  /** The at-rule whose prelude or block this is, as far as it matters. */
  #rule: 'import' | 'namespace' | 'font-face' | '' = '';
  #ruleHasAddress = false;
  /** Something stands before that no `@import` may follow (CSS Cascade 5, 2). */
  #importsAreOver = false;
  readonly #blocks: Blocks;
  #ruleStart = 0;
  #hasMarkup = false;
  /** Where the last rule ends, and nothing follows that could be spoilt; looked for when needed. */
  #lastRuleEnd: number | null = null;

  constructor(source: Source) {
    this.#source = source;
    this.#blocks = new Blocks(source.plain);
  }

  string(start: number, end: number): void {
    const inside = this.#functions.at(-1);
    if (inside === 'url' || inside === 'src')
      this.#add(start, end, inside === 'url' ? URL_FUNCTION : SRC_FUNCTION);
    else if (inside === 'image-set' || inside === '-webkit-image-set') this.#add(start, end, IMAGE_SET);
    else if (this.#rule === 'import' && inside === undefined && !this.#ruleHasAddress)
      this.#add(start, end, IMPORT);
  }

  url(start: number, end: number): void {
    this.#add(start, end, URL_FUNCTION);
  }

  open(start: number, end: number): void {
    this.#functions.push(start === end ? '' : this.#name(start, end));
  }

  close(): void {
    this.#functions.pop();
  }

  atKeyword(start: number, end: number): void {
    const name = this.#name(start, end);
    this.#rule = name === 'import' || name === 'namespace' || name === 'font-face' ? name : '';
    this.#ruleHasAddress = false;
    this.#ruleStart = start - 1;
    if (name === 'import' && this.#importsAreOver) {
      this.#fault('late-import', start - 1, end);
    }
    if (name !== 'import' && name !== 'charset' && name !== 'layer') this.#importsAreOver = true;
  }

  boundary(byte: number, at: number): void {
    this.#functions.length = 0;
    if (this.#rule === 'import' && byte === Byte.OpenBrace) this.#fault('open-import', this.#ruleStart, at);
    if (this.#rule === 'import' && byte !== Byte.OpenBrace && !this.#ruleHasAddress)
      this.#fault('bare-import', this.#ruleStart, at);
    if (byte === Byte.OpenBrace) this.#blocks.open(at);
    else if (byte === Byte.CloseBrace && !this.#blocks.close()) this.#strange('stray-brace', at);
    this.#blocks.statementEnds(at);
    if (byte === Byte.OpenBrace) this.#importsAreOver = true;
    // Declarations of a font face are parted by semicolons and belong to it until its block closes.
    if (this.#rule !== 'font-face' || byte === Byte.CloseBrace) this.#rule = '';
    this.#ruleHasAddress = false;
  }

  comment(start: number, end: number): void {
    const { plain } = this.#source;
    this.#blocks.commentEnds(start, end);
    const isOpen = !plain.startsWith('*/', end - 2) || end - start < 4;
    const text = plain.slice(start + 2, isOpen ? end : end - 2);
    if (isOpen) {
      if (text.includes('{')) this.#fault('open-comment', start, start + 2, takenLines(text));
      return;
    }
    const nested = text.indexOf('/*');
    if (nested < 0 || !/\{[^}]*\}/.test(text.slice(0, nested)) || closesAgain(plain, end, '/*', '*/')) return;
    this.#fault('open-comment', start, start + 2, takenLines(text.slice(0, nested)));
  }

  brokenString(start: number, end: number): void {
    this.#fault('open-string', start, end);
  }

  stranger(at: number): void {
    if (this.#source.bytes[at] !== Byte.Less) this.#fault('curly-quote', at, at + 3);
    else if (this.#blocks.depth === 0 && !this.#hasMarkup) {
      this.#hasMarkup = true;
      this.#strange('markup', at);
    }
  }

  /** What spoils the rule that follows, where one does. */
  #strange(code: 'markup' | 'stray-brace', at: number): void {
    const { plain } = this.#source;
    const end = code === 'markup' ? plain.indexOf('>', at) + 1 || plain.length : at + 1;
    this.#lastRuleEnd ??= endOfRules(plain);
    if (end < this.#lastRuleEnd) this.#fault(code, at, end);
  }

  #fault(code: FaultCode, start: number, end: number, detail = ''): void {
    const written = firstLine(this.#source, start, end);
    this.faults.push({ code, offset: start, length: end - start, detail, written });
  }

  /** With what the end of the file tells, in the order of the file. */
  allFaults(): readonly Fault[] {
    const left = this.#blocks.leftOpen();
    if (left === null) return this.faults;
    const { start, end, from } = left;
    this.#fault('open-block', start, end, takenLines(this.#source.plain.slice(from)));
    return this.faults.sort((one, other) => one.offset - other.offset);
  }

  #name(start: number, end: number): string {
    return decodeEscapes(this.#source.text(start, end)).toLowerCase();
  }

  #add(start: number, end: number, holder: Holder): void {
    const written = decodeEscapes(this.#source.text(start, end));
    const imported = this.#rule === 'import' && !this.#ruleHasAddress;
    this.#ruleHasAddress = true;
    if (this.#rule === 'namespace' || (!imported && written.startsWith('#'))) return;
    const kind: Kind = imported ? 'stylesheet' : this.#rule === 'font-face' ? 'font' : 'image';
    this.references.push({
      kind,
      holder: imported ? IMPORT : holder,
      offset: start,
      length: end - start,
      written,
      from: 'file',
      standing: null,
    });
  }
}

/** Without braces, comments, end tags and white space at the end of a stylesheet. */
function endOfRules(plain: string): number {
  let end = plain.length;
  for (;;) {
    while (end > 0 && /[\s}]/.test(plain[end - 1] as string)) end--;
    if (end >= 4 && plain.startsWith('*/', end - 2)) {
      end = Math.max(plain.lastIndexOf('/*', end - 3), 0);
      continue;
    }
    const open = plain[end - 1] === '>' ? plain.lastIndexOf('</', end) : -1;
    if (open < 0 || !/^<\/[a-z]+\s*>$/i.test(plain.slice(open, end))) return end;
    end = open;
  }
}

function takenLines(text: string): string {
  const lines = lineAmount(text);
  return lines === 1 ? 'it takes a line with it' : `it takes ${lines} lines with it`;
}
