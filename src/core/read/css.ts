/** Reads a stylesheet: every address that it loads. */
import { Byte } from '../bytes.ts';
import { type CssSink, decodeEscapes, scanCss } from './css/scan.ts';
import { emptyReading } from './empty.ts';
import { type Holder, holderOf } from './holder.ts';
import type { Fault, Kind, Reading, Reference } from './reading.ts';
import { makeSource, type Source } from './source.ts';

const URL_FUNCTION = holderOf('css', '', 'url()');
const SRC_FUNCTION = holderOf('css', '', 'src()');
const IMAGE_SET = holderOf('css', '', 'image-set()');
const IMPORT = holderOf('css', '', '@import');

/** Reads CSS (CSS Syntax Level 3). Never throws. */
export function readCss(bytes: Uint8Array): Reading {
  return readCssSource(makeSource(bytes), 'utf-8');
}

/**
 * Reads a stylesheet or a list of declarations. `url(#local)` and `@namespace` load nothing and stay out; an
 * `@import` after other rules loads nothing either, and is a fault.
 */
export function readCssSource(source: Source, encoding: string): Reading {
  const reader = new CssReader(source);
  scanCss(source.bytes, reader);
  return { ...emptyReading(encoding), references: reader.references, faults: reader.faults };
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

  constructor(source: Source) {
    this.#source = source;
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
    if (name === 'import' && this.#importsAreOver) {
      this.faults.push({ code: 'late-import', offset: start - 1, length: end - start + 1, detail: '' });
    }
    if (name !== 'import' && name !== 'charset' && name !== 'layer') this.#importsAreOver = true;
  }

  boundary(byte: number): void {
    this.#functions.length = 0;
    if (byte === Byte.OpenBrace) this.#importsAreOver = true;
    // Declarations of a font face are parted by semicolons and belong to it until its block closes.
    if (this.#rule !== 'font-face' || byte === Byte.CloseBrace) this.#rule = '';
    this.#ruleHasAddress = false;
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
