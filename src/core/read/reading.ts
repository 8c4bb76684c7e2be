/** A reading: what one file says, as far as the rest of Cravel needs to know. */
import type { Edit } from '../change/edit.ts';
import type { Holder } from './holder.ts';

/** What a reference may be for. */
export const kinds = [
  'page',
  'stylesheet',
  'script',
  'module',
  'image',
  'font',
  'media',
  'frame',
  'data',
  'icon',
  'manifest',
  'download',
  'anchor',
] as const;
export type Kind = (typeof kinds)[number];

/** One place in one file that names another resource. */
export interface Reference {
  readonly kind: Kind;
  readonly holder: Holder;
  /** Byte offset in the file of the address text itself, without quotes. */
  readonly offset: number;
  /** Length of the address text in bytes, as it stands in the file. */
  readonly length: number;
  /** The address with character references and escapes decoded. */
  readonly written: string;
  /**
   * `page` where the address starts from the page that runs a script, not from the script's own file; `some-page` where
   * the script may not ask for it on every page.
   */
  readonly from: 'file' | 'page' | 'some-page';
  /** Where in a page a browser puts the holder; null in other files. */
  readonly standing: Standing | null;
}

/** Where in a page a reference stands. */
export interface Standing {
  readonly region: 'head' | 'body' | 'none';
  /** What the holder stands in that changes what it does: the innermost. */
  readonly inside: 'template' | 'noscript' | 'select' | 'svg' | 'math' | null;
  /** 0 for the page's own document, else the number of the `srcdoc` whose document it is. */
  readonly document: number;
  /** Of elements that load something: attributes that change how, as written, by name. */
  readonly attributes: Readonly<Record<string, string>> | null;
}

/** A span of a file: byte offset and length. */
export interface Span {
  readonly offset: number;
  readonly length: number;
}

/** A string in a script that looks like the path of a file. */
export interface Hint extends Span {
  readonly written: string;
  /**
   * `loading` in a call with a name before it, as games load pictures; `value` where it stands for itself; `piece` where
   * it is compared, taken apart or put together with others, or where nobody can tell.
   */
  readonly use: 'loading' | 'value' | 'piece';
}

/** Something that keeps a file, or a part of it, from being read or from taking effect. */
export interface Fault extends Span {
  readonly code: FaultCode;
  /** Of what is written, what people need to see; empty where the place says it. */
  readonly written?: string;
  /** What is wrong, in the words of the format: what the parser expected, for example; empty where the code says it. */
  readonly detail: string;
}

/** What tells each of them; `unread` where the file is told as one that could not be read. */
export const toldBy = {
  'script-does-not-parse': 'does-not-parse',
  'json-does-not-parse': 'does-not-parse',
  'late-import': 'without-effect',
  'bare-import': 'without-effect',
  'curly-quote': 'without-effect',
  'open-comment': 'swallowed',
  'open-string': 'swallowed',
  'open-block': 'swallowed',
  'stray-brace': 'swallowed',
  'open-import': 'swallowed',
  markup: 'swallowed',
  'too-deep': 'unread',
} as const;
export type FaultCode = keyof typeof toldBy;

/** An attribute that is nearly, or elsewhere, one that holds an address or decides what is loaded. */
export interface NearMiss extends Span {
  readonly element: string;
  readonly attribute: string;
  readonly value: string;
  readonly meant: string;
}

/** An address that is never loaded. */
export interface Inert extends Span {
  readonly holder: Holder;
  readonly written: string;
  readonly why:
    | 'no-relation'
    | 'misspelt-relation'
    | 'no-script-type'
    | 'no-style-type'
    | 'no-address'
    | 'no-media-type'
    | 'disabled'
    | 'no-module'
    | 'misspelt-element';
  /** What was probably meant, in a word; null where nobody can tell. */
  readonly near: string | null;
  /** What puts it right by itself. */
  readonly mend: Edit | null;
}

/** Markup, or a part of a stylesheet, that was left open, and what a browser takes for a part of it. */
export interface Swallowed extends Span {
  readonly what: 'element' | 'self-closed' | 'comment' | 'quote' | 'tag';
  /** The element that it is or stands in; empty for a comment. */
  readonly name: string;
  /** Its first line, as far as people need to see it. */
  readonly written: string;
  /** What it takes with it; to the end of the file where `isRest`. */
  readonly taken: Span;
  readonly isRest: boolean;
  readonly lines: number;
  /** What would stand in it; their places are of no use. */
  readonly references: readonly Reference[];
  readonly mend: Edit | null;
}

