/** What is judged of a reference, and how. */
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

/** What takes an address, not a specifier, although what it loads is a module (HTML 11.2.3). */
const WORKLET = 'addModule()';

/** True for `import 'name'` and the like: an import map says what it names. */
export function isBareSpecifier({ kind, holder, written }: Reference): boolean {
  return kind === 'module' && holder.syntax === 'script' && holder.name !== WORKLET && isBare(written);
}

/** True for what a worker runs (HTML 10.2.6, Service Workers 3.4). */
export function isWorker({ holder }: Reference): boolean {
  return (
    holder.syntax === 'script' && /^(?:new (?:Shared)?Worker|serviceWorker\.register)\(\)$/.test(holder.name)
  );
}
