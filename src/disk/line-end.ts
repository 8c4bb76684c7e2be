/** How the lines of a real project end. */
import { isPage } from '../core/read/read.ts';
import {
  type LineEnd,
  lineEndForEditors,
  lineEndForVersions,
  lineEndOfMost,
} from '../core/site/line-ends.ts';
import { below, type DiskPath } from './disk-path.ts';
import { readHead } from './head.ts';
import { loadFile } from './load.ts';
import { statOrNull } from './stat.ts';

/** Pages that are asked at most. */
const MOST = 30;

/** As the project says, else as most of its pages do; `paths` are its files from `root`. */
export function lineEndOf(root: DiskPath, paths: Iterable<string>): LineEnd {
  const said =
    settingsFor(root, '.editorconfig', lineEndForEditors) ??
    settingsFor(root, '.gitattributes', lineEndForVersions);
  if (said !== null) return said;
  const pages = [...paths].filter(isPage).slice(0, MOST);
  return lineEndOfMost(pages.flatMap((path) => readHead(below(root, path)) ?? []));
}

function settingsFor(root: DiskPath, name: string, read: (text: string) => LineEnd | null): LineEnd | null {
  if (statOrNull(below(root, name))?.isFile() !== true) return null;
  return read(new TextDecoder().decode(loadFile(root, name)));
}
