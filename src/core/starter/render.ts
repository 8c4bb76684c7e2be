/** Renders a starter: its files, with the blanks filled and every relative path written out. */

import { fail } from '../errors.ts';
import { inOneLine, inWords } from '../page/naming.ts';
import { sitePrefix } from '../site/places.ts';
import { MANIFEST, type Manifest } from './manifest.ts';
import { placingOf } from './placing.ts';
import { fillTemplate, fillText, targetName } from './template.ts';

export interface Starter {
  readonly name: string;
  /** The folder it comes from, as it is named in messages. */
  readonly shown: string;
  /** True for a starter of the user's own. */
  readonly own: boolean;
  readonly manifest: Manifest;
  /** Every file but the manifest, by its path in the starter; templates end in `.hbs`. */
  readonly files: ReadonlyMap<string, Uint8Array>;
}

/** What a project will hold: paths of files with their content, and folders (ending in `/`). */
export interface Layout {
  readonly files: ReadonlyMap<string, Uint8Array>;
  readonly folders: readonly string[];
}

/** The values of all blanks: those given, checked, and the defaults of the others. Throws a `CravelError`. */
export function fillBlanks(
  starter: Starter,
  folder: string,
  given: ReadonlyMap<string, string>,
): Record<string, string> {
  const { blanks } = starter.manifest;
  const known = Object.keys(blanks);
  for (const name of given.keys()) {
    if (!known.includes(name)) throw fail('unknown-blank', name, known.join(', ') || 'none');
  }
  const values: Record<string, string> = {};
  for (const name of known) {
    values[name] = checkBlank(starter, name, given.get(name) ?? defaultOf(starter, name, folder, values));
  }
  return values;
}

/** The values that a project records, with those of blanks that its starter got since. */
export function valuesOf(
  starter: Starter,
  recorded: Readonly<Record<string, string>>,
): Record<string, string> {
  return { ...fillBlanks(starter, 'site', new Map()), ...recorded };
}

/** What a blank is filled with where nobody says. */
export function defaultOf(
  { manifest, shown }: Starter,
  name: string,
  folder: string,
  earlier: Readonly<Record<string, string>>,
): string {
  return fillText(
    manifest.blanks[name]?.default ?? '',
    { folder: inWords(folder), ...earlier },
    `${shown}/${MANIFEST}`,
  );
}

/** The value as it will stand, white space put right. Throws a `CravelError` where the blank cannot hold it. */
export function checkBlank({ manifest }: Starter, name: string, value: string): string {
  const text = inOneLine(value);
  const blank = manifest.blanks[name];
  if (text === '' && blank?.default === '') return text;
  if (text === '') throw fail('bad-blank', name, text, 'Give it a value, or leave the option out.');
  if (/\p{Cc}/u.test(text)) throw fail('bad-blank', name, text, 'Leave out the control characters.');
  if (blank?.pattern !== undefined && !new RegExp(`^(?:${blank.pattern})$`, 'u').test(text)) {
    throw fail('bad-blank', name, text, blank.hint ?? `It must match ${blank.pattern}.`);
  }
  return text;
}

/** Renders every file. Throws a `CravelError` that names what is wrong. */
export function renderStarter(starter: Starter, values: Readonly<Record<string, string>>): Layout {
  const { manifest, shown } = starter;
  const sources = [...starter.files].filter(([path]) => path !== manifest.page);
  const placing = placingOf(manifest, values, `${shown}/${MANIFEST}`);
  const names = new Set(sources.map(([path]) => placing.of(targetName(path))));
  const files = new Map<string, Uint8Array>();
  for (const [path, bytes] of sources) {
    const name = targetName(path);
    const target = placing.of(name);
    if (files.has(target)) throw fail('two-files', target);
    const context = {
      shown: `${shown}/${path}`,
      target,
      values,
      placing,
      has: (file: string) => names.has(file),
    };
    files.set(target, name === path ? bytes : fillTemplate(bytes, context));
  }
  const site = sitePrefix(manifest.site);
  const folders = Object.values(placing.places).map((place) => `${place.replace(/\/$/, '')}/`);
  return { files, folders: folders.filter((place) => place !== './').map((place) => site + place) };
}
