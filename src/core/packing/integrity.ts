/** Keeps integrity values true to files that are changed on the way out (Subresource Integrity 3.3). */
import type { Files } from '../change/files.ts';
import { addressAttribute, valueEdit } from '../page/attributes.ts';
import { openPage, type Page } from '../page/page.ts';
import { type Tagged, tagsOf } from '../page/tags.ts';
import { isPage } from '../read/read.ts';
import { type Published, resolveIn } from '../resolve/published.ts';
import { type Algorithm, integrityHolds } from '../site/integrity.ts';

/** The digest of bytes, in base64. */
export type DigestOf = (bytes: Uint8Array, algorithm: Algorithm) => string;

/** The values of each page that hold; others are for the check to tell of. */
export type Held = ReadonlyMap<string, ReadonlySet<string>>;

export function heldIn(files: Files, published: Published | null, digestOf: DigestOf): Held {
  const held = new Map<string, Set<string>>();
  for (const file of files.paths().filter(isPage)) {
    const page = openPage(file, files.read(file));
    const { references } = page.reading;
    if (!references.some(({ standing }) => 'integrity' in (standing?.attributes ?? {}))) continue;
    const own = valuesOn(page, files, published)
      .filter(({ value, bytes }) => integrityHolds(value, (algorithm) => digestOf(bytes, algorithm)))
      .map(({ value }) => value);
    if (own.length > 0) held.set(file, new Set(own));
  }
  return held;
}

/** Writes the values that held anew where their files are others by now. Pages keep their paths. */
export function renewIntegrity(
  files: Files,
  published: Published | null,
  held: Held,
  digestOf: DigestOf,
): void {
  for (const [file, known] of held) {
    const page = openPage(file, files.read(file));
    const edits = valuesOn(page, files, published).flatMap(({ element, value, bytes }) => {
      const holds = integrityHolds(value, (algorithm) => digestOf(bytes, algorithm));
      if (holds || !known.has(value)) return [];
      const algorithm = (/sha512|sha384|sha256/.exec(value)?.[0] ?? 'sha384') as Algorithm;
      return valueEdit(page, element, 'integrity', `${algorithm}-${digestOf(bytes, algorithm)}`);
    });
    if (edits.length > 0) files.write(file, page.edited(edits));
  }
}

/** The values that elements of a page have, each with the bytes of the file that it is for. */
function valuesOn(
  page: Page,
  files: Files,
  published: Published | null,
): { readonly element: Tagged; readonly value: string; readonly bytes: Uint8Array }[] {
  return tagsOf(page).elements.flatMap((element) => {
    const value = element.attribute('integrity');
    const address = element.attribute(addressAttribute(element));
    if (value === null || address === null) return [];
    const target = resolveIn(address, page.base, published);
    if (target.in !== 'site' || !files.has(target.path)) return [];
    return { element, value, bytes: files.read(target.path) };
  });
}
