/** nothing-in-it: a stylesheet or a script that is loaded and has no content. */
import { holderOf } from '../../read/holder.ts';
import { extensionOf } from '../../site/inventory.ts';
import type { FileRule, Remark } from '../rule.ts';

export const nothingInIt: FileRule = {
  name: 'nothing-in-it',
  grade: 'untidy',
  summary: 'a stylesheet or script without content',
  suffers: 'Every visitor waits for it, and gets nothing.',
  wrong: '<script src="js/tides.js"></script>  where js/tides.js has 0 bytes',
  right: 'js/tides.js with its code in it, or no reference to it',
  cause: 'rule',
  unreached: 'silent',
  judgeFile({ file, reading, isBlank }) {
    if (!isBlank && (reading.page?.emptyScripts.length ?? 0) === 0) return [];
    const remarks: Remark[] = [];
    const what = called[extensionOf(file)];
    if (isBlank && what !== undefined)
      remarks.push({
        offset: 0,
        length: 0,
        holder: null,
        written: file,
        target: file,
        message: `this ${what} has nothing in it`,
      });
    for (const { offset, length, waits } of reading.page?.emptyScripts ?? [])
      if (!waits)
        remarks.push({
          offset,
          length,
          holder: holderOf('markup', 'script', ''),
          written: '',
          message: 'this script has neither a source nor code',
        });
    return remarks;
  },
};

const called: Readonly<Record<string, string>> = {
  css: 'stylesheet',
  js: 'script',
  mjs: 'script',
  cjs: 'script',
};
