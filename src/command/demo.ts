/** `cravel demo`: the whole story on the Gullhaven Ferry, in a new folder. */

import { checkFolder } from '../disk/check.ts';
import { demoFolder, loadDemo, plant } from '../disk/demo.ts';
import { below, pointedTo } from '../disk/disk-path.ts';
import { layOut } from '../disk/lay-out.ts';
import { visible } from '../show/escape.ts';
import { paintFor } from '../show/paint.ts';
import { treeAsText } from '../show/tree.ts';
import { showText } from './check.ts';
import { demo as declaration } from './declarations.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';

const SOUND = 'gullhaven-ferry';
const MISTAKEN = 'gullhaven-ferry-with-mistakes';

export async function demo(folder: string | undefined, raw: object, output: Output): Promise<number> {
  const { dir } = checkOptions(declaration, raw);
  const { out, stdout, env } = output;
  const paint = paintFor(stdout, env);
  const root = demoFolder(folder === undefined ? null : pointedTo(folder, dir));
  const { line } = paint.marks;
  const title = (text: string) => out(`\n${paint.bold(`${line}${line} ${text} `.padEnd(78, line))}\n\n`);

  title('A sound site: the Gullhaven Ferry');
  const { layout, mistakes } = loadDemo();
  const sound = below(root, SOUND);
  await layOut(sound, layout, null);
  out(`${treeAsText(sound, layout, [], paint)}\n`);
  showText(await checkFolder(sound), { most: 'all' }, output);

  title(`A copy of it with ${mistakes.length} mistakes`);
  const mistaken = below(root, MISTAKEN);
  await layOut(mistaken, plant(layout, mistakes), null);
  for (const [index, { what }] of mistakes.entries()) out(`${String(index + 1).padStart(3)}  ${what}\n`);

  title('What the check says');
  showText(await checkFolder(mistaken), { most: 'all' }, output);
  out(`\nBoth sites are in ${visible(root)}. Look again with:\n  cravel check ${visible(mistaken)}\n`);
  return 0;
}
