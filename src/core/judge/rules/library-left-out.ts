/** library-left-out: a script uses a name that a file of the site makes, and the page does not load that file. */
import { makingOf, shownPath } from '../../order/member-path.ts';
import type { NameRule } from '../rule.ts';
import { whenOf } from './nobody-makes.ts';

export const libraryLeftOut: NameRule = {
  name: 'library-left-out',
  grade: 'broken',
  summary: 'uses a library that the page does not load',
  suffers: 'The script stops there, and nothing behind that runs.',
  wrong: '<script src="js/tides.js"></script>  alone, where it uses what lib/tideclock.js makes',
  right: '<script src="lib/tideclock.js"></script> <script src="js/tides.js"></script>',
  next: {
    shown: 'cravel wire <file> --into <page>',
    after: ({ target }) => (target === null || /[\s"'$`\\]/.test(target) ? null : `cravel wire ${target}`),
  },
  judgeName({ name: path, runner, isHandler, isAfterLoad, leftOut: [maker], stopped, absent, statedBy }) {
    const name = shownPath(path);
    if (statedBy !== null)
      return { message: `${statedBy} needs ${name} by the settings, and the page does not load it` };
    if (isHandler || maker === undefined || stopped !== null || absent !== null) return null;
    return {
      message: `${whenOf(isAfterLoad)}nothing that the ${runner} runs ${makingOf(path)} ${name}; ${maker} does, and the ${runner} does not load it`,
    };
  },
};
