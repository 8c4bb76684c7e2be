/** moved-away: another host answers with the address of somewhere else. */
import type { RuleFacts } from '../rule.ts';

export const movedAway: RuleFacts = {
  name: 'moved-away',
  grade: 'untidy',
  summary: 'the other host sends visitors on to another address',
  suffers:
    'Every visitor waits for two answers instead of one, and for none once the host forgets the old address. Found only where other hosts are asked: cravel check --online.',
  wrong: '<a href="http://tides.example/">  where that host answers 301 with https://tides.example/',
  right: '<a href="https://tides.example/">',
};
