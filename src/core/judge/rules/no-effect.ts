/** no-effect: something that was meant to load, lead or style, and never does. */
import type { FileRule, Remark } from '../rule.ts';

export const noEffect: FileRule = {
  name: 'no-effect',
  grade: 'broken',
  summary: 'never takes effect',
  suffers: 'Nothing is loaded there, and no browser says so.',
  wrong: '<link rel="stylesheet" src="css/main.css">, <img scr="pier.svg">',
  right: '<link rel="stylesheet" href="css/main.css">, <img src="pier.svg">',
  judgeFile({ reading }) {
    const remarks: Remark[] = (reading.page?.nearMisses ?? []).map(
      ({ element, attribute, meant, offset, length }) => ({
        offset,
        length,
        holder: `${element} ${attribute}`,
        written: attribute,
        message: `${element} has no attribute ${attribute}; ${meant} was probably meant`,
        rewrites: [{ sure: true, title: `write ${meant}`, offset, length, text: meant }],
      }),
    );
    for (const { offset, message } of reading.faults) {
      if (message.startsWith('@import'))
        remarks.push({ offset, length: 7, holder: '@import', written: '@import', message });
    }
    return remarks;
  },
};
