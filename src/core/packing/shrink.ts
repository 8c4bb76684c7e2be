/** Makes a site's own stylesheets and scripts small, where that changes nothing of what they do. */
import type { Files } from '../change/files.ts';
import { namesOf } from '../order/page-run.ts';
import { scriptFacts } from '../order/script-facts.ts';
import { isWorker } from '../read/holder.ts';
import { readFile } from '../read/read.ts';
import type { Published } from '../resolve/published.ts';
import { extensionOf } from '../site/inventory.ts';
import { isCalledSmall } from '../site/small-builds.ts';
import { leadsIn, readingsIn } from './readings.ts';

type CodeKind = 'stylesheet' | 'script' | 'module';

/** Gives code that does the same in fewer characters. Throws where it cannot read it. */
export type Shrinker = (text: string, kind: CodeKind) => Promise<string>;

export interface Shrunk {
  readonly files: number;
  /** Bytes that were saved. */
  readonly saved: number;
  /** What stays as it is, each with the reason. */
  readonly left: ReadonlyMap<string, string>;
}

/** `isOwn`: files of others stay as they are. Awaits `tell` after each, so that it can let timers run. */
export async function shrink(
  files: Files,
  published: Published | null,
  isOwn: (path: string) => boolean,
  shrinker: Shrinker,
  tell: (done: number, total: number) => Promise<void> | void = () => {},
): Promise<Shrunk> {
  const modules = loadedAsModules(files, published);
  const all = files.paths().filter((path) => /^(?:css|m?js)$/.test(extensionOf(path)) && isOwn(path));
  const left = new Map<string, string>();
  let [amount, saved] = [0, 0];
  for (const [index, path] of all.entries()) {
    const bytes = files.read(path);
    const kind = extensionOf(path) === 'css' ? 'stylesheet' : modules.has(path) ? 'module' : 'script';
    const { small, why } = await smaller(path, bytes, kind, shrinker);
    if (why !== null) left.set(path, why);
    if (small !== null) {
      files.write(path, small);
      amount++;
      saved += bytes.length - small.length;
    }
    await tell(index + 1, all.length);
  }
  return { files: amount, saved, left };
}

/** Files of libraries, and those that are small already, are left as they are. */
export function isForShrinking(path: string, libraries: readonly string[]): boolean {
  return !isCalledSmall(path) && !libraries.some((folder) => path.startsWith(`${folder}/`));
}

async function smaller(
  path: string,
  bytes: Uint8Array,
  kind: CodeKind,
  shrinker: Shrinker,
): Promise<{ readonly small: Uint8Array | null; readonly why: string | null }> {
  const reading = readFile(path, bytes);
  if (reading === null || reading.encoding !== 'utf-8')
    return { small: null, why: 'it is not written in UTF-8' };
  if (reading.faults.length > 0) return { small: null, why: 'browsers do not take all of it' };
  const text = new TextDecoder().decode(bytes);
  let short: string;
  try {
    short = await shrinker(text, kind);
  } catch (error) {
    return { small: null, why: `it could not be read (${(error as Error).message.split('\n')[0]})` };
  }
  const small = new TextEncoder().encode(short);
  if (small.length >= bytes.length) return { small: null, why: null };
  const after = readFile(path, small);
  const isSame = after !== null && after.faults.length === 0 && addressesOf(after) === addressesOf(reading);
  if (!isSame) return { small: null, why: 'it would load something else then' };
  if (kind !== 'stylesheet' && madeBy(text, kind) !== madeBy(short, kind))
    return { small: null, why: 'it would make other names then' };
  return { small, why: null };
}

function addressesOf({
  references,
}: {
  readonly references: readonly { kind: string; written: string }[];
}): string {
  return JSON.stringify([...new Set(references.map(({ kind, written }) => `${kind} ${written}`))].sort());
}

/** Names that a script makes, or a module exports. */
function madeBy(text: string, kind: 'script' | 'module'): string {
  const facts = scriptFacts(text, kind);
  if (facts === null) return '';
  return JSON.stringify([[...namesOf(facts)].sort(), [...facts.exports].sort()]);
}

/** Scripts that a page or another one loads as modules, and nothing as what they are not. */
function loadedAsModules(files: Files, published: Published | null): ReadonlySet<string> {
  const leadOf = leadsIn(files, published);
  const modules = new Set(files.paths().filter((path) => extensionOf(path) === 'mjs'));
  const scripts = new Set<string>();
  for (const { reading, base } of readingsIn(files))
    for (const reference of reading.references) {
      if (reference.kind !== 'module' && reference.kind !== 'script') continue;
      const lead = leadOf(reference.written, base);
      if (lead !== null)
        (reference.kind === 'module' && !isWorker(reference) ? modules : scripts).add(lead.found);
    }
  return new Set([...modules].filter((path) => !scripts.has(path)));
}