/** What an import map says (HTML 8.1.6.2), as written. */
export interface ImportMap {
  readonly imports: ReadonlyMap<string, string>;
  /** By the addresses of modules, or of their folders, that they are for. */
  readonly scopes: ReadonlyMap<string, ReadonlyMap<string, string>>;
}

/** Code that a page runs by itself: of a script without a source, or of an event handler; `text` is decoded. */
interface PageCode extends Span {
  readonly text: string;
}

/** The code of an event handler, with the element and the attribute that hold it, in small letters. */
export interface HandlerCode extends PageCode {
  readonly element: string;
  readonly attribute: string;
}

/** The code of a script without a source. */
export interface InlineScript extends PageCode {
  readonly goal: 'script' | 'module';
  /** A module that nothing waits for (HTML 4.12.1). */
  readonly isAsync: boolean;
  readonly isInHead: boolean;
}

/** What a page says of itself; each with its place, null where it is missing. */
export interface PageFacts {
  /**
   * What it is by its text: a piece has no doctype, `html`, `head`, `body` or `title` of its own; a source begins with
   * settings for a generator, or has template tags where a page has none.
   */
  readonly form: 'page' | 'piece' | 'source';
  /** True where the file begins with a byte order mark. */
  readonly hasMark: boolean;
  readonly doctype: Span | null;
  readonly language: string | null;
  /** The text of the `title` element, as written. */
  readonly title: (Span & { readonly text: string }) | null;
  readonly description: string | null;
  readonly viewport: string | null;
  /** The label of the character encoding, and the offset of the `meta` that says it. */
  readonly charset: { readonly label: string; readonly offset: number } | null;
  /** Offset of the first `base` that counts, and how many references stand before it. */
  readonly base: { readonly offset: number; readonly after: number } | null;
  readonly inlineScripts: readonly Span[];
  readonly inlineStyles: readonly Span[];
  /** Those of {@link PageFacts.inlineScripts} that the page runs. */
  readonly code: readonly InlineScript[];
  /** Values of attributes that run when something happens (HTML 8.1.8.1). */
  readonly handlers: readonly HandlerCode[];
  /** Where scripts without a source have no code either; `waits` where they say when to run a source. */
  readonly emptyScripts: readonly (Span & { readonly waits: boolean })[];
  /** Code of scripts that have a source as well, and so ignore it. */
  readonly ignoredCode: readonly Span[];
  /** Addresses that no browser loads, since the element does not say as what. */
  readonly inert: readonly Inert[];
  /** Its first import map; null where it has none. */
  readonly importMap: ImportMap | null;
  /** Comments that mark where a part begins or ends. */
  readonly partMarks: readonly Span[];

  readonly frames: readonly Frame[];

  readonly nearMisses: readonly NearMiss[];
  readonly swallowed: readonly Swallowed[];
}

/** A document in a `srcdoc` whose scripts run; the span is that of the attribute's value, as written. */
export interface Frame extends Span {
  /** With positions in the document itself, its character references decoded. */
  readonly reading: Reading;
}

export interface Reading {
  /** The name of the file's encoding, by the Encoding standard. */
  readonly encoding: string;
  /** In the order of the file. */
  readonly references: readonly Reference[];
  readonly hints: readonly Hint[];
  /** Folders, as written, that strings of scripts begin with: paths of files may be put together from them. */
  readonly folders: readonly string[];
  /** What a script may put in front of paths, as written; null where it may be anything. */
  readonly prefixes: readonly string[] | null;
  readonly faults: readonly Fault[];
  /** What a fragment can point at: every `id`, and every `name` of an `a` element (HTML 7.4.6.3). */
  readonly anchors: ReadonlySet<string>;
  /** The `href` of the first `base` element that has one, as written (HTML 4.2.3). */
  readonly base: string | null;
  /** Where the first of those stand, and the last one. */
  readonly firstAnchors: ReadonlyMap<string, number>;
  readonly lastAnchor: number;
  /** Null for files that are not pages. */
  readonly page: PageFacts | null;
}
