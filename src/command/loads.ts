/** `cravel loads`: what a page loads, in the order in which a browser comes to ask for it. */
import { loadsAsJson, loadsAsText, scriptsAsText } from '../show/loads.ts';
import { loadsAsSvg } from '../show/loads-svg.ts';
import { paintFor } from '../show/paint.ts';
import { loads as declaration } from './declarations.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { columnsOf, readProject } from './read-project.ts';
import { tellUnfinished } from './unfinished.ts';

export async function loads(page: string, raw: object, output: Output): Promise<number> {
  const options = checkOptions(declaration, raw);
  const { project, root } = await readProject(options.dir, output);
  const found = project.loads(project.pageNamed(page));
  const { out, stdout, env } = output;
  const asText = options.scripts ? scriptsAsText : loadsAsText;
  if (options.as === 'json') out(loadsAsJson(found));
  else if (options.as === 'svg') out(loadsAsSvg(found));
  else out(asText(found, paintFor(stdout, env), columnsOf(output)));
  return (await tellUnfinished(root, output)) ? 2 : 0;
}
