/** `cravel map`: the site as a picture of its pages, by clicks from the entry. */

import { basename } from 'node:path';
import { pointedTo } from '../disk/disk-path.ts';
import { mapAsDot, mapAsJson } from '../show/map/data.ts';
import { count } from '../show/paint.ts';
import { map as declaration } from './declarations.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { readProject } from './read-project.ts';
import { tellAll, writeFile } from './report-writing.ts';
import { tellUnfinished } from './unfinished.ts';

export async function map(raw: object, output: Output): Promise<number> {
  const options = checkOptions(declaration, raw);
  const { project, checked, root } = await readProject(options.dir, output);
  const site = project.siteMap(checked);
  const title = `Map of ${basename(pointedTo(root))}`;
  const pieces = await (async (): Promise<Iterable<string>> => {
    switch (options.as) {
      case 'json':
        return [mapAsJson(site)];
      case 'dot':
        return mapAsDot(site, title);
      case 'html':
        return (await import('../show/map/html.ts')).mapAsPage(site, title);
      default:
        return [(await import('../show/map/svg.ts')).mapAsSvg(site, title)];
    }
  })();
  if (options.out === undefined) tellAll(pieces, output);
  else writeFile('map', options.out, pieces, count(site.pages.length, 'page'), output);
  return (await tellUnfinished(root, output)) ? 2 : 0;
}
