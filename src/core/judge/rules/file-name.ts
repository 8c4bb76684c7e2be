/** file-name: a name that is easily written wrong. */
import { type Folder, foldersOf, inherited } from '../../site/folders.ts';
import { folderOf, nameOf } from '../../site/inventory.ts';
import { isKeptByWindows, isSafeName, safeName } from '../../site/names.ts';
import type { SiteRule } from '../rule.ts';
import { wholeFile } from '../whole-file.ts';

/** Names that other programs ask for as they are. */
const FIXED =
  /^(?:\.well-known|\.htaccess|\.nojekyll|_headers|_redirects|CNAME|LICEN[CS]E[^/]*|README[^/]*|[a-z0-9_-]+\.(?:[a-z0-9]+))$/i;
const DOUBLED = /\.([a-z0-9]+)\.\1$/i;

export const fileName: SiteRule = {
  name: 'file-name',
  grade: 'untidy',
  summary: 'a space, a capital or an odd character in a name',
  suffers:
    'Addresses with such names are written wrong by people, and cut off by programs; some names cannot be had on Windows at all.',
  wrong: 'images/North Pier (2).svg',
  right: 'images/north-pier-2.svg',
  cause: 'rule',
  looksAt: ['names'],
  judgeSite({ site }) {
    const libraries = site.places.libraries;
    const folders = foldersOf(site.inventory);
    const isBad = (step: string) => !isSafeName(step) && !FIXED.test(step);
    const badFolder = inherited(({ path }) => (path !== '' && isBad(nameOf(path)) ? nameOf(path) : null));
    return [...site.inventory.files].flatMap((path) => {
      const unheld = path.split('/').find(isKeptByWindows);
      if (unheld !== undefined)
        return [wholeFile(path, `${unheld} is a name that Windows cannot have; safe is ${safeName(unheld)}`)];
      // What others named keeps its name.
      if (libraries !== undefined && path.startsWith(`${libraries}/`)) return [];
      const name = nameOf(path);
      const bad = badFolder(folders.get(folderOf(path)) as Folder) ?? (isBad(name) ? name : null);
      if (bad !== null)
        return [
          wholeFile(path, `${bad} has a space, a capital or an odd character; safe is ${safeName(bad)}`),
        ];
      if (DOUBLED.test(name)) return [wholeFile(path, `${name} has its extension twice`)];
      return name.includes('.') || FIXED.test(name) ? [] : [wholeFile(path, `${name} has no extension`)];
    });
  },
};
