/** `cravel starters`: lists the starters, built in and own, each with its tree. */
import { CravelError } from '../core/errors.ts';
import { fillBlanks, renderStarter, type Starter } from '../core/starter/render.ts';
import { loadStarter, ownStarterPlace, ownStartersFolder, starterNames } from '../disk/starters.ts';
import { visible } from '../show/escape.ts';
import { explained, type Paint, paintFor } from '../show/paint.ts';
import { treeAsText } from '../show/tree.ts';
import type { Output } from './output.ts';

export function listStarters(output: Output): number {
  const paint = paintFor(output.stdout, output.env);
  const own = ownStartersFolder();
  const blocks = starterNames().map((name) => {
    try {
      const starter = loadStarter(name);
      return `${heading(starter, paint)}\n${treeOf(starter, paint)}`;
    } catch (error) {
      if (!(error instanceof CravelError)) throw error;
      return `${paint.bold(name)}  ${paint.red('cannot be used')}\n${explained(error)}\n`;
    }
  });
  output.out(blocks.join('\n'));
  output.note(`Your own starters lie in ${visible(own)}; keep one with: cravel keep <folder> <name>`);
  return 0;
}

export function showStarter(name: string, output: Output): number {
  const paint = paintFor(output.stdout, output.env);
  const starter = loadStarter(name);
  const { manifest } = starter;
  const lines = [heading(starter, paint)];
  if (starter.own) lines.push(`in ${visible(ownStarterPlace(name))}`);
  lines.push('', treeOf(starter, paint).trimEnd(), '');
  const blanks = Object.entries(manifest.blanks);
  if (blanks.length > 0) lines.push(paint.bold('Blanks'));
  const width = Math.max(0, ...blanks.map(([blank]) => blank.length));
  for (const [blank, { question, asked, default: suggestion, hint }] of blanks) {
    lines.push(`  ${blank.padEnd(width)}  ${visible(question)}${asked ? '' : ` (--set ${blank}=…)`}`);
    const unless = suggestion === '' ? 'left out unless said' : `unless said: ${visible(suggestion)}`;
    lines.push(`  ${' '.repeat(width)}  ${paint.dim(unless)}`);
    if (hint !== undefined) lines.push(`  ${' '.repeat(width)}  ${paint.dim(visible(hint))}`);
  }
  const places = Object.entries(manifest.places);
  if (places.length > 0) {
    lines.push(
      '',
      paint.bold('Places'),
      ...places.map(([role, folder]) => `  ${role.padEnd(width)}  ${visible(folder)}/`),
    );
  }
  if (manifest['scripts-go'] !== undefined) lines.push('', `Scripts go: ${manifest['scripts-go']}`);
  const from = manifest.page === undefined ? 'its entry page, emptied' : visible(manifest.page);
  lines.push(
    '',
    `Further pages are made from ${from}.`,
    '',
    `Use it: cravel scaffold <folder> --starter ${name}`,
  );
  output.out(`${lines.join('\n')}\n`);
  return 0;
}

function heading({ name, own, manifest }: Starter, paint: Paint): string {
  return `${paint.bold(name)}  ${visible(manifest.summary)}${own ? paint.dim('  (your own)') : ''}`;
}

function treeOf(starter: Starter, paint: Paint): string {
  const layout = renderStarter(starter, fillBlanks(starter, starter.name, new Map()));
  return treeAsText(starter.name, layout, [], paint);
}
