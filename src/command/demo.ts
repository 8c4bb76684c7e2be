/** `cravel demo`: the whole story on the Gullhaven Ferry, in a new folder. */

import type { Finding, Report } from '../core/report.ts';
import { checkFolder } from '../disk/check.ts';
import { demoFolder, loadDemo, plant } from '../disk/demo.ts';
import { below, pointedTo } from '../disk/disk-path.ts';
import { layOut } from '../disk/lay-out.ts';
import { comparedAsText } from '../show/compare.ts';
import { visible } from '../show/escape.ts';
import { paintFor } from '../show/paint.ts';
import { treeAsText } from '../show/tree.ts';
import { demo as declaration } from './declarations.ts';
import { mend } from './mend.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { pack } from './pack.ts';
import { showText } from './report-writing.ts';

const SOUND = 'gullhaven-ferry';
const MISTAKEN = 'gullhaven-ferry-with-mistakes';
const MENDED = 'gullhaven-ferry-mended';
const PACKED = 'gullhaven-ferry.zip';

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
  await layOut(sound, layout);
  out(`${treeAsText(sound, layout, [], paint)}\n`);
  showText(await checkFolder(sound), { most: 'all' }, output);

  title(`A copy of it with ${mistakes.length} mistakes`);
  const mistaken = below(root, MISTAKEN);
  await layOut(mistaken, plant(layout, mistakes));
  for (const [index, { what }] of mistakes.entries()) out(`${String(index + 1).padStart(3)}  ${what}\n`);

  title('What the check says');
  const before = await checkFolder(mistaken);
  showText(before, { most: 'all' }, output);

  title('What cravel mend makes of it, in another copy');
  const own = below(root, MENDED);
  await layOut(own, plant(layout, mistakes));
  await mend({ dir: own }, output);

  title('The check before and after');
  const after = await checkFolder(own);
  out(comparedAsText(findingsIn(before), findingsIn(after), paint));
  out(
    `\nWhat is left needs a person: see it with\n  cravel check ${visible(own)}\nand take back what was mended with\n  cravel undo --dir ${visible(own)}\n`,
  );

  title('The sound site, packed to be published');
  await pack({ dir: sound, to: below(root, PACKED) }, output);
  out(`\nAll three sites and the archive are in ${visible(root)}.\n`);
  return 0;
}

function findingsIn({ sites }: Report): readonly Finding[] {
  return sites.flatMap(({ findings }) => findings);
}
