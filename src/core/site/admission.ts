/** Which of the files that lie beside each other are taken, and for what: one table for all who ask. */
import { isKeptByWindows } from './names.ts';
import { mayHoldSecrets } from './secrets.ts';

/** What is done with the files. */
export type Purpose = 'check' | 'keep' | 'adopt' | 'pack' | 'preview';

/** What a path is by its names. */
type Sort = 'plain' | 'unnamable' | 'web' | 'well-known' | 'hidden' | 'secret' | 'leftover' | 'litter';

/** What belongs to other programs and is never part of a site. */
const LITTER = /^(?:\.git|\.hg|\.svn|\.cravel|node_modules|\.ds_store|thumbs\.db|desktop\.ini)$/;
/** What editors and operating systems leave beside the files. */
const LEFTOVER =
  /^(?:__macosx|\.bzr|cvs|bower_components|\.idea|\.vscode|\.fleet|\.cache|\._.*|.*~|.*\.sw[op]|\.gitignore|\.gitattributes|\.gitmodules)$/;
/** Hidden files that hosts look for. */
const WEB = /^(?:\.htaccess|\.nojekyll|\.user\.ini)$/;

/** `take` where it comes along, `name` where it is there and never read, `leave` where it stays behind. */
type Verdict = 'take' | 'name' | 'leave';

// biome-ignore format: a table
const table: Readonly<Record<Sort, Readonly<Record<Purpose, Verdict>>>> = {
  plain:        { check: 'take',  keep: 'take',  adopt: 'take',  pack: 'take',  preview: 'take' },
  unnamable:    { check: 'take',  keep: 'take',  adopt: 'leave', pack: 'take',  preview: 'take' },
  web:          { check: 'take',  keep: 'take',  adopt: 'leave', pack: 'take',  preview: 'leave' },
  'well-known': { check: 'take',  keep: 'take',  adopt: 'leave', pack: 'take',  preview: 'take' },
  hidden:       { check: 'name',  keep: 'leave', adopt: 'leave', pack: 'leave', preview: 'leave' },
  secret:       { check: 'name',  keep: 'leave', adopt: 'leave', pack: 'leave', preview: 'leave' },
  leftover:     { check: 'name',  keep: 'leave', adopt: 'leave', pack: 'leave', preview: 'leave' },
  litter:       { check: 'leave', keep: 'leave', adopt: 'leave', pack: 'leave', preview: 'leave' },
};

const words: Readonly<Record<Exclude<Sort, 'plain'>, string>> = {
  unnamable: 'no file can have such a name on Windows',
  web: 'hidden',
  'well-known': 'hidden',
  hidden: 'hidden',
  secret: 'it may hold a secret',
  leftover: "another program's",
  litter: "another program's",
};

/** Why a path (a folder's ends in `/`) is left where it is, in a few words; null where it is taken. */
export function whyLeft(purpose: Purpose, path: string): string | null {
  const sort = sortOf(path);
  return sort === 'plain' || table[sort][purpose] === 'take' ? null : words[sort];
}

/** True for the name of what is never part of a site. */
export function isLitter(name: string): boolean {
  return LITTER.test(name.toLowerCase());
}

function sortOf(path: string): Sort {
  const steps = path.toLowerCase().replace(/\/$/, '').split('/');
  if (steps.some(isLitter)) return 'litter';
  if (mayHoldSecrets(path)) return 'secret';
  if (steps.some((step) => LEFTOVER.test(step))) return 'leftover';
  const at = steps.findIndex((step) => step.startsWith('.'));
  if (at < 0) return steps.some(isKeptByWindows) ? 'unnamable' : 'plain';
  if (steps[at] === '.well-known' && !steps.slice(at + 1).some((step) => step.startsWith('.')))
    return 'well-known';
  return at === steps.length - 1 && WEB.test(steps[at] as string) ? 'web' : 'hidden';
}
