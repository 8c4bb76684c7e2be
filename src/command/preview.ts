/** `cravel preview`: serves a site as a strict host would, keeps open pages up to date, and shows the deck. */
import { fail } from '../core/errors.ts';
import { withSlashes } from '../disk/disk-path.ts';
import { projectOf } from '../disk/project.ts';
import { Network } from '../serve/network.ts';
import { Preview } from '../serve/preview.ts';
import { visible } from '../show/escape.ts';
import { count, paintFor } from '../show/paint.ts';
import { preview as declaration } from './declarations.ts';
import { onEnd } from './ending.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { showProgress } from './progress.ts';

/** Highest port that there is (RFC 9293), with room for the site's beside the deck's. */
const HIGHEST = 65_534;

export async function preview(folder: string | undefined, raw: object, output: Output): Promise<number> {
  const { port, open, onNetwork, dir } = checkOptions(declaration, raw);
  const number = Number(port ?? 0);
  if (number > HIGHEST) throw fail('bad-option', '--port', `must be at most ${HIGHEST}`);
  const { root } = await projectOf(withSlashes(folder ?? '.'), dir);
  const network = onNetwork ? Network.ofThisMachine() : null;
  const site = new Preview(root, { port: number, ...(network === null ? {} : { network }) });
  const reading = showProgress(output, { verb: 'reading', noun: 'file', afterwards: 'judging' });
  try {
    try {
      await site.start(reading.tell);
    } finally {
      reading.end();
    }
    const { out, note, stdout, env } = output;
    const paint = paintFor(stdout, env);
    out(`${paint.bold('deck')}   ${site.deckAddress}\n${paint.bold('site')}   ${site.siteAddress}\n`);
    if (network !== null) {
      const address = network.addressAt(site.networkPort as number, site.served.folder);
      // In colours of its own: on a light terminal it would else be its own negative.
      const picture = network.picture(address).map((line) => `${paint.bgBlack(paint.whiteBright(line))}\n`);
      out(`${paint.bold('phone')}  ${address}\n\n${picture.join('')}\n`);
      note(
        'Whoever has this address sees the site while the preview runs. Mends are made from this machine alone.',
      );
    }
    const { pages, counts } = site.news();
    const found = counts.broken + counts.fragile + counts.misplaced;
    note(`${count(pages.length, 'page')}, ${count(found, 'finding')} that visitors meet. Ctrl-C ends.`);
    if (open) await openBrowser(site.deckAddress, output);
    await Promise.race([site.run(), new Promise<void>((done) => onEnd(done))]);
    return 0;
  } finally {
    await site.end();
  }
}

async function openBrowser(address: string, { note }: Output): Promise<void> {
  const { default: open } = await import('open');
  try {
    const child = await open(address);
    child.once('error', () => note(`No browser could be opened: open ${visible(address)} yourself.`));
  } catch {
    note(`No browser could be opened: open ${visible(address)} yourself.`);
  }
}
