/** Every error that a person can see: its code, its sentence, and the mend, listed together. */

/** An error in the call or the input, with what to do about it. Exit code 2. */
export class CravelError extends Error {
  override readonly name = 'CravelError';
  constructor(
    readonly code: string,
    /** What is wrong: one sentence, or one for each line of a file. */
    readonly sentences: readonly string[],
    readonly mend: string,
  ) {
    super([...sentences, mend].join('\n'));
  }
}

type Make = (...values: string[]) => readonly [sentence: string, mend: string];

const table = {
  'no-folder': (folder) => [
    `There is no folder ${folder}.`,
    'Check the spelling, or run cravel scaffold to make one.',
  ],
  'not-a-folder': (path) => [`${path} is a file, not a folder.`, 'Name the folder that holds the site.'],
  'not-empty': (folder, files) => [
    `${folder} already has ${files}; nothing was written.`,
    'Choose another folder.',
  ],
  'no-folder-there': (path) => [`${path} is a file; nothing was written.`, 'Choose another folder.'],
  'no-temporary-folder': (path, reason) => [
    `The folder for temporary files, ${path}, cannot be used: ${reason}.`,
    'Set TMPDIR to one that can, or name a folder: cravel demo <folder>',
  ],
  'empty-folder': (folder) => [
    `The folder ${folder} has no files.`,
    'Lay out a project first: cravel scaffold <folder>',
  ],
  'no-pages': (folder, files) => [
    `The folder ${folder} has ${files}, but no page (.html, .htm or .xhtml).`,
    'Name the folder that gets published, for example: cravel check site',
  ],
  'nothing-of-site': (folder, project) => [
    `Nothing in ${folder} is part of the site that ${project}/cravel.yaml describes.`,
    'See what it leaves out: cravel settings',
  ],
  'port-taken': (port, reason) => [
    `The preview cannot listen at port ${port}: ${reason}.`,
    'Choose another one with --port, or leave it out for a free one.',
  ],
  'no-browser': (tried) => [
    `No browser is found: there is none ${tried}.`,
    'Install Chromium, or name one with --browser <path> or CRAVEL_BROWSER.',
  ],
  'browser-fails': (browser, reason) => [
    `The browser ${browser} cannot be used: ${reason}.`,
    'Name another one with --browser <path>: Chromium, or one that is made from it.',
  ],
  'no-network': () => [
    'This machine is in no network that a phone could be in, too.',
    'Join one, or leave out --on-network.',
  ],
  'pack-where': () => [
    'Where is the copy to go that gets published?',
    'Say so: cravel pack --to ../published, or --to ../site.zip',
  ],
  'visit-where': () => [
    'Which address is the site published at?',
    'Name it: cravel visit https://gullhaven.example/ferry/, or write published-at in cravel.yaml',
  ],
  'host-silent': (address, reason) => [
    `The host of ${address} could not be asked: ${reason}.`,
    'Check the address and the network, and call again.',
  ],
  'no-web-address': (address) => [
    `${address} is no address of a web site.`,
    'Write it with its scheme, such as https://gullhaven.example/ferry/',
  ],
  'no-packed': (place) => [
    `There is no folder and no .zip or .tar.gz at ${place}.`,
    'Name what was published: cravel visit <address> --packed ../site.zip',
  ],
  'no-such-archive': (path) => [
    `${path} is called as an archive that Cravel does not write.`,
    'It writes folders, .zip and .tar.gz: cravel pack --to ../site.zip',
  ],
  'packs-into-itself': (path) => [
    `${path} lies in the site: the copy would be part of what it is made from.`,
    'Choose a place outside of it, for example: cravel pack --to ../published',
  ],
  'packs-over-project': (path) => [
    `${path} holds the project; nothing was written.`,
    'Choose a place outside of it, for example: cravel pack --to ../published',
  ],
  'pack-target-kind': (path, what) => [
    `${path} is ${what}; nothing was written.`,
    'Choose another place, or take away what stands there.',
  ],
  'pack-over-repository': (path) => [
    `${path} is a repository of its own: what it remembers would be lost; nothing was written.`,
    'Pack to another folder, and copy from there.',
  ],
  'not-packed-there': (path) => [
    `${path} is there already, and Cravel did not put it there; nothing was written.`,
    'Choose another place, or let it be replaced as a whole: --replace',
  ],
  'changed-where-packed': (path, what) => [
    `In ${path} something was changed since it was packed: ${what}; nothing was written.`,
    'Save what you want to keep, then let it be replaced as a whole: --replace',
  ],
  'pack-links-out': (links) => [
    `These links lead out of the site, and what they lead to is not its own: ${links}. Nothing was packed.`,
    'Put copies in their places, or name them under leave-out in cravel.yaml.',
  ],
  'pack-names': (names) => [
    `An archive with these names could not be unpacked everywhere: ${names}. Nothing was packed.`,
    'Give them safe names first: cravel move --safe-names',
  ],
  'pack-unread': (amount) => [
    `What could not be read cannot be packed (${amount}); nothing was written.`,
    'See which, and why: cravel check',
  ],
  'bad-place': (written) => [
    `${written} is no address that a site can be published at.`,
    'Write https://gullhaven.example/ferry/, or the path alone: /ferry/',
  ],
  'one-at-a-time': (folders) => [
    `Only one site can be watched at a time, and these are several: ${folders}.`,
    'Name one folder.',
  ],
  system: (path, reason) => [`${path}: ${reason}.`, 'Put that right, and call again.'],
  refused: (path, reason) => [`${path}: ${reason}.`, 'Nothing was written.'],
  'no-file-there': (path) => [
    `${path} is no file that can be read.`,
    'Put a file there, or take away what stands there.',
  ],
  'cut-short': (reason) => [
    `What was to be shown did not arrive whole: ${reason}.`,
    'Make room there, or send it elsewhere, and call again.',
  ],
  locked: (folder, owner) => [
    `Another run of cravel is changing ${folder} (${owner}).`,
    'Wait until it is done, and call again.',
  ],
  'locked-elsewhere': (folder, owner) => [
    `Another run of cravel is changing ${folder} (${owner}).`,
    'Wait until it is done. If you know that it is gone for good, call again with: --take-over',
  ],
  'workshop-taken': (root) => [
    `In ${root} stands a .cravel that is not the folder Cravel works in.`,
    'Nothing was written: move it away, and call again.',
  ],
  'bad-change': (file) => [
    `${file} does not say what Cravel writes there.`,
    'Nothing was touched. Look at the files beside it, then remove their folder.',
  ],
  'not-begun': (title) => [
    `The change that stands unfinished (${title}) had not begun to change anything.`,
    'There is nothing to finish: call that command again.',
  ],
  'changed-since': (path, amount) => [
    `${path}${amount === '1' ? ' was' : ` and ${Number(amount) - 1} more files were`} changed since by somebody else; nothing was written.`,
    'What they were before is kept: put them back as they were, or mend by hand what you do not want.',
  ],
  'nothing-to-undo': (folder) => [
    `No change of cravel to ${folder} is kept that could be taken back.`,
    'See what is kept with: cravel undo --list',
  ],
  'nothing-to-finish': (folder) => [
    `No change stands unfinished in ${folder}.`,
    'To take back the last change that came to its end: cravel undo',
  ],
  unfinished: (folder, title) => [
    `In ${folder} a change stands unfinished (${title}).`,
    'Call that command again, or another one that changes the project: it is taken back first.',
  ],
  swallowed: (page, element) => [
    `${page} ends inside of <${element}>, which is never closed: all that follows is swallowed by it.`,
    `Nothing was written: close it first, with </${element}>.`,
  ],
  'out-of-the-way': (path, amount) => [
    `The way to ${path} turned into another one while files there were being replaced; what was written (files: ${amount}) cannot be taken back from here.`,
    'Put the folder back and call any command that changes the project: it is taken back first.',
  ],
  'leads-out': (path) => [
    `${path} leads out of the folder that it is to lie in.`,
    'Nothing was read or written there: name what lies inside.',
  ],
  'leads-nowhere': (path) => [
    `${path} is a link that leads nowhere.`,
    'Nothing was written: mend the link or take it away.',
  ],
  'changed-meanwhile': (path) => [
    `${path} was changed by somebody else while this was being worked out.`,
    'Nothing was written: call again.',
  ],
  outside: (path) => [
    `${path} lies outside of the project, behind a link.`,
    'Nothing was written: put the file itself in place of the link.',
  ],
  'one-file': (path, link) => [
    `${path} and ${link} are one file, by a link.`,
    'Nothing was written: take the link out, or name the pages with --into.',
  ],
  'not-utf8': (path) => [`${path} is not written in UTF-8.`, 'Save it as UTF-8.'],
  'read-only': (path) => [
    `${path} is marked read-only.`,
    'Nothing was written: allow writing to it, or leave it out.',
  ],
  'several-names': (path) => [
    `${path} is one file under several names (hard links).`,
    'Nothing was written: make it a file of its own, by copying it over itself, or leave it out.',
  ],
  'watched-format': (format) => [
    `A report as ${format} cannot be drawn over and over.`,
    'Write it to a file, which is then kept up to date: --out <file>',
  ],
  unlisted: (path, reason) => [`${path}: ${reason}.`, 'Nothing was checked.'],
  'unknown-starter': (name, known) => [`There is no starter named ${name}.`, `Choose one of: ${known}.`],
  'unsafe-name': (name, safe) => [
    `${name} is not a safe name: use small letters, digits and dashes only, and no name that Windows keeps for itself.`,
    safe === '' ? 'Choose a name such as: my-site' : `Use this name instead: ${safe}`,
  ],
  'in-the-way': (folder, files) => [
    `${folder} already has ${files}; nothing was written.`,
    'Choose another folder, or add only what is missing with: --fill-in',
  ],
  'two-files': (path) => [
    `Two files of the starter would go to ${path}; nothing was written.`,
    'Give each a place of its own, for example with: --set styles-file=css/main.css',
  ],
  'unknown-blank': (name, known) => [`This starter has no blank named ${name}.`, `Its blanks are: ${known}.`],
  'bad-blank': (name, value, hint) => [`${name} cannot be "${value}".`, hint],
  'bad-set': (text) => [`--set ${text} has no equals sign.`, 'Write it as: --set author="Gullhaven Ferry"'],
  manifest: (place, problem, mend) => [located(place, problem), mend],
  'bad-selector': (selector, problem) => [
    `${selector} is not a CSS selector: ${problem}.`,
    'Write it as in a stylesheet, for example: nav, #menu or footer.foot',
  ],
  'bad-part': (place, problem, mend) => [`${place}: ${problem}.`, mend],
  'bad-name': (name, what) => [`${name} is no name for a ${what}.`, 'Use small letters, digits and dashes.'],
  'page-there': (file) => [`There is a page ${file} already; nothing was written.`, 'Choose another path.'],
  'no-page': (file, near) => [
    `There is no page ${file}.`,
    near === '' ? 'Name a page by its path from the site folder.' : `Did you mean: ${near}?`,
  ],
  'no-file': (file, near) => [
    `There is no file ${file} in the site.`,
    near === '' ? 'Name a file by its path from the site folder.' : `Did you mean: ${near}?`,
  ],
  'move-where': () => [
    'What is to be moved, and where to, must both be named.',
    'Write it as: cravel move images/old.svg images/new.svg, or: cravel move a.svg b.svg images/',
  ],
  'move-names-itself': () => [
    '--safe-names finds the files itself, and others were named.',
    'Call with --safe-names alone, or name a file and its new name.',
  ],
  'move-root': (path) => [`${path} is the site itself.`, 'Name files or folders in it.'],
  'move-link': (path) => [
    `${path} is a link, or no plain file: where it leads would not follow.`,
    'Nothing was written: move it by hand, then call again.',
  ],
  'move-onto': (path) => [
    `${path} is there already; nothing was written.`,
    'Choose another name, or remove that one first.',
  ],
  'move-unnamed': (path, extension) => [
    `There is no folder ${path}, and a file of that name would no longer end in .${extension}.`,
    `Nothing was written: write ${path}/ for a folder to move into, or ${path}.${extension} for a new name.`,
  ],
  'move-into-itself': (from, to) => [`${to} lies in ${from}; nothing was written.`, 'Choose another folder.'],
  'move-twice': (path) => [
    `Several would become ${path}; nothing was written.`,
    'Move them one by one, each to a name of its own.',
  ],
  'outside-site': (path) => [
    `${path} lies outside of the site.`,
    'Nothing was written: name a path in the site folder.',
  ],
  'still-there': (path) => [
    `${path} is still there; --already is for what was moved by other means.`,
    'To move it now, call without --already.',
  ],
  'still-shown': (path, spots) => [
    `${path} is still shown: ${spots}.`,
    'Nothing was written: take it out there first, or remove it all the same with: --all-the-same',
  ],
  'no-spot': (spot) => [
    `${spot} does not say which code is to be lifted.`,
    'Write the page and a line of the script or style, for example: cravel lift index.html:12',
  ],
  'no-code-there': (spot) => [
    `At ${spot} stands no script and no style of a page that could be lifted.`,
    'Name a line of it, in a page that is written in UTF-8.',
  ],
  'bring-from': () => [
    'Where the files are to come from is not said.',
    'Name the folder of the other project: --from ../old-ferry',
  ],
  'bring-what': () => [
    'What is to be brought is not said, or said twice.',
    'Name files of the other project, or let --missing find what references here name.',
  ],
  'bring-clash': (other, own) => [
    `${other} would become ${own}, and that is another file.`,
    'Nothing was written: rename one of them with cravel move, or remove the one that is not needed.',
  ],
  'not-in-project': (path, project, near) => [
    `There is no ${path} in ${project}.`,
    near === '' ? 'Name a file by its path from the site folder there.' : `Did you mean: ${near}?`,
  ],
  'no-terminal': () => [
    '--guesses asks which of several is meant, and there is no terminal to ask at.',
    'Look at them with: cravel check. To take the likeliest of each: --guesses --yes',
  ],
  'two-ways': (one, other) => [`${one} and ${other} were both given.`, 'Choose one of them.'],
  'two-sides': () => ['--before and --after were both given.', 'Choose one of them.'],
  'no-side': () => [
    '--before and --after say where a reference goes, and --remove takes it out.',
    'Leave one of them away.',
  ],
  'far-base': (file) => [
    `The addresses of ${file} start on another host, by its base element.`,
    'Make the page like another one: --like <page>',
  ],
  'no-entry-page': (file) => [
    `There is no entry page ${file}.`,
    'Name the entry page in cravel.yaml (entry: home.html), or the project folder with: --dir',
  ],
  'no-navigation': (entry) => [
    `${entry} marks no navigation for --in-nav to add to.`,
    'Mark it first, for example: cravel parts --add navigation --from nav',
  ],
  'no-part': (name, known) => [
    `The entry page marks no part named ${name}.`,
    known === '' ? 'Mark one: cravel parts --add navigation --from nav' : `Its parts are: ${known}.`,
  ],
  'part-there': (name) => [`The entry page has a part ${name} already.`, 'Call cravel parts to copy it.'],
  'no-match': (selector, page) => [
    `Nothing in ${page} matches ${selector}.`,
    'Look at the page, and write the selector as in a stylesheet.',
  ],
  'many-matches': (selector, page, amount) => [
    `${selector} matches ${amount} elements of ${page}; a part is one.`,
    'Narrow the selector, for example: header nav',
  ],
  'no-kind': (file) => [
    `How ${file} is loaded cannot be told by its name.`,
    'Say it with: --kind stylesheet, script, module, icon, manifest or font',
  ],
  'no-pages-match': (globs) => [
    `No page matches ${globs}.`,
    'Patterns start from the site folder, for example: --into "piers/**"',
  ],
  'no-files-match': (glob) => [
    `No file matches ${glob}.`,
    'Patterns start from the site folder, for example: "images/*.svg"',
  ],
  'empty-glob': () => ['The pattern after --into is empty.', 'Write one, for example: --into "piers/**"'],
  'bad-glob': (glob) => [
    `${glob} is no pattern that can be matched.`,
    'Write it with *, **, ?, [abc] and {a,b}, for example: "piers/**"',
  ],
  'more-titles': (titles, pages) => [
    `There are ${titles} for ${pages}.`,
    'Give one --title and one --description for each page, in the order of the pages, or none.',
  ],
  'starter-there': (name) => [
    `There is a starter ${name} already; nothing was written.`,
    'Choose another name, or put the new one in its place with: --replace',
  ],
  'starter-built-in': (name) => [`${name} is a starter that comes with Cravel.`, 'Choose another name.'],
  'bad-blank-option': (text) => [
    `--blank ${text} does not say which text becomes which blank.`,
    'Write it as: --blank "Gullhaven Ferry=title"',
  ],
  'text-absent': (text) => [
    `None of the project's text files holds "${text}".`,
    'Write the text exactly as it stands in the files.',
  ],
  'nothing-kept': (folder) => [`${folder} has no file to keep.`, 'Name the folder of the project.'],
  'library-there': (name, folder) => [
    `There is a library ${name} already, in ${folder}; nothing was written.`,
    'Choose another name with --as, or put the new one in its place with: --replace',
  ],
  'no-source': (source) => [
    `There is nothing at ${source}.`,
    'Name a folder, a .zip, .tgz or .tar archive, a file, or an http(s) address.',
  ],
  'out-of-reach': (source, reach) => [
    `${source} does not lie in ${reach}.`,
    'Name a folder around it: --reach <folder>',
  ],
  'no-library': (source) => [
    `There is no stylesheet and no script in ${source} to take.`,
    'Name the folder inside it that holds them, or what to take with: --take "dist/**"',
  ],
  'no-build': (source) => [
    `No script in ${source} runs in a browser: they are written for servers, or to be bundled.`,
    'Look for a build for browsers, often in a folder dist, or say what to take with: --take "lib/*.js"',
  ],
  'bad-archive': (source, problem) => [
    `${source}: ${problem}.`,
    'Nothing was taken. Download it again, or unpack it yourself and name the folder.',
  ],
  'too-large': (source, what, option) => [
    `${source} ${what}; nothing was taken.`,
    `If you trust it, allow more with: ${option}`,
  ],
  'too-slow': (address) => [
    `Fetching all that belongs to it took longer than five minutes, and was given up at ${address}; nothing was taken.`,
    'Download it in a browser, and name the file or the folder.',
  ],
  'broken-off': (address, reason) => [
    `${address} could not be fetched: ${reason}.`,
    'Nothing was taken. Try again, or download it in a browser, and name the file.',
  ],
  'not-fetched': (address, reason) => [
    `${address} could not be fetched: ${reason}.`,
    'Nothing was taken. Look at the address in a browser, download it there, and name the file.',
  ],
  'address-absent': (address) => [
    `No page, stylesheet or script refers to ${address}.`,
    'Copy the address from the page; without the last part, ending in /, it stands for all below it.',
  ],
  'no-counterpart': (address, files) => [
    `None of the library's files is plainly the one at ${address}.`,
    `It has: ${files}. Take in the file itself with another --as, or wire it by hand.`,
  ],
  'no-need': (name, known) => [
    `There is no library named ${name} to need.`,
    known === '' ? 'Adopt that one first.' : `Adopt that one first. There are: ${known}.`,
  ],
  'no-such-library': (name, known) => [
    `There is no library named ${name} in cravel.yaml; nothing was taken out.`,
    known === '' ? 'It records no library.' : `Is it one of these: ${known}?`,
  ],
  'needed-library': (name, needing) => [
    `${name} is needed by ${needing}; nothing was taken out.`,
    `Take out ${needing} first, or take ${name} off its needs in cravel.yaml.`,
  ],
  'remove-alone': (option) => [
    `${option} says how a library comes in, and --remove takes one out.`,
    'Call with --remove and the name of the library alone.',
  ],
  'not-answered': () => ['The questions were broken off; nothing was written.', 'Call again.'],
  'unknown-rule': (name, near) => [
    `There is no grade and no rule named ${name}.`,
    near === ''
      ? 'Grades are broken, fragile, misplaced and untidy; see the rules with: cravel rules'
      : `Did you mean: ${near}?`,
  ],
  'own-integrity': (file) => [
    `${file} lies in the site, and needs no integrity value: --integrity is for files of other hosts.`,
    'Call again without it, or wire the address on the other host.',
  ],
  'no-shell': (shell, known) => [`${shell} is no shell that can be helped.`, `There are: ${known}.`],
  'no-such-switch': (what) => [
    `A release is on, off or shown, and not ${what}.`,
    'Call: cravel release on, off or show',
  ],
  'bad-option': (option, problem) => [`${option} ${problem}.`, 'See the options with: --help'],
} satisfies Record<string, Make>;

type Table = typeof table;

/** The error of a code, with the values that its sentence holds. */
export function fail<Code extends keyof Table>(code: Code, ...values: Parameters<Table[Code]>): CravelError {
  const [sentence, mend] = (table[code] as Make)(...values);
  return new CravelError(code, [sentence], mend);
}

/** One error for all that is wrong in a file: each problem with its place. */
export function failAt(problems: readonly (readonly [place: string, problem: string])[]): CravelError {
  const sentences = problems.map(([place, problem]) => located(place, problem));
  const mend = problems.length === 1 ? 'Correct that line.' : 'Correct these lines.';
  return new CravelError('manifest', sentences, mend);
}

function located(place: string, problem: string): string {
  return `${place}: ${problem}${problem.endsWith('?') ? '' : '.'}`;
}
