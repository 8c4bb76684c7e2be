/** `cravel scaffold`: lays out a new project from a starter. */
import { basename, resolve as resolvePath } from 'node:path';
import { IsBoolean, IsOptional, IsString } from 'class-validator';
import { fail } from '../core/errors.ts';
import { isSafeName, safeName } from '../core/site/names.ts';
import { renderStarter } from '../core/starter/render.ts';
import { inTheWay, layOut } from '../disk/lay-out.ts';
import { loadStarter } from '../disk/starters.ts';
import { statOrNull } from '../disk/stat.ts';
import { count, paintFor, visible } from '../show/paint.ts';
import { treeAsText } from '../show/tree.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';

class ScaffoldOptions {
  @IsString()
  starter!: string;

  @IsOptional()
  @IsString()
  title?: string;

  @IsString({ each: true })
  set: string[] = [];

  @IsOptional()
  @IsBoolean()
  dryRun?: boolean;

  @IsOptional()
  @IsBoolean()
  fillIn?: boolean;

  @IsOptional()
  @IsString()
  dir?: string;
}

export function scaffold(folder: string, raw: object, { out, note, env, stdout }: Output): number {
  const options = checkOptions(ScaffoldOptions, raw);
  if (statOrNull(options.dir ?? '.') === null) throw fail('no-folder', visible(options.dir ?? '.'));
  const root = resolvePath(options.dir ?? '.', folder);
  const shown = visible(folder).replace(/\/+$/, '');
  const name = basename(root);
  const stats = statOrNull(root);
  if (stats && !stats.isDirectory()) throw fail('not-a-folder', shown);
  if (!stats && !isSafeName(name)) throw fail('unsafe-name', visible(name), safeName(name));

  const starter = loadStarter(options.starter);
  const layout = renderStarter(starter, name, blanksFrom(options));
  const present = inTheWay(root, layout);
  if (present.length > 0 && options.fillIn !== true) {
    const more = present.length > 3 ? ` and ${present.length - 3} more` : '';
    throw fail('in-the-way', shown, present.slice(0, 3).join(', ') + more);
  }
  if (options.dryRun !== true) layOut(root, layout);
  out(treeAsText(shown, layout, present, paintFor(stdout, env)));
  const made = count(layout.files.size - present.length, 'file');
  if (options.dryRun === true) note(`Dry run: ${made} would be written, and nothing was.`);
  else note(`Laid out ${made} from the starter ${starter.name}. Next: cravel check ${shown}`);
  return 0;
}

function blanksFrom({ title, set }: ScaffoldOptions): Map<string, string> {
  const blanks = new Map<string, string>();
  for (const pair of set) {
    const equals = pair.indexOf('=');
    if (equals < 1) throw fail('bad-set', visible(pair));
    blanks.set(pair.slice(0, equals), pair.slice(equals + 1));
  }
  if (title !== undefined) blanks.set('title', title);
  return blanks;
}
