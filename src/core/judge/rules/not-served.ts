/** not-served: another host says that it does not have what is asked for, or does not answer. */
import type { AnswerRule } from '../rule.ts';

export const notServed: AnswerRule = {
  name: 'not-served',
  grade: 'broken',
  summary: 'the other host does not serve it',
  suffers:
    "The visitor gets the other host's error page, or nothing. Found only where other hosts are asked: cravel check --online.",
  wrong: '<a href="https://tides.example/2019/">  where that host answers 404',
  right: '<a href="https://tides.example/archive/2019/">',
  judgeAnswer: (_reference, { failure }) => (failure === null ? null : { message: failure }),
};
