/** Which files of a site are published, and why the others are not. */
import { pushTo } from '../group-by.ts';
import { whyLeft } from '../site/admission.ts';
import { isAskedFor } from '../site/asked-for.ts';
import { isPageName } from '../site/formats.ts';
import { extensionOf, folderOf, type Inventory, nameOf } from '../site/inventory.ts';

export interface Choice {
  /** Site paths, in order. */
  readonly taken: readonly string[];
  /** What stays, by the reason; folders end in `/`. */
  readonly left: ReadonlyMap<string, readonly string[]>;
}

export interface ToChoose {
  readonly inventory: Inventory;
  /** Files, and folders of files, that something of the site refers to. */
  readonly used: ReadonlySet<string>;
  /** Whether a source by its type goes along all the same. */
  readonly isWanted: (path: string) => boolean;
  readonly onlyUsed: boolean;
}

/** What other files are made from. */
const SOURCE =
  /^(?:psd|psb|xcf|kra|ai|sketch|fig|afdesign|afphoto|indd|blend|scss|sass|less|styl|tsx?|mts|cts|jsx|coffee|map|bak|orig|log)$/;
/** What is for those who build the site, and for their tools. */
const TOOLS =
  /^(?:readme(?:\..*)?|changelog(?:\..*)?|contributing(?:\..*)?|package(?:-lock)?\.json|[jt]sconfig.*\.json|yarn\.lock|pnpm-lock\.yaml|makefile|dockerfile|.*\.config\.[cm]?[jt]s)$/i;
/** What others want to have beside what they gave away. */
const LICENCE = /^(?:licen[cs]e|copying|notice)/i;

export function chooseFiles({ inventory, used, isWanted, onlyUsed }: ToChoose): Choice {
  const left = new Map<string, string[]>();
  const taken: string[] = [];
  const libraries = new Set([...used].map(folderOf));
  const whyNot = (path: string): string | null => {
    const byTable = whyLeft('pack', path);
    if (byTable !== null) return byTable;
    if (isWanted(path) || isPageName(path) || isReferredTo(path, used)) return null;
    if (SOURCE.test(extensionOf(path))) return 'a source, to which nothing refers';
    if (TOOLS.test(nameOf(path))) return 'for those who build the site';
    if (!onlyUsed || isAskedFor(path)) return null;
    return LICENCE.test(nameOf(path)) && libraries.has(folderOf(path)) ? null : 'nothing refers to it';
  };
  for (const path of [...inventory.files].sort()) {
    const why = whyNot(path);
    if (why === null) taken.push(path);
    else pushTo(left, why, path);
  }
  // What Cravel has there while it works is no news.
  for (const path of inventory.hidden.keys())
    if (!path.startsWith('.cravel/')) pushTo(left, whyLeft('pack', path) ?? 'hidden', path);
  for (const path of inventory.borders) pushTo(left, 'a project of its own', path);
  for (const path of inventory.deadLinks.keys()) pushTo(left, 'a link that leads nowhere', path);
  return { taken, left };
}

function isReferredTo(path: string, used: ReadonlySet<string>): boolean {
  return used.has(path) || isNamedByFolder(path, used);
}

/** A script that names a folder may put the name of any file in it together. */
export function isNamedByFolder(path: string, used: ReadonlySet<string>): boolean {
  for (let folder = folderOf(path); folder !== ''; folder = folderOf(folder.slice(0, -1)))
    if (used.has(folder)) return true;
  return false;
}
