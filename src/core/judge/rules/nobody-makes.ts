/** nobody-makes: a script uses a name that nothing makes. */
import { shownPath } from '../../order/member-path.ts';
import type { MissingName, NameRule } from '../rule.ts';

export const nobodyMakes: NameRule = {
  name: 'nobody-makes',
  grade: 'broken',
  summary: 'uses a name that nothing makes',
  suffers: 'The script stops there, and nothing behind that runs.',
  wrong: "const clock = new Tideclok('#clock');",
  right: "const clock = new Tideclock('#clock');",
  judgeName(missing) {
    if (missing.isHandler) return null;
    const { near, notExported } = missing;
    const name = shownPath(missing.name);
    const meant = near === null ? '' : `; ${near} was probably meant`;
    if (notExported !== null)
      return { message: `${notExported} exports no ${name}, so neither is run${meant}` };
    if (missing.isOfServers)
      return {
        message: `no browser has ${name}: this script is written for servers; pages need its build for browsers`,
      };
    return {
      message: `${whenOf(missing.isAfterLoad)}nothing that the ${missing.runner} runs makes ${name}${reasonOf(missing)}${meant}`,
    };
  },
};

/** It is looked for when all scripts have run. */
export function whenOf(isAfterLoad: boolean): string {
  return isAfterLoad ? 'it is needed once the page is there, and ' : '';
}

/** Why a name that something would make is not there. */
export function reasonOf({ name, stopped, inModule, absent }: MissingName): string {
  if (absent !== null) return `: ${absent}, which may, is not there`;
  if (stopped !== null) return `: ${stopped} would, and does not come so far`;
  return inModule === null ? '' : `: ${inModule} is a module and keeps its ${name} to itself`;
}
