/** does-not-parse: a script or a data file that a browser refuses as a whole. */
import { holderOf } from '../../read/holder.ts';
import type { FaultCode } from '../../read/reading.ts';
import type { FileRule, NameRule, RefusalRule } from '../rule.ts';

export const doesNotParse: FileRule & RefusalRule & NameRule = {
  name: 'does-not-parse',
  grade: 'broken',
  summary: 'a browser cannot parse it',
  suffers: 'Nothing of it is run or used, not even what stands before the mistake.',
  wrong: "startTides('north';",
  right: "startTides('north');",
  judgeRefusal({ why, isModular, isWorker = false, syntax }) {
    const mend = isWorker ? 'start the worker with { type: "module" }' : 'say type="module"';
    const reason = isModular ? `${ONLY_IN_MODULES}: ${mend}` : why;
    const loss = syntax === 'json' ? 'nothing of it is used' : 'nothing of this script is run';
    return { holder: holderOf(syntax, '', ''), message: `${reason}${isModular ? ';' : ':'} ${loss}` };
  },
  judgeName({ name, declaredBy }) {
    if (declaredBy === null) return null;
    return {
      message: `${declaredBy} has declared ${name} already, and it may not be declared again: nothing of this script is run until one has another name`,
    };
  },
  judgeFile({ file, reading }) {
    return reading.faults.flatMap(({ code, offset, length, detail }) => {
      const what = refused[code];
      if (what === undefined) return [];
      const { syntax, loss } = what;
      const message = `${detail}: ${loss}`;
      return [{ offset, length, holder: holderOf(syntax, '', ''), written: '', target: file, message }];
    });
  },
};

const ONLY_IN_MODULES = 'only a module may have import, export, and await outside of functions';

const refused: Readonly<
  Partial<Record<FaultCode, { readonly syntax: 'script' | 'json'; readonly loss: string }>>
> = {
  'script-does-not-parse': { syntax: 'script', loss: 'nothing of this script is run' },
  'json-does-not-parse': { syntax: 'json', loss: 'nothing of it is used' },
};
