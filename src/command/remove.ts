/** `cravel remove`: takes out files or pages, with the references that cannot stand without them. */

import { fail } from '../core/errors.ts';
import { removeFiles, type Shown } from '../core/moving/remove.ts';
import { publishedAt } from '../core/resolve/published.ts';
import { nearestNames } from '../core/site/near-names.ts';
import { withCommas } from '../core/with-commas.ts';
import { withSlashes } from '../disk/disk-path.ts';
import { bytesBelow } from '../disk/moving.ts';
import type { Project } from '../disk/project.ts';
import { visible } from '../show/escape.ts';
import { count } from '../show/paint.ts';
import { remove as declaration } from './declarations.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { changeProject, titleOf } from './project-change.ts';

export async function remove(named: readonly string[], raw: object, output: Output): Promise<number> {
  const paths = named.map(withSlashes);
  const options = checkOptions(declaration, raw);
  return changeProject(options, titleOf('remove', ...paths), output, (project) => {
    const { root, prefix, site, inventory, settings } = project;
    const gone = new Set(paths.flatMap((path) => namedFiles(project, path)));
    const bytesOf = bytesBelow(root);
    const { references, files, shown } = removeFiles(
      {
        files: site,
        inventory,
        published: publishedAt(settings['published-at']),
        gone,
        bytesOf: (path) => bytesOf(prefix + path),
      },
      options.allTheSame,
    );
    const [first] = shown;
    if (first !== undefined && !options.allTheSame) throw fail('still-shown', first.target, spotsOf(shown));
    const along =
      references === 0 ? '' : `; ${count(references, 'reference')} in ${count(files, 'file')} went along`;
    const notes = [`Removed ${count(gone.size, 'file')}${along}.`];
    if (shown.length > 0) notes.push(`These lead nowhere now: ${spotsOf(shown)}.`);
    return { notes, idle: 'Nothing was removed.' };
  });
}

/** The files that somebody named: one, or all of a folder. */
function namedFiles({ inventory, sitePath }: Project, named: string): string[] {
  const path = sitePath(named).replace(/\/$/, '');
  if (inventory.files.has(path)) return [path];
  const inside = [...inventory.files].filter((file) => file.startsWith(`${path}/`));
  if (path === '' || inside.length === 0)
    throw fail('no-file', named, nearestNames(path, [...inventory.files]));
  return inside;
}

/** Spots that are named at most. */
const MOST_NAMED = 5;

/** `index.html 12, fares.html 30 and 4 more` */
function spotsOf(shown: readonly Shown[]): string {
  const all = shown.map(({ file, line }) => `${visible(file)} ${line}`);
  const more = all.length - MOST_NAMED;
  return all.slice(0, MOST_NAMED).join(', ') + (more > 0 ? ` and ${withCommas(more)} more` : '');
}
