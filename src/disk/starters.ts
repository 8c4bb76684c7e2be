/** Loads the starters that come with Cravel. */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fail } from '../core/errors.ts';
import { readManifest } from '../core/starter/manifest.ts';
import type { Starter } from '../core/starter/render.ts';
import { listSite } from './inventory.ts';
import { packageFolder } from './package.ts';

const MANIFEST = 'starter.yaml';

/** The starter of that name; throws a `CravelError` that lists the known ones. */
export function loadStarter(name: string): Starter {
  const folder = join(packageFolder(), 'starters');
  const known = readdirSync(folder).sort();
  if (!known.includes(name)) throw fail('unknown-starter', name, known.join(', '));
  const root = join(folder, name);
  const manifest = readManifest(readFileSync(join(root, MANIFEST), 'utf8'), `starters/${name}/${MANIFEST}`);
  const files = new Map<string, Uint8Array>();
  for (const path of listSite(root).inventory.files.keys()) {
    if (path !== MANIFEST) files.set(path, readFileSync(join(root, path)));
  }
  return { name, manifest, files };
}
