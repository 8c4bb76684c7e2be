/** Every error that a person can see: its code, its sentence, and the mend, listed together. */

/** An error in the call or the input, with what to do about it. Exit code 2. */
export class CravelError extends Error {
  override readonly name = 'CravelError';
  constructor(
    readonly code: string,
    readonly sentence: string,
    readonly mend: string,
  ) {
    super(`${sentence}\n${mend}`);
  }
}

type Make = (...values: string[]) => readonly [sentence: string, mend: string];

const table = {
  'no-folder': (folder) => [
    `There is no folder ${folder}.`,
    'Check the spelling, or run cravel scaffold to make one.',
  ],
  'not-a-folder': (path) => [`${path} is a file, not a folder.`, 'Name the folder that holds the site.'],
  'empty-folder': (folder) => [
    `The folder ${folder} has no files.`,
    'Lay out a project first: cravel scaffold <folder>',
  ],
  'no-pages': (folder, files) => [
    `The folder ${folder} has ${files}, but no page (.html, .htm or .xhtml).`,
    'Name the folder that gets published, for example: cravel check site',
  ],
  refused: (path, reason) => [`${path}: ${reason}.`, 'Nothing was written.'],
  unlisted: (path, reason) => [`${path}: ${reason}.`, 'Nothing was checked.'],
  'unknown-starter': (name, known) => [`There is no starter named ${name}.`, `Choose one of: ${known}.`],
  'unsafe-name': (name, safe) => [
    `${name} is not a safe name: on a web server, use small letters, digits and dashes only.`,
    safe === '' ? 'Choose a name such as: my-site' : `Use this name instead: ${safe}`,
  ],
  'in-the-way': (folder, files) => [
    `${folder} already has ${files}; nothing was written.`,
    'Choose another folder, or add only what is missing with: --fill-in',
  ],
  'unknown-blank': (name, known) => [`This starter has no blank named ${name}.`, `Its blanks are: ${known}.`],
  'bad-blank': (name, value, hint) => [`${name} cannot be "${value}".`, hint],
  'bad-set': (text) => [`--set ${text} has no equals sign.`, 'Write it as: --set author="Gullhaven Ferry"'],
  manifest: (place, problem, mend) => [`${place}: ${problem}.`, mend],
  'bad-option': (option, problem) => [`${option} ${problem}.`, 'See the options with: --help'],
} satisfies Record<string, Make>;

export function fail(code: keyof typeof table, ...values: string[]): CravelError {
  const [sentence, mend] = (table[code] as Make)(...values);
  return new CravelError(code, sentence, mend);
}
