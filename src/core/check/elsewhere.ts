/** References to other hosts: which addresses to ask for, and what their answers mean. */

import { type Draft, draftOfRemark } from '../judge/drafts.ts';
import { answerRules } from '../judge/index.ts';
import type { Answer } from '../judge/rule.ts';
import type { Holder } from '../read/holder.ts';
import type { Reference } from '../read/reading.ts';
import type { Lead } from '../resolve/resolver.ts';

/** An address to ask for, without a fragment, and the integrity values that it is held to. */
export interface Question {
  readonly address: string;
  readonly integrities: readonly string[];
}

/** Sent to rather than read, or known to answer only who sends something. */
const sentTo: ReadonlySet<string> = new Set(['action', 'formaction', 'ping']);

function isSentTo({ syntax, name }: Holder): boolean {
  return syntax === 'markup' && sentTo.has(name);
}

/** The http(s) address of a reference to another host; null where there is nothing to ask for. */
export function questionOf(reference: Reference, lead: Lead): Question | null {
  if (!lead.elsewhere || isSentTo(reference.holder)) return null;
  const text = lead.address.trim();
  const whole = /^[/\\]{2}/.test(text) ? `https:${text}` : text;
  if (!/^https?:/i.test(whole) || !URL.canParse(whole)) return null;
  const integrity = reference.standing?.attributes?.integrity;
  return { address: new URL(whole).href, integrities: integrity === undefined ? [] : [integrity] };
}

/** The questions of a site, each address once, in order. */
export function inOneList(questions: Iterable<Question>): Question[] {
  const integrities = new Map<string, Set<string>>();
  for (const question of questions) {
    const known = integrities.get(question.address) ?? new Set();
    for (const integrity of question.integrities) known.add(integrity);
    integrities.set(question.address, known);
  }
  return Array.from(integrities, ([address, values]) => ({ address, integrities: [...values] })).sort(
    (a, b) => (a.address < b.address ? -1 : 1),
  );
}

/** True where an answer gives reason to say something. */
export function isTelling({ failure, moved, mismatches }: Answer): boolean {
  return failure !== null || moved !== null || mismatches.size > 0;
}

/** What is to be said of a reference, now that its host has answered. */
export function draftsOfAnswer(file: string, reference: Reference, answer: Answer): Draft[] {
  const { offset, length, holder, written, kind } = reference;
  return answerRules.flatMap((rule) => {
    const said = rule.judgeAnswer(reference, answer);
    return said === null ? [] : draftOfRemark(rule, file, { offset, length, holder, written, kind, ...said });
  });
}
