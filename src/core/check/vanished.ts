/** Files and folders that seem to have been renamed by other means: what referred to them can follow in one go. */

import { absent } from '../judge/rules/absent.ts';
import type { Cause } from '../report.ts';
import { sortOfFile } from '../site/formats.ts';
import { folderOf, type Inventory } from '../site/inventory.ts';
import type { Ledger } from './ledger.ts';

/** What an earlier state of the site is known to have held, and what is there now: digests in base64. */
export interface Recorded {
  /** Null for a path of which nothing is known. */
  readonly digestBefore: (path: string) => string | null;
  readonly digestNow: (path: string) => string | null;
}

/** The command that makes the references of one cause follow; null where nothing seems to have been renamed. */
export function followingCommand(
  findings: Cause['findings'],
  ledger: Ledger,
  inventory: Inventory,
  recorded: Recorded,
): string | null {
  const [first] = findings;
  if (first.rule !== absent.name) return null;
  const moved = first.target === null ? null : movedTo(first.target, ledger, inventory, recorded);
  if (moved !== null && findings.every(({ target }) => target === first.target))
    return commandOf(first.target as string, moved);
  const pairs = findings.map(({ target, mends }) => [target, mends[0]?.target ?? null] as const);
  const isUsed = usedIn(ledger);
  const known: (readonly [string, string])[] = [];
  for (const [from, to] of pairs) {
    if (from === null || to === null || sortOfFile(from) !== sortOfFile(to)) return null;
    known.push([from, to]);
  }
  const [from, to] = known[0] as readonly [string, string];
  const isOne = known.every(([one, other]) => one === from && other === to);
  if (isOne && folderOf(from) === folderOf(to)) return isUsed(to) ? null : commandOf(from, to);
  // Some may follow already.
  if (known.every(([, one]) => isUsed(one))) return null;
  const [old, fresh] = foldersOf(from, to);
  // What lies elsewhere under its own name may be another one, unless its folder is gone.
  if (old === '' || fresh === '' || old === fresh || inventory.folders.has(old)) return null;
  const isAlike = known.every(
    ([one, other]) =>
      one.startsWith(old) && other.startsWith(fresh) && one.slice(old.length) === other.slice(fresh.length),
  );
  return isAlike && folderOf(old.slice(0, -1)) === folderOf(fresh.slice(0, -1))
    ? commandOf(old.slice(0, -1), fresh.slice(0, -1))
    : null;
}

/** The one file that nothing refers to and that is what another one was, byte for byte; null where there is none. */
function movedTo(
  path: string,
  ledger: Ledger,
  { files }: Inventory,
  { digestBefore, digestNow }: Recorded,
): string | null {
  const digest = digestBefore(path);
  if (digest === null) return null;
  const isUsed = usedIn(ledger);
  const alike = [...files].filter(
    (file) => sortOfFile(file) === sortOfFile(path) && !isUsed(file) && digestNow(file) === digest,
  );
  return alike.length === 1 ? (alike[0] as string) : null;
}

function usedIn({ uses: { led, named, byOthers } }: Ledger): (path: string) => boolean {
  return (path) => led.has(path) || named.has(path) || byOthers.has(path);
}

/** The folders from which on two paths are the same. */
function foldersOf(from: string, to: string): readonly [string, string] {
  let [old, fresh] = [folderOf(from), folderOf(to)];
  while (old !== '' && fresh !== '' && lastOf(old) === lastOf(fresh)) {
    old = folderOf(old.slice(0, -1));
    fresh = folderOf(fresh.slice(0, -1));
  }
  return [old, fresh];
}

function lastOf(folder: string): string {
  return folder.slice(folderOf(folder.slice(0, -1)).length);
}

function commandOf(from: string, to: string): string | null {
  if (/["'$`\\]/.test(from + to)) return null;
  const quoted = (path: string) => (/[^\w./@%+,:=-]/.test(path) ? `"${path}"` : path);
  return `cravel move --already ${quoted(from)} ${quoted(to)}`;
}
