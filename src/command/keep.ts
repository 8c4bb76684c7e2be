/** `cravel keep`: keeps a project as a starter of one's own. */
import { existsSync, readFileSync } from 'node:fs';
import { basename, join, resolve as resolvePath } from 'node:path';
import { IsBoolean, IsOptional, IsString } from 'class-validator';
import ignore from 'ignore';
import { FilesInProgress } from '../core/change/files.ts';
import { fail } from '../core/errors.ts';
import { whyLeft } from '../core/site/admission.ts';
import { isSafeName } from '../core/site/names.ts';
import { type BlankText, keepProject } from '../core/starter/keep.ts';
import { readManifest } from '../core/starter/manifest.ts';
import { walkFolder } from '../disk/inventory.ts';
import { commit, whileLocked } from '../disk/journal.ts';
import { WORKSHOP } from '../disk/lock.ts';
import { unfinishedIn } from '../disk/open-change.ts';
import { loadSettings } from '../disk/project.ts';
import { isBuiltIn, ownStartersFolder } from '../disk/starters.ts';
import { statOrNull } from '../disk/stat.ts';
import { visible } from '../show/escape.ts';
import { count, paintFor, shortList } from '../show/paint.ts';
import { treeAsText } from '../show/tree.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { ChangeOptions } from './project-change.ts';
import { runOptions } from './unfinished.ts';

class KeepOptions extends ChangeOptions {
  @IsString({ each: true })
  blank: string[] = [];

  @IsOptional()
  @IsString()
  summary?: string;

  @IsOptional()
  @IsBoolean()
  replace?: boolean;
}

export async function keep(folder: string, name: string, raw: object, output: Output): Promise<number> {
  const options = checkOptions(KeepOptions, raw);
  const root = resolvePath(options.dir ?? '.', folder);
  const stats = statOrNull(root);
  if (stats === null) throw fail('no-folder', visible(folder));
  if (!stats.isDirectory()) throw fail('not-a-folder', visible(folder));
  if (!isSafeName(name)) throw fail('bad-name', visible(name), 'starter');
  if (isBuiltIn(name)) throw fail('starter-built-in', name);
  const target = join(ownStartersFolder(output.env), name);
  if (existsSync(target) && options.replace !== true) throw fail('starter-there', name);

  const standing = await unfinishedIn(root);
  if (standing !== null) throw fail('unfinished', visible(folder), visible(standing.title));
  const settings = await loadSettings(root);
  const { files, left } = gather(root);
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
  if (options.dryRun === true) {
    output.note('Dry run: nothing was written.');
    return 0;
  }
  if (existsSync(target))
    await whileLocked(target, () => replaceStarter(target, kept, name), runOptions(output, options));
  else
    await commit(target, {
      title: `keep ${name}`,
      files: [...kept].map(([path, after]) => ({ path, before: null, after })),
      folders: [],
    });
  output.note(
    `Kept ${count(kept.size, 'file')} as ${name}, in ${target}. Next: cravel scaffold <folder> --starter ${name}`,
  );
  return 0;
}

async function replaceStarter(
  target: string,
  kept: ReadonlyMap<string, Uint8Array>,
  name: string,
): Promise<void> {
  const present = walkFolder(target, (path) => (path === `${WORKSHOP}/` ? '' : null)).files;
  const files = new FilesInProgress(present, (path) => readFileSync(join(target, path)));
  for (const path of present) if (!kept.has(path)) files.remove(path);
  for (const [path, bytes] of kept) files.write(path, bytes);
  await commit(target, { title: `keep --replace ${name}`, files: files.changes(), folders: [] });
}

/** What comes along, and what does not by reason. The project's own list of ignored files is heeded. */
function gather(root: string): {
  readonly files: ReadonlyMap<string, Uint8Array>;
  readonly left: ReadonlyMap<string, readonly string[]>;
} {
  const listFile = join(root, '.gitignore');
  const isListed = statOrNull(listFile)?.isFile() === true;
  const ignored = ignore().add(isListed ? readFileSync(listFile, 'utf8') : '');
  const why = (path: string) =>
    whyLeft('keep', path) ?? (ignored.ignores(path) ? 'ignored by .gitignore' : null);
  const { files, left } = walkFolder(root, why, { follows: true });
  return { files: new Map(files.map((path) => [path, readFileSync(join(root, path))])), left };
}

function blankText(written: string): BlankText {
  const equals = written.lastIndexOf('=');
  const [text, blank] = [written.slice(0, equals), written.slice(equals + 1)];
  if (equals < 1 || !/^[a-z][a-z0-9]*$/i.test(blank)) throw fail('bad-blank-option', visible(written));
  return { text, blank };
}
