/** `cravel who`: who refers to a file or to what a folder holds; the question before anybody deletes or renames it. */
import { ProjectCheck } from '../disk/check.ts';
import { shownFromHere } from '../disk/disk-path.ts';
import { paintFor } from '../show/paint.ts';
import { whoAsJson, whoAsText } from '../show/who.ts';
import { who as declaration } from './declarations.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { showProgress } from './progress.ts';
import { workPlace } from './project-change.ts';
import { tellUnfinished } from './unfinished.ts';

export async function who(named: string, raw: object, output: Output): Promise<number> {
  const options = checkOptions(declaration, raw);
  const { root, from } = workPlace(options.dir, output);
  const project = new ProjectCheck(shownFromHere(root), { from });
  const reading = showProgress(output, { verb: 'reading', noun: 'file', afterwards: 'looking' });
  try {
    await project.look(reading.tell);
  } finally {
    reading.end();
  }
  const { path, ...found } = project.who(named);
  const { out, stdout, env } = output;
  const columns = Math.min(Math.max(stdout.columns || 80, 60), 120);
  out(
    options.as === 'json' ? whoAsJson(path, found) : whoAsText(path, found, paintFor(stdout, env), columns),
  );
  return (await tellUnfinished(root, output)) ? 2 : 0;
}
