/** moved-away: another host answers with the address of somewhere else. */
import { hostedAddress } from '../../mend/address.ts';
import type { AnswerRule } from '../rule.ts';

export const movedAway: AnswerRule = {
  name: 'moved-away',
  grade: 'untidy',
  summary: 'the other host sends visitors on to another address',
  suffers:
    'Every visitor waits for two answers instead of one, and for none once the host forgets the old address. Found only where other hosts are asked: cravel check --online.',
  wrong: '<a href="http://tides.example/">  where that host answers 301 with https://tides.example/',
  right: '<a href="https://tides.example/">',
  judgeAnswer(reference, { failure, moved }) {
    if (failure !== null || moved === null) return null;
    const { to, isForGood } = moved;
    if (!isForGood) return { message: `for now, the host sends on to ${to}` };
    const { offset, length, written } = reference;
    const text = hostedAddress(to + (/#.*/s.exec(written.trim())?.[0] ?? ''), reference);
    const edit = { start: offset, end: offset + length, text };
    return {
      message: `moved for good to ${to}`,
      settlements: [{ sure: true, title: `write ${text}`, edit }],
    };
  },
};
