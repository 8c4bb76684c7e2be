/** `cravel look`: opens pages in a real browser, and tells what did not load or did not take effect. */
import { fail } from '../core/errors.ts';
import { nearestNames } from '../core/site/near-names.ts';
import { pointedTo, shownFromHere, withSlashes } from '../disk/disk-path.ts';
import { writePicture } from '../disk/pictures.ts';
import { CheckedSite } from '../serve/checked-site.ts';
import { hasTrouble, type LookedSite, lookAsJson, lookAsText } from '../serve/look/as-text.ts';
import { findBrowser } from '../serve/look/find-browser.ts';
import { idleEverywhere, judgeOpened, type LookedPage } from '../serve/look/look.ts';
import { openPage, startBrowser } from '../serve/look/open-page.ts';
import { LOOPBACK } from '../serve/loopback.ts';
import { SiteServer } from '../serve/site-server.ts';
import { visible } from '../show/escape.ts';
import { count, paintFor } from '../show/paint.ts';
import { look as declaration } from './declarations.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { showProgress } from './progress.ts';
import { workPlace } from './project-change.ts';
import { columnsOf } from './read-project.ts';
import { tellUnfinished } from './unfinished.ts';

/** Widths of windows that people have (CSS pixels). */
const WIDTHS: readonly number[] = [320, 390, 768, 1280];
/** Pages that are open at once. */
const AT_ONCE = 3;

export async function look(pages: readonly string[], raw: object, output: Output): Promise<number> {
  const options = checkOptions(declaration, raw);
  const browserPath = findBrowser(options.browser, output.env);
  const { root } = workPlace(options.dir, output);
  const site = new CheckedSite(shownFromHere(root));
  const reading = showProgress(output, { verb: 'reading', noun: 'file', afterwards: 'judging' });
  try {
    await site.look(reading.tell);
  } finally {
    reading.end();
  }
  const wanted = pages.length === 0 ? site.pages : [...new Set(pages.map((page) => pageNamed(page, site)))];
  const pictures = options.pictures === undefined ? null : pointedTo(options.pictures);
  const server = new SiteServer(site, { port: 0, run: '' });
  const browser = await startBrowser(browserPath);
  const looking = showProgress(output, { verb: 'looking at', noun: 'page' });
  const { default: pLimit } = await import('p-limit');
  const limit = pLimit(AT_ONCE);
  let done = 0;
  try {
    await server.start();
    const host = { origin: `http://${LOOPBACK}:${server.port}`, folder: site.served.folder };
    const lookAt = async (path: string): Promise<LookedPage> => {
      const opened = await openPage(browser, host.origin + site.addressOf(path), {
        widths: WIDTHS,
        isOnline: options.online,
        picture: pictures && ((width, png) => writePicture(pictures, nameOfPicture(path, width), png)),
      });
      const about = site.about(path);
      if (about === null) throw fail('no-file', path, '');
      await looking.tell(++done, wanted.length);
      return judgeOpened(path, opened, about, host);
    };
    const looked = await Promise.all(wanted.map((path) => limit(() => lookAt(path))));
    looking.end();
    return await tell({ pages: looked, idle: idleEverywhere(looked) }, options, output);
  } finally {
    looking.end();
    limit.clearQueue();
    server.end();
    await browser.close();
  }

  async function tell(
    found: LookedSite,
    { as }: typeof options,
    { out, note, stdout, env }: Output,
  ): Promise<number> {
    if (as === 'json') out(lookAsJson(found));
    else out(lookAsText(found, paintFor(stdout, env), columnsOf(output)));
    const elsewhere = new Set(found.pages.flatMap((page) => page.elsewhere));
    if (elsewhere.size > 0)
      note(
        `${count(elsewhere.size, 'address of another host was', 'addresses of other hosts were')} not asked for, and what needs them may have failed for that: --online asks.`,
      );
    if (pictures !== null)
      note(
        `${count(found.pages.length * WIDTHS.length, 'picture')} in ${visible(withSlashes(options.pictures ?? ''))}.`,
      );
    if (await tellUnfinished(root, output)) return 2;
    return hasTrouble(found) ? 1 : 0;
  }
}

function pageNamed(named: string, site: CheckedSite): string {
  const path = site.pageNamed(named);
  if (path === null) throw fail('no-file', named, nearestNames(named, site.pages));
  return path;
}

/** `piers/north-320.png` */
function nameOfPicture(path: string, width: number): string {
  return `${path.replace(/\.[^./]*$/, '')}-${width}.png`;
}
