/** A reading: what one file says, as far as the rest of Cravel needs to know. */

/** What a reference is for. */
export type Kind =
  | 'page'
  | 'stylesheet'
  | 'script'
  | 'module'
  | 'image'
  | 'font'
  | 'media'
  | 'frame'
  | 'data'
  | 'icon'
  | 'manifest'
  | 'download'
  | 'anchor';

/** One spot in one file that names another resource. */
export interface Reference {
  readonly kind: Kind;
  /** What holds it: element and attribute (`img src`), CSS function or at-rule (`url()`, `@import`). */
  readonly holder: string;
  /** Byte offset in the file of the address text itself, without quotes. */
  readonly offset: number;
  /** Length of the address text in bytes, as it stands in the file. */
  readonly length: number;
  /** The address with character references and escapes decoded. */
  readonly written: string;
}

export interface Reading {
  readonly references: readonly Reference[];
  /** What a fragment can point at: every `id`, and every `name` of an `a` element (HTML 7.4.6.3). */
  readonly anchors: ReadonlySet<string>;
  /** The `href` of the first `base` element that has one, as written (HTML 4.2.3). */
  readonly base: string | null;
}
