/** `cravel keep`: keeps a project as a starter of one's own. */

import { basename } from 'node:path';
import { fail } from '../core/errors.ts';
import { SETTINGS_FILE } from '../core/settings/settings.ts';
import { isSafeName } from '../core/site/names.ts';
import { type BlankText, keepProject } from '../core/starter/keep.ts';
import { readManifest } from '../core/starter/manifest.ts';
import { pointedTo, shownFromHere } from '../disk/disk-path.ts';
import { gatherKept, writeStarter } from '../disk/kept.ts';
import { unfinishedIn } from '../disk/open-change.ts';
import { loadSettings, projectAround } from '../disk/project.ts';
import { isBuiltIn, ownStarterPlace } from '../disk/starters.ts';
import { statOrNull } from '../disk/stat.ts';
import { visible } from '../show/escape.ts';
import { count, paintFor, shortList } from '../show/paint.ts';
import { treeAsText } from '../show/tree.ts';
import { keep as declaration } from './declarations.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { runOptions } from './unfinished.ts';

export async function keep(folder: string, name: string, raw: object, output: Output): Promise<number> {
  const options = checkOptions(declaration, raw);
  const named = pointedTo(folder, options.dir);
  const stats = statOrNull(named);
  if (stats === null) throw fail('no-folder', visible(folder));
  if (!stats.isDirectory()) throw fail('not-a-folder', visible(folder));
  const root = projectAround(named);
  if (root !== named)
    output.note(`Keeping the whole project ${visible(shownFromHere(root))}, which has a ${SETTINGS_FILE}.`);
  if (!isSafeName(name)) throw fail('bad-name', visible(name), 'starter');
  if (isBuiltIn(name)) throw fail('starter-built-in', name);
  const target = ownStarterPlace(name);
  if (statOrNull(target) !== null && !options.replace) throw fail('starter-there', name);

  const standing = await unfinishedIn(root);
  if (standing !== null) throw fail('unfinished', visible(folder), visible(standing.title));
  const settings = await loadSettings(root);
  const { files, left } = gatherKept(root);
  if (files.size === 0) throw fail('nothing-kept', visible(folder));
  const summary = options.summary ?? `Kept from ${basename(root)}`;
  const blanks = options.blank.map(blankText);
  const { files: kept, amounts } = keepProject(files, blanks, settings, summary);
  readManifest(new TextDecoder().decode(kept.get('starter.yaml')), `${name}/starter.yaml`);

  const layout = { files: kept, folders: [] };
  output.out(treeAsText(name, layout, [], paintFor(output.stdout, output.env)));
  for (const [why, paths] of left) {
    output.note(`Left out, ${why}: ${shortList(paths, 8)}.`);
  }
  for (const [text, amount] of amounts)
    output.note(`Blank in place of "${visible(text)}": ${count(amount, 'time')}.`);
  if (options.dryRun) {
    output.note('Dry run: nothing was written.');
    return 0;
  }
  await writeStarter(target, kept, name, runOptions(output, options));
  output.note(
    `Kept ${count(kept.size, 'file')} as ${name}, in ${target}. Next: cravel scaffold <folder> --starter ${name}`,
  );
  return 0;
}

function blankText(written: string): BlankText {
  const equals = written.lastIndexOf('=');
  const [text, blank] = [written.slice(0, equals), written.slice(equals + 1)];
  if (equals < 1 || !/^[a-z][a-z0-9]*$/i.test(blank)) throw fail('bad-blank-option', visible(written));
  return { text, blank };
}
