/** file-name: a name that is easily written wrong. */
import { type Folder, foldersOf, inherited } from '../../site/folders.ts';
import { folderOf, nameOf } from '../../site/inventory.ts';
import { isKeptByWindows, plainFileName } from '../../site/names.ts';
import type { SiteRule } from '../rule.ts';
import { wholeFile } from '../whole-file.ts';

/** Names that other programs ask for as they are. */
const FIXED =
  /^(?:\.well-known|\.htaccess|\.nojekyll|_headers|_redirects|CNAME|LICEN[CS]E[^/]*|README[^/]*|COPYING[^/]*|NOTICE[^/]*)$/;
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
    const isBad = (step: string) =>
      !FIXED.test(step) && (isKeptByWindows(step) || plainFileName(step) !== step);
    const badFolder = inherited(({ path }) => (path !== '' && isBad(nameOf(path)) ? nameOf(path) : null));
    const taken = new Set(site.inventory.files);
    return [...site.inventory.files].flatMap((path) => {
      // What others named keeps its name.
      const isOthers = libraries !== undefined && path.startsWith(`${libraries}/`);
      const unheld = path.split('/').find(isKeptByWindows);
      if (unheld !== undefined)
        return [
          wholeFile(path, `${unheld} is a name that Windows cannot have; safe is ${plainFileName(unheld)}`),
        ];
      if (isOthers) return [];
      const name = nameOf(path);
      const folder = badFolder(folders.get(folderOf(path)) as Folder);
      if (folder !== null) return [wholeFile(path, saysBad(folder, plainFileName(folder)))];
      if (isBad(name)) return [wholeFile(path, saysBad(name, freeName(folderOf(path), name, taken)))];
      if (DOUBLED.test(name)) return [wholeFile(path, `${name} has its extension twice`)];
      return name.includes('.') || FIXED.test(name) ? [] : [wholeFile(path, `${name} has no extension`)];
    });
  },
};

function saysBad(name: string, safe: string): string {
  return `${name} has a space, a capital or an odd character; safe is ${safe}`;
}

/** A safe name that no other file of the folder has, or was told to get; numbered where it must be. */
function freeName(folder: string, name: string, taken: Set<string>): string {
  const plain = plainFileName(name);
  const isFree = (one: string) => !taken.has(folder + one);
  const numbered = (number: number) => plain.replace(/(?=\.[a-z0-9]+$|$)/, `-${number}`);
  let free = plain;
  for (let number = 2; !isFree(free) && number < 1000; number++) free = numbered(number);
  taken.add(folder + free);
  return free;
}
