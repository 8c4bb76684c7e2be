/** What is judged of a reference, and how. */
import { isSpecifier } from '../read/holder.ts';
import { isPage } from '../read/read.ts';
import type { Reference } from '../read/reading.ts';
import { isBare } from '../resolve/specifier.ts';

/**
 * True for references whose target is known from their file alone. Not so are those that a script starts from the
 * page that runs it, and bare module specifiers.
 */
export function isJudged(file: string, reference: Reference): boolean {
  if (reference.from !== 'file' && !isPage(file)) return false;
  // The value of a prefix in an import map is the start of addresses, not one of its own.
  const { holder, written } = reference;
  return !(holder.element === 'importmap' && holder.syntax === 'json' && written.endsWith('/'));
}

/** True for `import 'name'` and the like: an import map says what it names. */
export function isBareSpecifier({ kind, holder, written }: Reference): boolean {
  return isSpecifier({ kind, holder }) && isBare(written);
}
