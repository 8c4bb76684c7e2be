/** `cravel lift`: takes code out of pages into files of their own. */

import { fail } from '../core/errors.ts';
import { liftCode, type Piece } from '../core/moving/lift.ts';
import { publishedAt } from '../core/resolve/published.ts';
import { nearestNames } from '../core/site/near-names.ts';
import { visible } from '../show/escape.ts';
import { count } from '../show/paint.ts';
import { lift as declaration } from './declarations.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { changeProject, titleOf } from './project-change.ts';

/** What is longer, or stands on several pages, is lifted where nobody names it. */
const MOST_BYTES = 4000;
const MOST_LINES = 60;
/** What is shorter is not worth a request, on however many pages it stands. */
const LEAST_BYTES = 200;

export async function lift(spots: readonly string[], raw: object, output: Output): Promise<number> {
  const options = checkOptions(declaration, raw);
  return changeProject(options, titleOf('lift', ...spots), output, (project) => {
    const { site, places, settings } = project;
    const pages = project.pages();
    const named = spots.map((spot) => {
      const [, path, line] = /^(.+):(\d{1,9})$/.exec(spot) ?? [];
      if (path === undefined) throw fail('no-spot', spot);
      const page = project.sitePath(path);
      if (!pages.includes(page)) throw fail('no-page', page, nearestNames(page, pages));
      return { spot, page, line: Number(line), isFound: false };
    });
    const isNamed = (piece: Piece) => {
      const own = named.filter(
        ({ page, line }) => page === piece.page && line >= piece.firstLine && line <= piece.lastLine,
      );
      for (const one of own) one.isFound = true;
      return own.length > 0;
    };
    const isLong = ({ bytes, firstLine, lastLine, copies }: Piece) =>
      bytes > MOST_BYTES || lastLine - firstLine > MOST_LINES || (copies > 1 && bytes > LEAST_BYTES);
    const lifted = liftCode({
      files: site,
      places,
      published: publishedAt(settings['published-at']),
      pages,
      isWanted: spots.length > 0 ? isNamed : isLong,
    });
    const lost = named.find(({ isFound }) => !isFound);
    if (lost !== undefined) throw fail('no-code-there', lost.spot);
    return {
      notes: lifted.map(
        ({ path, pages: own }) => `Lifted to ${visible(path)}, from ${count(own.length, 'page')}.`,
      ),
      idle: 'Nothing to lift: no page holds a long script or style. Name one by its line, for example: index.html:12',
    };
  });
}
