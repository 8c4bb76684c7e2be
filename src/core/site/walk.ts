/** The walk: the steps from the folder a reference starts in to its target, each with its outcome. */
import { folderOf, type Inventory, nameOf } from './inventory.ts';
import { lookalikesOf } from './lookalikes.ts';

/**
 * One step. `from` is the folder the walk starts in, `out` leads to the parent folder, `into` enters a
 * folder, `file` ends at a file. `name` is the folder or file reached (`/` for the site's root,
 * `..` outside of the site); `found` is false from the first failing step on.
 */
export interface Step {
  readonly step: 'from' | 'out' | 'into' | 'file';
  readonly name: string;
  readonly found: boolean;
}

/** Steps that are told of one walk at most: where it goes on beyond its first failing step, nobody follows. */
const MOST_STEPS = 256;

/**
 * Walks `segments` (decoded; `..` leads out, an empty last one ends at a folder) from `folder`.
 */
export function walk(inventory: Inventory, folder: string, segments: readonly string[]): Step[] {
  const steps: Step[] = [{ step: 'from', name: shown(folder), found: inventory.folders.has(folder) }];
  let here: string | null = folder;
  let found = true;
  for (const [index, segment] of segments.entries()) {
    if (!found && steps.length >= MOST_STEPS) break;
    const last = index === segments.length - 1;
    if (segment === '..') {
      here = here === null || here === '' ? null : folderOf(here.slice(0, -1));
      found &&= here !== null;
      steps.push({ step: 'out', name: here === null ? '..' : shown(here), found });
    } else if (last && segment !== '') {
      found &&= here !== null && inventory.files.has(here + segment);
      steps.push({ step: 'file', name: segment, found });
    } else if (segment !== '') {
      if (here !== null) here += `${segment}/`;
      found &&= here !== null && inventory.folders.has(here);
      steps.push({ step: 'into', name: `${segment}/`, found });
    }
  }
  return steps;
}

/** What stops a walk, in plain words; null when every step succeeds. */
export function explainStop(inventory: Inventory, folder: string, steps: readonly Step[]): string | null {
  let here = folder;
  for (const { step, name, found } of steps) {
    if (!found) {
      if (step === 'out') return 'this leads out of the site';
      if (step === 'from') return `there is no folder ${name}`;
      return explainLack(inventory, here, step, name.replace(/\/$/, ''));
    }
    if (step === 'out') here = folderOf(here.slice(0, -1));
    if (step === 'into') here += name;
  }
  return null;
}

function explainLack(inventory: Inventory, here: string, step: 'into' | 'file', name: string): string {
  const where = describeFolder(here);
  const path = here + name;
  const link = inventory.deadLinks.get(path);
  if (link !== undefined) return `${name} in ${where} is a link to ${link}, where nothing is`;
  const why = inventory.hidden.get(path) ?? inventory.hidden.get(`${path}/`);
  if (why !== undefined) return `${name} is in ${where}, but ${why}`;
  const what = step === 'into' ? 'folder' : 'file';
  return `there is no ${what} ${name} in ${where}${twinOf(inventory, step === 'into' ? `${path}/` : path)}`;
}

/** The address, relative to `folder`, of the file or folder `target`, as decoded segments. */
export function segmentsTo(folder: string, target: string): string[] {
  const from = folder.split('/').slice(0, -1);
  const to = target.split('/');
  let same = 0;
  while (same < from.length && same < to.length - 1 && from[same] === to[same]) same++;
  return [...from.slice(same).map(() => '..'), ...to.slice(same)];
}

function shown(folder: string): string {
  return folder === '' ? '/' : folder;
}

function describeFolder(folder: string): string {
  return folder === '' ? "the site's root" : folder.slice(0, -1);
}

function twinOf(inventory: Inventory, path: string): string {
  const parent = path.slice(0, path.replace(/\/$/, '').lastIndexOf('/') + 1);
  const twin = lookalikesOf(inventory)
    .sameFold(path)
    .find((other) => other.startsWith(parent));
  return twin === undefined ? '' : `; it is spelled ${nameOf(twin)}`;
}
