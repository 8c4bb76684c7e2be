/** file-name: a name that is easily written wrong. */
import { type Folder, foldersOf, inherited } from '../../site/folders.ts';
import { folderOf, nameOf } from '../../site/inventory.ts';
import { isKeptByWindows, plainFileName } from '../../site/names.ts';
import { freeName, isFixedName, isNamedByOthers, isOddName } from '../../site/odd-names.ts';
import type { SiteRule } from '../rule.ts';
import { wholeFile } from '../whole-file.ts';

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
  next: { shown: 'cravel move --safe-names', after: () => 'cravel move --safe-names' },
  looksAt: ['names'],
  judgeSite({ site }) {
    const folders = foldersOf(site.inventory);
    const badFolder = inherited(({ path }) => (path !== '' && isOddName(nameOf(path)) ? nameOf(path) : null));
    const taken = new Set(site.inventory.files);
    return [...site.inventory.files].flatMap((path) => {
      const unheld = path.split('/').find(isKeptByWindows);
      if (unheld !== undefined)
        return [
          wholeFile(path, `${unheld} is a name that Windows cannot have; safe is ${plainFileName(unheld)}`),
        ];
      if (isNamedByOthers(path, site.places)) return [];
      const name = nameOf(path);
      const folder = badFolder(folders.get(folderOf(path)) as Folder);
      if (folder !== null) return [wholeFile(path, saysBad(folder, plainFileName(folder)))];
      if (isOddName(name)) return [wholeFile(path, saysBad(name, freeName(folderOf(path), name, taken)))];
      if (DOUBLED.test(name)) return [wholeFile(path, `${name} has its extension twice`)];
      return name.includes('.') || isFixedName(name) ? [] : [wholeFile(path, `${name} has no extension`)];
    });
  },
};

function saysBad(name: string, safe: string): string {
  return `${name} has a space, a capital or an odd character; safe is ${safe}`;
}
