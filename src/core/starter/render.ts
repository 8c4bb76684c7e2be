/** Renders a starter: its files, with the blanks filled and every relative path written out. */
import Handlebars from 'handlebars';
import { CravelError, fail } from '../errors.ts';
import { relativePath } from '../mend/address.ts';
import { folderOf } from '../site/inventory.ts';
import { type Manifest, staysInside } from './manifest.ts';

export interface Starter {
  readonly name: string;
  readonly manifest: Manifest;
  /** Every file but the manifest, by its path in the starter; templates end in `.hbs`. */
  readonly files: ReadonlyMap<string, Uint8Array>;
}

/** What a project will hold: site paths of files with their content, and folders (ending in `/`). */
export interface Layout {
  readonly files: ReadonlyMap<string, Uint8Array>;
  readonly folders: readonly string[];
}

const TEMPLATE = '.hbs';
const MARKUP = /\.(?:x?html?|svg|xml|webmanifest)$/;

/** Fills the blanks and renders every template. Throws a `CravelError` that names what is wrong. */
export function renderStarter(starter: Starter, folder: string, given: ReadonlyMap<string, string>): Layout {
  const blanks = fillBlanks(starter.manifest, folder, given);
  const names = [...starter.files.keys()].map((path) => targetName(path));
  const files = new Map<string, Uint8Array>();
  for (const [path, bytes] of starter.files) {
    const target = targetName(path);
    files.set(target, target === path ? bytes : renderFile(starter.name, path, bytes, blanks, names));
  }
  const folders = Object.values(starter.manifest.places).map((place) => `${place.replace(/\/$/, '')}/`);
  return { files, folders: folders.filter((place) => place !== './') };
}

/** The values of all blanks: those given, checked, and the defaults of the others. */
function fillBlanks(manifest: Manifest, folder: string, given: ReadonlyMap<string, string>) {
  const known = Object.keys(manifest.blanks);
  for (const name of given.keys()) {
    if (!known.includes(name)) throw fail('unknown-blank', name, known.join(', '));
  }
  const values: Record<string, string> = { folder: titleFrom(folder) };
  for (const [name, blank] of Object.entries(manifest.blanks)) {
    const text = given.get(name)?.trim() ?? Handlebars.compile(blank.default, { noEscape: true })(values);
    if (text === '') throw fail('bad-blank', name, text, 'Give it a value, or leave the option out.');
    if (blank.pattern !== undefined && !new RegExp(`^(?:${blank.pattern})$`, 'u').test(text)) {
      throw fail('bad-blank', name, text, blank.hint ?? `It must match ${blank.pattern}.`);
    }
    values[name] = text;
  }
  return values;
}

function renderFile(
  starter: string,
  path: string,
  bytes: Uint8Array,
  blanks: Readonly<Record<string, string>>,
  names: readonly string[],
): Uint8Array {
  const target = targetName(path);
  const to = (wanted: string) => {
    if (!staysInside(wanted) || !names.includes(wanted)) {
      throw fail(
        'manifest',
        `starters/${starter}/${path}`,
        `it names ${wanted}, which the starter lacks`,
        'Add the file, or correct the name.',
      );
    }
    return relativePath(folderOf(target), wanted);
  };
  try {
    const options = { strict: true, noEscape: !MARKUP.test(target) };
    const text = Handlebars.compile(new TextDecoder().decode(bytes), options)(blanks, { helpers: { to } });
    return new TextEncoder().encode(text);
  } catch (error) {
    if (error instanceof CravelError) throw error;
    const [first = ''] = (error as Error).message.split('\n');
    throw fail('manifest', `starters/${starter}/${path}`, first.replace(/:$/, ''), 'Correct the template.');
  }
}

function targetName(path: string): string {
  return path.endsWith(TEMPLATE) ? path.slice(0, -TEMPLATE.length) : path;
}

/** A title from a folder's name: `gullhaven-ferry` gives `Gullhaven ferry`. */
function titleFrom(folder: string): string {
  const words = folder.replace(/[-_.]+/g, ' ').trim();
  return words.charAt(0).toUpperCase() + words.slice(1);
}
