/** `cravel mend`: makes the mends of what a check finds, as one change. */

import { fail } from '../core/errors.ts';
import { picker } from '../core/judge/pick.ts';
import type { Mended, Withheld } from '../core/mending/mending.ts';
import type { Finding, Mend } from '../core/report.ts';
import { withCommas } from '../core/with-commas.ts';
import { mendProject, type Wishes } from '../disk/mending.ts';
import { visible } from '../show/escape.ts';
import { inWords } from '../show/holder.ts';
import { count } from '../show/paint.ts';
import { whyWithheld } from '../show/withheld.ts';
import type { Checked } from './declaration.ts';
import { mend as declaration } from './declarations.ts';
import { splitList } from './lists.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { showProgress } from './progress.ts';
import { type Account, changeProject, titleOf } from './project-change.ts';
import { type Asker, asker } from './questions.ts';

type Options = Checked<typeof declaration.options>;

export async function mend(raw: object, output: Output): Promise<number> {
  const options = checkOptions(declaration, raw);
  const only = options.only.flatMap(splitList);
  const isWanted = only.length > 0 ? picker(only) : () => true;
  const ask = options.guesses && !options.yes ? await asker(output) : null;
  if (options.guesses && !options.yes && ask === null) throw fail('no-terminal');
  const title = titleOf(
    'mend',
    options.guesses && '--guesses',
    only.length > 0 && `--only ${only.join(',')}`,
  );
  return changeProject(options, title, output, async (project) => {
    const progress = showProgress(output, { verb: 'reading', noun: 'file', afterwards: 'judging' });
    try {
      const wishes: Wishes = {
        isWanted,
        choose: chooser(options, ask),
        ask: async ({ file }, question) => {
          const answer = await ask?.text(`${visible(file)}: ${question} (nothing: leave it)`, '');
          return answer?.trim() || null;
        },
      };
      const mended = await mendProject(project, wishes, progress.tell);
      return accountOf(mended, project.files.changes().length, options);
    } finally {
      progress.end();
    }
  });
}

const LEAVE = 'leave it as it is';

/** Sure mends are made; others as somebody says, once for all that are alike. */
function chooser(
  { guesses }: Options,
  ask: Asker | null,
): (finding: Finding, mends: readonly Mend[]) => Promise<Mend | null> {
  const answers = new Map<string, string>();
  return async (finding, mends) => {
    const sure = mends.find((one) => one.sure);
    if (sure !== undefined) return sure;
    if (!guesses) return null;
    const [first] = mends;
    if (ask === null || first === undefined) return first ?? null;
    const titles = mends.map((one) => one.title);
    const key = JSON.stringify([finding.rule, finding.target, finding.written, titles]);
    let answer = answers.get(key);
    if (answer === undefined) {
      const choices = [...titles, LEAVE].map((name) => ({ name, about: '' }));
      answer = await ask.choice(questionOn(finding), choices, first.title);
      answers.set(key, answer);
    }
    return mends.find((one) => one.title === answer) ?? null;
  };
}

/** `css/harbour.css 12:19  url() images/pier.svg: there is no folder images in css` */
function questionOn({ file, line, column, holder, written, message }: Finding): string {
  const what = [holder === null ? '' : inWords(holder), visible(written)].filter((word) => word !== '');
  return `${visible(file)} ${line}:${column}  ${what.join(' ')}: ${visible(message)}`;
}

/** Mends that were withheld are named up to so many. */
const MOST_NAMED = 10;

function accountOf({ done, withheld, left, open }: Mended, files: number, { guesses }: Options): Account {
  const notes: string[] = [];
  if (done.length > 0) notes.push(`Mended ${count(done.length, 'finding')} in ${count(files, 'file')}.`);
  for (const one of withheld.slice(0, MOST_NAMED)) notes.push(sayWithheld(one));
  if (withheld.length > MOST_NAMED)
    notes.push(`Withheld for such reasons: ${count(withheld.length - MOST_NAMED, 'more mend')}.`);
  if (!guesses && open.length > 0)
    notes.push(
      `${withCommas(open.length)} more may be mended, and nobody can tell for sure: cravel mend --guesses`,
    );
  if (left.length > 0)
    notes.push(
      `${count(left.length, 'finding')} ${left.length === 1 ? 'is' : 'are'} left: see with cravel check.`,
    );
  const idle = left.length === 0 ? 'Nothing to mend: nothing is found.' : 'Nothing was mended.';
  return { notes, idle };
}

function sayWithheld(withheld: Withheld): string {
  const { finding, mend } = withheld;
  const spot = `${visible(finding.file)} ${finding.line}:${finding.column}`;
  return `Withheld: ${spot}: ${visible(mend.title)}: ${whyWithheld(withheld)}.`;
}
