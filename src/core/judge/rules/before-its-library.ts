/** before-its-library: a script uses a name that only a later script makes. */
import { makingOf, shownPath } from '../../order/member-path.ts';
import type { NameRule } from '../rule.ts';

export const beforeItsLibrary: NameRule = {
  name: 'before-its-library',
  grade: 'broken',
  milder: [
    {
      grade: 'fragile',
      when: 'where a script with async makes it or uses it: whether it is there is chance',
    },
  ],
  summary: 'uses a name before the script that makes it',
  suffers:
    'The script stops there, and nothing behind that runs: the page does nothing of what it was to do.',
  wrong: '<script src="js/tides.js"></script> <script src="lib/tideclock.js"></script>',
  right: '<script src="lib/tideclock.js"></script> <script src="js/tides.js"></script>',
  judgeName({ name: path, user, isOwn, isHandler, isRace, later, hosted, leftOut, near, statedBy }) {
    if (isHandler) return null;
    const name = shownPath(path);
    const verb = makingOf(path);
    if (statedBy !== null)
      return later === null
        ? null
        : { message: `${statedBy} needs ${name} by the settings, and ${later} runs only after ${user}` };
    if (isOwn) return { message: `${name} is used here, and made only further down in ${user}` };
    const maker = later ?? (leftOut.length === 0 && near === null ? hosted : null);
    if (maker === null) return null;
    if (isRace)
      return {
        message: `${name} is there only if ${maker}, which ${verb} it, comes in time: nothing waits for a script with async`,
        grade: 'fragile',
      };
    if (later === null)
      return { message: `nothing that runs before ${verb} ${name}; ${maker} runs only after it` };
    return { message: `${name} is not there yet: ${maker}, which ${verb} it, runs only after ${user}` };
  },
};
