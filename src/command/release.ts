/** `cravel release`: which builds of libraries pages load, the readable or the minified ones. */

import type { Files } from '../core/change/files.ts';
import { fail } from '../core/errors.ts';
import { heldIn, renewIntegrity } from '../core/packing/integrity.ts';
import { type Builds, loadersOf, pairsOf, reversed, swapBuilds } from '../core/packing/release.ts';
import { publishedAt } from '../core/resolve/published.ts';
import { digestOf } from '../disk/digest.ts';
import { openProject, type Project } from '../disk/project.ts';
import { visible } from '../show/escape.ts';
import { count } from '../show/paint.ts';
import { release as declaration } from './declarations.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { changeProject, titleOf, workPlace } from './project-change.ts';
import { tellUnfinished } from './unfinished.ts';

const NO_PAIRS =
  'No library in cravel.yaml has a minified build of its own: cravel adopt records one where it finds it.';

export async function release(what: string, raw: object, output: Output): Promise<number> {
  const options = checkOptions(declaration, raw);
  if (what === 'show') return show(options.dir, output);
  if (what !== 'on' && what !== 'off') throw fail('no-such-switch', what);
  return changeProject(options, titleOf('release', what), output, ({ site, settings }) => {
    const pairs = pairsOf(settings, site);
    const published = publishedAt(settings['published-at']);
    const held = heldIn(site, published, digestOf);
    const swapped = swapBuilds(site, what === 'on' ? pairs : reversed(pairs), published);
    renewIntegrity(site, published, held, digestOf);
    const kind = what === 'on' ? 'minified' : 'readable';
    return {
      notes:
        swapped === 0
          ? []
          : [
              `${count(swapped, 'reference')} to ${count(pairs.size, 'library file')}: now the ${kind} builds.`,
            ],
      idle: pairs.size === 0 ? NO_PAIRS : `Nothing to do: pages load the ${kind} builds already.`,
    };
  });
}

async function show(dir: string | undefined, output: Output): Promise<number> {
  const { root, from } = workPlace(dir, output);
  const project = await openProject(root, { from });
  const pairs = pairsOf(project.settings, project.site);
  if (pairs.size === 0) output.note(NO_PAIRS);
  for (const line of linesFor(project, pairs)) output.out(`${line}\n`);
  return (await tellUnfinished(root, output)) ? 2 : 0;
}

/** `lib/tideclock/tideclock.js       12 pages`, and the minified one below it. */
function linesFor(
  { site, settings }: Pick<Project, 'settings'> & { readonly site: Files },
  pairs: Builds,
): string[] {
  const loaders = loadersOf(site, pairs, publishedAt(settings['published-at']));
  const width = [...pairs].flat().reduce((wide, path) => Math.max(wide, visible(path).length), 0);
  return [...pairs].flatMap(([readable, small]) =>
    [readable, small].map((path) => {
      const pages = loaders.get(path)?.size ?? 0;
      return `${visible(path).padEnd(width)}  ${pages === 0 ? 'not loaded' : `loaded by ${count(pages, 'file')}`}`;
    }),
  );
}
