/** Fills templates: blanks as each format can hold them, and relative paths from where the file will stand. */
import Handlebars from 'handlebars';
import { CravelError, fail } from '../errors.ts';
import { relativePath } from '../mend/address.ts';
import { isCode, isMarkup } from '../site/formats.ts';
import { extensionOf, folderOf } from '../site/inventory.ts';
import { staysInside } from '../site/places.ts';
import type { Placing } from './placing.ts';

const TEMPLATE = '.hbs';

/** The name that a starter's file gets in the project. */
export function targetName(path: string): string {
  return path.endsWith(TEMPLATE) ? path.slice(0, -TEMPLATE.length) : path;
}

/** Characters that mean something beside a blank, each with the helper that writes it. */
const written: Readonly<Record<string, string>> = { '{': 'brace', '}': 'closing', '\\': 'backslash' };
const writers = Object.fromEntries(
  Object.entries(written).map(([character, name]) => [name, () => character]),
);

/** Text that gives itself back when a template with it is filled. */
export function templateText(text: string): string {
  return text.replace(/[{}\\]/g, (character) => `{{${written[character]}}}`);
}

export interface TemplateContext {
  /** The template, as it is named in messages. */
  readonly shown: string;
  /** The path of the file to be. */
  readonly target: string;
  readonly values: Readonly<Record<string, string>>;
  readonly placing: Placing;
  /** True for files of the project that `{{to}}` may lead to. */
  has(path: string): boolean;
}

/** The bytes of a template filled in. Throws a `CravelError` that names the template. */
export function fillTemplate(
  bytes: Uint8Array,
  { shown, target, values, placing, has }: TemplateContext,
): Uint8Array {
  const to = (wanted: unknown) => {
    const found = typeof wanted === 'string' && staysInside(wanted) ? placing.of(wanted) : null;
    if (found === null || !has(found)) {
      throw fail(
        'manifest',
        shown,
        `it names ${wanted}, which is not there`,
        'Add the file, or correct the name.',
      );
    }
    return relativePath(folderOf(target), found);
  };
  const extension = extensionOf(target);
  const isInMarkup = isMarkup(target);
  const asHeld = isCode(target) ? escapeScript : extension === 'css' ? escapeCss : (text: string) => text;
  const held = isInMarkup
    ? values
    : Object.fromEntries(Object.entries(values).map(([name, text]) => [name, asHeld(text)]));
  return new TextEncoder().encode(
    evaluate(
      new TextDecoder().decode(bytes),
      held,
      shown,
      { strict: true, noEscape: !isInMarkup },
      { to, ...writers },
    ),
  );
}

/** The path of another file in the folder of one. */
const beside = (file: string, name: string) => folderOf(file) + name;

/** A short template without `{{to}}`: the default of a blank, where a file is put. */
export function fillText(text: string, values: Readonly<Record<string, string>>, shown: string): string {
  return evaluate(text, values, shown, { strict: true, noEscape: true }, { beside, ...writers });
}

function evaluate(
  text: string,
  values: object,
  shown: string,
  options: CompileOptions,
  helpers: Record<string, Handlebars.HelperDelegate>,
): string {
  try {
    return Handlebars.compile(text, options)(values, { helpers });
  } catch (error) {
    if (error instanceof CravelError) throw error;
    const [first = ''] = (error as Error).message.split('\n');
    throw fail('manifest', shown, first.replace(/:$/, ''), 'Correct the template.');
  }
}

/** Inside a string of any quotes (ECMA-262 12.9.4, JSON). */
function escapeScript(text: string): string {
  return text.replace(/[\0-\x1f"'`\\$<>\u2028\u2029]/g, (character) => {
    return `\\u${character.charCodeAt(0).toString(16).padStart(4, '0')}`;
  });
}

/** Inside a string or a comment (CSS Syntax 4.3.7). */
function escapeCss(text: string): string {
  return text.replace(/[\0-\x1f"'\\*<]/g, (character) => `\\${character.charCodeAt(0).toString(16)} `);
}
