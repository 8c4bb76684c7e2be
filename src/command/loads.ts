/** `cravel loads`: what a page loads, in the order in which a browser comes to ask for it. */
import { ProjectCheck } from '../disk/check.ts';
import { shownFromHere } from '../disk/disk-path.ts';
import { loadsAsJson, loadsAsText, scriptsAsText } from '../show/loads.ts';
import { loadsAsSvg } from '../show/loads-svg.ts';
import { paintFor } from '../show/paint.ts';
import { loads as declaration } from './declarations.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { showProgress } from './progress.ts';
import { workPlace } from './project-change.ts';
import { tellUnfinished } from './unfinished.ts';

export async function loads(page: string, raw: object, output: Output): Promise<number> {
  const options = checkOptions(declaration, raw);
  const { root, from } = workPlace(options.dir, output);
  const project = new ProjectCheck(shownFromHere(root), { from });
  const reading = showProgress(output, { verb: 'reading', noun: 'file', afterwards: 'looking' });
  try {
    await project.look(reading.tell);
  } finally {
    reading.end();
  }
  const found = project.loads(page);
  const { out, stdout, env } = output;
  const paint = paintFor(stdout, env);
  const columns = Math.min(Math.max(stdout.columns || 80, 60), 120);
  if (options.as === 'json') out(loadsAsJson(found));
  else if (options.as === 'svg') out(loadsAsSvg(found));
  else out(options.scripts ? scriptsAsText(found, paint, columns) : loadsAsText(found, paint, columns));
  return (await tellUnfinished(root, output)) ? 2 : 0;
}
