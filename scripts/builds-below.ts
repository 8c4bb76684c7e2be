/** The browser builds of libraries below a folder, by their paths in it. */
import { readdirSync, statSync } from 'node:fs';
import { basename, join } from 'node:path';

/** Larger builds are rare, and take long. */
const MOST_BYTES = 3e6;
const SELDOM = /(?:^|\/)(?:node_modules|src|es|esm|tests?|specs?|locales?|i18n|examples?|demos?|docs?)\//;

export function buildsBelow(folder: string): ReadonlyMap<string, string> {
  return new Map(
    readdirSync(folder, { recursive: true })
      .map(String)
      .filter((path) => path.endsWith('.js') && !SELDOM.test(path) && isNamedAfterItsPackage(path))
      .filter((path) => statSync(join(folder, path)).size < MOST_BYTES)
      .map((path) => [path, join(folder, path)] as const),
  );
}

/** The builds of a package are called as it is. */
function isNamedAfterItsPackage(path: string): boolean {
  const [top = ''] = path.split('/');
  const plain = (text: string) => text.toLowerCase().replace(/[^a-z0-9]/g, '');
  const stem = plain(basename(path).replace(/(?:[-.](?:min|umd|bundle|full|all|pkgd))*\.js$/, ''));
  return stem.length > 1 && plain(top).startsWith(stem);
}
