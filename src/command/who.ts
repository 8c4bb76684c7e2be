/** `cravel who`: who refers to a file or to what a folder holds; the question before anybody deletes or renames it. */
import { paintFor } from '../show/paint.ts';
import { whoAsJson, whoAsText } from '../show/who.ts';
import { who as declaration } from './declarations.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { columnsOf, readProject } from './read-project.ts';
import { tellUnfinished } from './unfinished.ts';

export async function who(named: string, raw: object, output: Output): Promise<number> {
  const options = checkOptions(declaration, raw);
  const { project, root } = await readProject(options.dir, output);
  const { path, ...found } = project.who(named);
  const { out, stdout, env } = output;
  const paint = paintFor(stdout, env);
  out(options.as === 'json' ? whoAsJson(path, found) : whoAsText(path, found, paint, columnsOf(output)));
  return (await tellUnfinished(root, output)) ? 2 : 0;
}
