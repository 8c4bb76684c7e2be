/** late-base: a base address after references that it should change. */
import { holderOf } from '../../read/holder.ts';
import type { PageRule } from '../rule.ts';

export const lateBase: PageRule = {
  name: 'late-base',
  grade: 'misplaced',
  summary: 'a base after references',
  suffers: 'What stands before it may be loaded from another folder than what stands behind it.',
  wrong: '<link href="css/main.css"> … <base href="../">',
  right: '<base href="../"> before everything that has an address',
  judgePage({ page }) {
    const { base } = page;
    if (base === null || base.after === 0) return [];
    return [
      {
        offset: base.offset,
        length: 5,
        holder: holderOf('markup', 'base', 'href'),
        written: '',
        message: `${base.after} ${base.after === 1 ? 'reference stands' : 'references stand'} before it`,
      },
    ];
  },
};
