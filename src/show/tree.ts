/** A layout as a tree, folders first marked by their closing slash, with the size of each file. */

import { folderOf, nameOf } from '../core/site/inventory.ts';
import type { Layout } from '../core/starter/render.ts';
import { withCommas } from '../core/with-commas.ts';
import { visible } from './escape.ts';
import { type Paint } from './paint.ts';

/** One line for each folder and file below `root`; `present` files are marked as kept. */
export function treeAsText(root: string, layout: Layout, present: readonly string[], paint: Paint): string {
  const folders = new Set(layout.folders);
  for (const path of layout.files.keys()) {
    for (let folder = folderOf(path); folder !== ''; folder = folderOf(folder.slice(0, -1)))
      folders.add(folder);
  }
  const paths = [...folders, ...layout.files.keys()].sort(byPlace);
  const rows = paths.map((path) => {
    const indent = '  '.repeat(path.replace(/\/$/, '').split('/').length);
    const bytes = layout.files.get(path);
    if (bytes === undefined) return { name: `${indent}${visible(nameOf(path))}/`, note: '' };
    const note = present.includes(path) ? 'kept as it is' : `${withCommas(bytes.length)} bytes`;
    return { name: indent + visible(nameOf(path)), note };
  });
  const width = rows.reduce((most, { name }) => Math.max(most, name.length), 0) + 3;
  const lines = rows.map(({ name, note }) =>
    note === '' ? paint.bold(name) : `${name.padEnd(width)}${paint.dim(note)}`,
  );
  return `${paint.bold(`${visible(root)}/`)}\n${lines.join('\n')}\n`;
}

/** A folder before what it holds, its files before its folders, names in order. */
function byPlace(a: string, b: string): number {
  const key = (path: string) =>
    path.replace(/[^/]+\/?/g, (step) => (step.endsWith('/') ? `2${step}` : `1${step}`));
  return key(a) < key(b) ? -1 : 1;
}
