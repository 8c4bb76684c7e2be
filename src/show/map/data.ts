/** The map of a site as data, and as a graph for programs that draw such. */
import type { SiteMap } from '../../core/check/site-map.ts';
import { groupBy } from '../../core/group-by.ts';
import { folderOf } from '../../core/site/inventory.ts';

/** JSON; sizes in bytes, clicks from the entry page, null where no way leads there. */
export function mapAsJson(map: SiteMap): string {
  return `${JSON.stringify({ cravel: 2, ...plain(map) }, null, 2)}\n`;
}

function plain({ entry, pages, sizes, unused, twins }: SiteMap): object {
  return {
    entry,
    pages: pages.map(({ file, title, clicks, from, leadsTo, loads, broken }) => ({
      file,
      title,
      clicks,
      from,
      bytes: sizes.get(file) ?? 0,
      leadsTo,
      loads: Array.from(loads, ([path, kind]) => ({ file: path, kind, bytes: sizes.get(path) ?? 0 })),
      broken,
    })),
    unused: unused.map((file) => ({ file, bytes: sizes.get(file) ?? 0 })),
    twins,
  };
}

/** The DOT language: pages in clusters by their folders, ways between them, what is broken as ways to nowhere. */
export function* mapAsDot({ pages }: SiteMap, title: string): Iterable<string> {
  yield `digraph ${quoted(title)} {\n  graph [rankdir=LR, fontname="sans-serif"];\n  node [shape=box, style=rounded, fontname="sans-serif"];\n`;
  const folders = groupBy(pages, ({ file }) => folderOf(file));
  let number = 0;
  for (const [folder, all] of folders) {
    const indent = folder === '' ? '  ' : '    ';
    if (folder !== '') yield `  subgraph cluster_${number++} {\n    label=${quoted(folder)};\n`;
    for (const { file, clicks } of all)
      yield `${indent}${quoted(file)}${clicks === null ? ' [style="rounded,dashed"]' : ''};\n`;
    if (folder !== '') yield '  }\n';
  }
  for (const { file, leadsTo, broken } of pages) {
    for (const to of leadsTo) yield `  ${quoted(file)} -> ${quoted(to)};\n`;
    for (const written of broken)
      yield `  ${quoted(`${file} ${written}`)} [label=${quoted(written)}, color=red, fontcolor=red];\n  ${quoted(file)} -> ${quoted(`${file} ${written}`)} [color=red];\n`;
  }
  yield '}\n';
}

/** A quoted identifier (the DOT language, ID): nothing in it acts. */
function quoted(text: string): string {
  return `"${text
    .replace(/[\p{Cc}]/gu, ' ')
    .replaceAll('\\', '\\\\')
    .replaceAll('"', '\\"')}"`;
}
