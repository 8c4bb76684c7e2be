/** `cravel look`: opens pages in a real browser, and tells what did not load or did not take effect. */
import { type DiskPath, pointedTo, withSlashes } from '../disk/disk-path.ts';
import { writePicture } from '../disk/pictures.ts';
import { CheckedSite } from '../serve/checked-site.ts';
import { hasTrouble, type LookedSite, lookAsJson, lookAsText } from '../serve/look/as-text.ts';
import { findBrowser } from '../serve/look/find-browser.ts';
import { idleEverywhere, judgeOpened, type LookedPage } from '../serve/look/look.ts';
import { type OpenOptions, openPage, startBrowser } from '../serve/look/open-page.ts';
import { LOOPBACK } from '../serve/loopback.ts';
import type { PageAbout } from '../serve/messages.ts';
import { SiteServer } from '../serve/site-server.ts';
import { WIDTHS } from '../serve/widths.ts';
import { visible } from '../show/escape.ts';
import { count, paintFor } from '../show/paint.ts';
import { look as declaration } from './declarations.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { showProgress } from './progress.ts';
import { columnsOf, readProject } from './read-project.ts';
import { tellUnfinished } from './unfinished.ts';

/** Pages that are open at once. */
const AT_ONCE = 3;

export async function look(named: readonly string[], raw: object, output: Output): Promise<number> {
  const { browser: given, pictures: folder, online, as, dir } = checkOptions(declaration, raw);
  const browserPath = findBrowser(given, output.env);
  const { project, checked, root } = await readProject(dir, output);
  const site = new CheckedSite(project, checked);
  const wanted = named.length === 0 ? site.pages : [...new Set(named.map((page) => project.pageNamed(page)))];
  const pictures = folder === undefined ? null : pointedTo(folder);
  const pictureOf = (path: string): OpenOptions['picture'] =>
    pictures && ((width, png) => writePicture(pictures, nameOfPicture(path, width), png));
  const pages = await lookAtAll(site, wanted, { browserPath, isOnline: online, pictureOf }, output);
  const found: LookedSite = { pages, idle: idleEverywhere(pages) };
  const { out, note, stdout, env } = output;
  if (as === 'json') out(lookAsJson(found));
  else out(lookAsText(found, paintFor(stdout, env), columnsOf(output)));
  const elsewhere = new Set(pages.flatMap((page) => page.elsewhere)).size;
  if (elsewhere > 0)
    note(
      `${count(elsewhere, 'address of another host was', 'addresses of other hosts were')} not asked for, and what needs them may have failed for that: --online asks.`,
    );
  if (folder !== undefined)
    note(`${count(pages.length * WIDTHS.length, 'picture')} in ${visible(withSlashes(folder))}.`);
  if (await tellUnfinished(root, output)) return 2;
  return hasTrouble(found) ? 1 : 0;
}

interface Looking extends Pick<OpenOptions, 'isOnline'> {
  readonly browserPath: DiskPath;
  readonly pictureOf: (path: string) => OpenOptions['picture'];
}

/** Opens pages of the site, by their site paths, and gives what came of each. */
async function lookAtAll(
  site: CheckedSite,
  paths: readonly string[],
  { browserPath, isOnline, pictureOf }: Looking,
  output: Output,
): Promise<LookedPage[]> {
  const server = new SiteServer(site, { port: 0, run: '' });
  const browser = await startBrowser(browserPath);
  const progress = showProgress(output, { verb: 'looking at', noun: 'page' });
  const { default: pLimit } = await import('p-limit');
  const limit = pLimit(AT_ONCE);
  let done = 0;
  try {
    await server.start();
    const host = { origin: `http://${LOOPBACK}:${server.port}`, folder: site.served.folder };
    return await limit.map(paths, async (path) => {
      const address = host.origin + site.addressOf(path);
      const opened = await openPage(browser, address, { widths: WIDTHS, isOnline, picture: pictureOf(path) });
      await progress.tell(++done, paths.length);
      return judgeOpened(path, opened, site.about(path) as PageAbout, host);
    });
  } finally {
    progress.end();
    limit.clearQueue();
    server.end();
    await browser.close();
  }
}

/** `piers/north-320.png` */
function nameOfPicture(path: string, width: number): string {
  return `${path.replace(/\.[^./]*$/, '')}-${width}.png`;
}
