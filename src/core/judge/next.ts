/** The commands that settle what no edit mends. */
import { isPageName } from '../site/formats.ts';
import { isSafeName } from '../site/names.ts';
import type { NextStep } from './rule.ts';

/** The command that makes a page at a site path; null where that cannot be its name. */
function makePage(path: string): string | null {
  const steps = path.replace(/\/$/, '').split('/');
  return steps.every(isSafeName) ? `cravel page ./${path}` : null;
}

const ADOPT = 'cravel adopt <folder, archive or address> --wire';

/** For a file that is not there: a page is made, a library is taken in. */
export const makeOrAdopt: NextStep = {
  shown: `cravel page <path>, of a library ${ADOPT}`,
  after({ kind, target }) {
    if (target === null) return null;
    if (kind === 'page' || kind === 'frame')
      return isPageName(target) || target.endsWith('/') ? makePage(target) : null;
    const isCode = kind === 'script' || kind === 'module' || kind === 'stylesheet';
    const isOfLibrary = /(?:^|\/)(?:lib|libs|libraries|vendor)\/|[.-]min\.\w+$/.test(target);
    return isCode && isOfLibrary ? ADOPT : null;
  },
};

/** For a folder without an index page. */
export const makeIndex: NextStep = {
  shown: 'cravel page <folder>/',
  after: ({ target }) => (target === null || target === '' ? null : makePage(target)),
};

/** For a file that one page does not load. */
export const wireHere: NextStep = {
  shown: 'cravel wire <file> --into <page>',
  after({ file, target }) {
    if (target === null || isPageName(target) || /[\s"'$`\\]/.test(target + file)) return null;
    return `cravel wire ${target} --into ${file}`;
  },
};
