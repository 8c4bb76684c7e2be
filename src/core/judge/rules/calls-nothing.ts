/** calls-nothing: an event handler calls a function that no script of the page makes. */
import type { NameRule } from '../rule.ts';
import { reasonOf } from './nobody-makes.ts';

export const callsNothing: NameRule = {
  name: 'calls-nothing',
  grade: 'broken',
  summary: 'an event handler calls what no script of the page makes',
  suffers: 'The visitor clicks, and nothing happens.',
  wrong: '<button onclick="showTides()">  where no script makes showTides',
  right: '<script src="js/tides.js"></script>  with function showTides() in it',
  judgeName(missing) {
    if (!missing.isHandler) return null;
    const { name, runner, near, leftOut } = missing;
    const [maker] = leftOut;
    const meant = near === null ? '' : `; ${near} was probably meant`;
    const hint = maker === undefined ? meant : `; ${maker} does, and the ${runner} does not load it`;
    return { message: `no script of the ${runner} makes ${name}${reasonOf(missing)}${hint}` };
  },
};
