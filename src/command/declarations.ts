/** Every command with its arguments, options and examples. */
import { wireKinds } from '../core/page/wire-kinds.ts';
import type { Cut } from '../show/text.ts';
import { type Checked, choice, type Declaration, flag, list, text } from './declaration.ts';

/** How the text report may group findings, and in which formats a report may be. */
export const cuts = ['cause', 'file', 'spot'] as const satisfies readonly Cut[];
const formats = ['text', 'json', 'ndjson', 'sarif', 'junit', 'html'] as const;

const dir = text('<folder>', 'work from this folder instead of the current one');
const diff = flag('show what would change as a diff, write nothing');
const tree = flag('show the tree, write nothing');
const into = list('<globs>', 'only pages that match; parted by commas, may be repeated');
const yes = flag('ask nothing, not even at a terminal');

/** Of those that change files. */
const changing = {
  dir,
  takeOver: flag('go on although a run on another machine claims the folder'),
} as const;

export const scaffold = {
  usage: 'scaffold <folder>',
  about: 'lay out a new project from a starter',
  examples: [
    'cravel scaffold gullhaven-ferry',
    'cravel scaffold gullhaven-ferry --title "Gullhaven Ferry" --set author="Ida Holm"',
    'cravel scaffold gullhaven-ferry --starter pages --pages timetable,piers/north --dry-run',
    'cravel scaffold gullhaven-ferry --starter bare --set styles-file=styles/ferry.css',
  ],
  options: {
    starter: text('<name>', 'the starter to use: see them with cravel starters (unless said: folders)'),
    title: text('<text>', 'the title of the site'),
    set: list('<blank=value>', "fill one of the starter's blanks; may be repeated"),
    pages: list('<paths>', 'more pages to make, parted by commas'),
    pagesFrom: text('<file>', 'a YAML file with more pages, each with its path, title and description'),
    fillIn: flag('add what an existing folder lacks, and leave the rest alone'),
    yes,
    dryRun: tree,
    ...changing,
  },
} as const satisfies Declaration;

const starters = {
  usage: 'starters',
  about: 'list the starters, built in and your own, each with its tree',
  examples: ['cravel starters', 'cravel starters show pages'],
  options: {},
} as const satisfies Declaration;

export const showStarter = {
  usage: 'show <name>',
  about: 'show one starter: its tree, blanks and places',
  examples: ['cravel starters show pages'],
  options: {},
} as const satisfies Declaration;

export const keep = {
  usage: 'keep <folder> <name>',
  about: 'keep a project as a starter of your own',
  examples: [
    'cravel keep gullhaven-ferry small-line',
    'cravel keep gullhaven-ferry small-line --blank "Gullhaven Ferry=title"',
    'cravel keep gullhaven-ferry small-line --replace --dry-run',
  ],
  options: {
    blank: list('<text=blank>', 'turn a text into a blank, wherever a text file holds it; may be repeated'),
    summary: text('<text>', 'what the starter is, in a sentence'),
    replace: flag('put it in place of a starter of that name'),
    dryRun: tree,
    ...changing,
  },
} as const satisfies Declaration;

export const page = {
  usage: 'page <path...>',
  about: "add pages made from the starter's pattern, or like another page",
  examples: [
    'cravel page timetable',
    'cravel page timetable --title "Timetable of the ferry" --description "Every crossing." --in-nav',
    'cravel page piers/north piers/south --like fares.html',
  ],
  options: {
    like: text(
      '<page>',
      'make them like this page, its main content emptied; it may be one that leave-out names',
    ),
    title: list('<text>', 'the title; one for each page, in their order'),
    description: list('<text>', 'the description; one for each page, in their order'),
    inNav: flag('add a link to the navigation part on every page'),
    yes,
    dryRun: diff,
    ...changing,
  },
} as const satisfies Declaration;

export const parts = {
  usage: 'parts',
  about: 'copy each part from the entry page to every page that marks or lacks it',
  examples: [
    'cravel parts',
    'cravel parts --add navigation --from "header nav"',
    'cravel parts --into "piers/**" --dry-run',
  ],
  options: {
    add: text('<name>', 'mark an element of the entry page as a part of this name'),
    from: text('<selector>', 'the element to mark, as a CSS selector'),
    into,
    marked: flag('only pages that mark the part already'),
    replace: flag('put the part in place of an element that plays its role and differs'),
    dryRun: diff,
    ...changing,
  },
} as const satisfies Declaration;

export const wire = {
  usage: 'wire <file...>',
  about: 'reference files, or addresses of other hosts, from pages: at the right spot, in the right order',
  examples: [
    'cravel wire css/print.css',
    'cravel wire js/tides.js --into "timetable.html,piers/**"',
    'cravel wire js/map.js --before js/tides.js',
    'cravel wire https://cdn.gullhaven.example/tideclock.js --integrity sha384-…',
    'cravel wire --remove css/old.css',
  ],
  options: {
    into,
    kind: choice(
      '<kind>',
      wireKinds,
      'stylesheet, script, module, icon, manifest or font, where the name does not tell',
    ),
    before: text('<file>', 'right before what loads this file, on pages that do'),
    after: text('<file>', 'right after what loads this file, on pages that do'),
    integrity: {
      ...text('<value>', 'what browsers hold the file of another host to, such as sha384-…'),
      fits: {
        pattern: /^sha(?:256|384|512)-[A-Za-z0-9+/_-]+=*(?: sha(?:256|384|512)-[A-Za-z0-9+/_-]+=*)*$/,
        words: 'a digest such as sha384-…, or several parted by blanks',
      },
    },
    remove: flag('take the references out again'),
    dryRun: diff,
    ...changing,
  },
} as const satisfies Declaration;

export const adopt = {
  usage: 'adopt <source>',
  about: 'take in a library from a folder, .zip, .tgz, file or http(s) address',
  examples: [
    'cravel adopt ~/downloads/tideclock-2.3.1.zip --wire',
    'cravel adopt ../shared/buoys --as buoys --needs tideclock',
    'cravel adopt tideclock.min.js --instead-of https://cdn.gullhaven.example/tideclock.min.js',
    'cravel adopt --remove tideclock',
  ],
  options: {
    as: text('<name>', 'the short name of its folder (unless said: its own name without the version)'),
    wire: flag('reference it from pages, in order'),
    into: list('<globs>', 'with --wire: only pages that match; parted by commas'),
    insteadOf: list(
      '<address>',
      'put it in place of what this address holds, or where it ends in / of all below it; may be repeated',
    ),
    take: list('<globs>', 'which of its stylesheets and scripts pages load, in this order'),
    needs: list('<names>', 'libraries that must be loaded before it, parted by commas'),
    reach: text(
      '<folder>',
      'how high what comes along with a file may lie (unless said: in its own folder and below)',
    ),
    replace: flag('put it in place of the one that is there; what was edited or added since stays'),
    remove: flag('take the library of this name out again: what loads it, its files and its record'),
    mostFiles: {
      ...text('<number>', 'refuse sources with more files'),
      fits: { pattern: /^[1-9][0-9]{0,6}$/, words: 'a number from 1' },
      unlessSaid: '5000',
    },
    mostMegabytes: {
      ...text('<number>', 'refuse sources that hold more, unpacked'),
      fits: { pattern: /^[1-9][0-9]{0,5}$/, words: 'a number from 1' },
      unlessSaid: '200',
    },
    dryRun: diff,
    ...changing,
  },
} as const satisfies Declaration;

/** Of those that report findings. */
export const reporting = {
  as: {
    ...choice('<format>', formats, 'how to report: text, json, ndjson, sarif, junit or html'),
    unlessSaid: 'text',
  },
  by: choice('<cut>', cuts, 'how the text groups findings: cause (unless said), file or spot'),
  out: text('<file>', 'write the report to this file, as a whole or not at all'),
  most: {
    ...text('<causes>', 'how many causes the text shows: a number (25 unless said), or all'),
    fits: { pattern: /^(?:all|[1-9][0-9]{0,8})$/, words: 'a number from 1, or all' },
  },
  only: list('<names>', 'only findings of these grades or rules, parted by commas'),
  failOn: list('<names>', 'exit with 1 for these grades or rules (unless said: broken,fragile,misplaced)'),
} as const;

export const check = {
  usage: 'check [folders...]',
  about: 'read every file of a site, or of several, and report what does not hold',
  examples: [
    'cravel check',
    'cravel check gullhaven-ferry --only broken,fragile --most all',
    'cravel check gullhaven-ferry/piers',
    'cravel check gullhaven-ferry --as sarif --out report.sarif',
    'cravel check gullhaven-ferry --watch',
    'cravel check gullhaven-ferry --online',
  ],
  options: {
    ...reporting,
    online: flag('ask other hosts, too, for what the site refers to'),
    watch: flag('stay, and report again whenever a file changes'),
    dir,
  },
} as const satisfies Declaration;

export const mend = {
  usage: 'mend',
  about: 'make the mends that are sure, and with --guesses the others, as one change',
  examples: [
    'cravel mend --dry-run',
    'cravel mend',
    'cravel mend --only absent,letter-case',
    'cravel mend --guesses --only untidy',
  ],
  options: {
    guesses: flag('the other mends, too: at a terminal each is asked for'),
    only: list('<names>', 'only findings of these grades or rules, parted by commas'),
    yes: flag('with --guesses: ask nothing, and take the likeliest of each'),
    dryRun: diff,
    ...changing,
  },
} as const satisfies Declaration;

export const move = {
  usage: 'move [paths...]',
  about: 'rename or move files and folders, and make every reference to them and in them follow',
  examples: [
    'cravel move images/pier-final.jpg images/pier.jpg',
    'cravel move images pictures',
    'cravel move "*.svg" images/ --dry-run',
    'cravel move --safe-names',
    'cravel move --already css styles',
  ],
  options: {
    safeNames: flag('give every file and folder of an unsafe name its safe one'),
    already: flag('they were moved by other means: only make the references follow'),
    dryRun: diff,
    ...changing,
  },
} as const satisfies Declaration;

export const remove = {
  usage: 'remove <paths...>',
  about: 'take out files or pages with the references that cannot stand without them',
  examples: [
    'cravel remove css/old.css',
    'cravel remove piers/north.html --dry-run',
    'cravel remove images/raw --all-the-same',
  ],
  options: {
    allTheSame: flag('also where pages still show them: those references then lead nowhere'),
    dryRun: diff,
    ...changing,
  },
} as const satisfies Declaration;

export const bring = {
  usage: 'bring [paths...]',
  about: 'bring pages, stylesheets, libraries or other files from another project, with all that they load',
  examples: [
    'cravel bring fares.html --from ../old-ferry',
    'cravel bring lib/tideclock css/print.css --from ../old-ferry',
    'cravel bring footer --from ../old-ferry',
    'cravel bring --missing --from ../old-ferry',
  ],
  options: {
    from: text('<project>', 'the folder of the other project'),
    missing: flag('bring the files that references here name and that are not there'),
    dryRun: diff,
    ...changing,
  },
} as const satisfies Declaration;

export const lift = {
  usage: 'lift [spots...]',
  about: 'take long scripts and styles out of pages into files of their own, loaded at the same spot',
  examples: [
    'cravel lift --dry-run',
    'cravel lift index.html:12',
    'cravel lift timetable.html:40 fares.html:8',
  ],
  options: { dryRun: diff, ...changing },
} as const satisfies Declaration;

export const pack = {
  usage: 'pack',
  about: 'make the folder or the archive that gets published, where the check passes',
  examples: [
    'cravel pack --to ../published',
    'cravel pack --to ../site.zip --shrink --named-by-content',
    'cravel pack --to ../ferry.tar.gz --at https://gullhaven.example/ferry/',
    'cravel pack --to ../published --dry-run',
  ],
  options: {
    to: text(
      '<place>',
      'a folder, or a file that ends in .zip or .tar.gz (of a site with a folder of its own: dist)',
    ),
    at: text('<address>', 'make it for this address: what starts from the root of the host follows'),
    shrink: flag("write the site's own stylesheets and scripts without what only people need"),
    namedByContent: flag('name what pages load by its content, so that browsers may keep it for good'),
    onlyUsed: flag('leave out what nothing refers to'),
    with: list('<globs>', 'take sources, too, that match, such as "*.map"; parted by commas'),
    allTheSame: flag('also where the check fails'),
    replace: flag('put it in place of what Cravel did not put there, or what was changed there since'),
    dryRun: flag('tell what would be in it and what not, write nothing'),
    ...changing,
  },
} as const satisfies Declaration;

export const visit = {
  usage: 'visit [address]',
  about: 'ask the host of a published site for every file that was packed, and report what differs',
  examples: [
    'cravel visit https://gullhaven.example/ferry/',
    'cravel visit https://gullhaven.example/ --packed ../site.zip',
    'cravel visit --as junit --out visit.xml',
  ],
  options: {
    packed: text(
      '<place>',
      'the folder or archive that was published (unless said: the last that was packed)',
    ),
    ...reporting,
    again: flag('ask for everything again, also where an earlier visit was broken off'),
    dir,
  },
} as const satisfies Declaration;

export const map = {
  usage: 'map',
  about: 'draw the site: its pages by clicks from the entry, what each loads, and what nobody comes to',
  examples: ['cravel map --out site.svg', 'cravel map --as html --out site-map.html', 'cravel map --as dot'],
  options: {
    as: {
      ...choice('<format>', ['svg', 'html', 'dot', 'json'], 'svg, html, dot or json'),
      unlessSaid: 'svg',
    },
    out: text('<file>', 'write it to this file, as a whole or not at all'),
    dir,
  },
} as const satisfies Declaration;

export const release = {
  usage: 'release <what>',
  about:
    'have pages load the minified builds of libraries (on), the readable ones (off), or show which (show)',
  examples: ['cravel release show', 'cravel release on --dry-run', 'cravel release off'],
  options: { dryRun: diff, ...changing },
} as const satisfies Declaration;

export const undo = {
  usage: 'undo',
  about: 'take back the last change, and then the ones before it',
  examples: ['cravel undo', 'cravel undo --list', 'cravel undo --dry-run', 'cravel undo --finish'],
  options: {
    list: flag('list the changes that can be taken back, the last one first'),
    finish: flag('bring a change to its end that was broken off'),
    dryRun: diff,
    ...changing,
  },
} as const satisfies Declaration;

const asTextOrJson = { ...choice('<format>', ['text', 'json'], 'text or json'), unlessSaid: 'text' } as const;

export const who = {
  usage: 'who <path>',
  about: 'tell who refers to a file or a folder, and from where',
  examples: ['cravel who images/pier.svg', 'cravel who css/', 'cravel who js/tides.js --as json'],
  options: { as: asTextOrJson, dir },
} as const satisfies Declaration;

export const loads = {
  usage: 'loads <page>',
  about: 'list what a page loads, in order, and what its scripts need',
  examples: [
    'cravel loads index.html',
    'cravel loads piers/north.html --scripts',
    'cravel loads index.html --as svg > index.svg',
  ],
  options: {
    as: { ...choice('<format>', ['text', 'json', 'svg'], 'text, json or svg'), unlessSaid: 'text' },
    scripts: flag('only its scripts, each with the names that it makes and needs'),
    dir,
  },
} as const satisfies Declaration;

export const preview = {
  usage: 'preview [folder]',
  about: 'serve the site as a strict host would, and show each page at several widths with what took effect',
  examples: [
    'cravel preview',
    'cravel preview gullhaven-ferry --open',
    'cravel preview --port 4700',
    'cravel preview --on-network',
  ],
  options: {
    port: {
      ...text('<number>', 'the port of the deck; the site gets the next one (unless said: free ones)'),
      fits: { pattern: /^[1-9]\d{0,4}$/, words: 'a port, such as 4700' },
    },
    open: flag('open the deck in the browser'),
    onNetwork: flag('let a phone in the same network see the site, too, by an address that nobody guesses'),
    dir,
  },
} as const satisfies Declaration;

export const look = {
  usage: 'look [page...]',
  about: 'open pages in a real browser, and tell what did not load or did not take effect',
  examples: [
    'cravel look',
    'cravel look index.html piers/',
    'cravel look --pictures pictures',
    'cravel look --browser /usr/bin/chromium --as json',
  ],
  options: {
    browser: text(
      '<path>',
      'the Chromium to use, or one made from it (unless said: CRAVEL_BROWSER, or one that is found)',
    ),
    pictures: text('<folder>', 'write a picture of each page at each width there'),
    online: flag('ask other hosts, too, for what the pages name there'),
    as: asTextOrJson,
    dir,
  },
} as const satisfies Declaration;

const rules = {
  usage: 'rules [name]',
  about: 'list what the check finds, or explain one rule',
  examples: ['cravel rules', 'cravel rules from-root'],
  options: {},
} as const satisfies Declaration;

export const settings = {
  usage: 'settings',
  about: 'print the settings in force, and where each comes from',
  examples: ['cravel settings', 'cravel settings --dir gullhaven-ferry --as json'],
  options: {
    as: asTextOrJson,
    dir,
  },
} as const satisfies Declaration;

export const demo = {
  usage: 'demo [folder]',
  about:
    'lay out the Gullhaven Ferry site, plant mistakes in a copy, check both, mend the copy, and pack the site',
  examples: ['cravel demo', 'cravel demo try-cravel'],
  options: { dir },
} as const satisfies Declaration;

export const shells = ['bash', 'zsh', 'fish'] as const;

const completion = {
  usage: 'completion <shell>',
  about: 'make bash, zsh or fish complete commands and options',
  examples: [
    'cravel completion bash >> ~/.bashrc',
    'cravel completion fish > ~/.config/fish/completions/cravel.fish',
  ],
  options: {},
} as const satisfies Declaration;

/** In the order in which help lists them. */
export const declarations = {
  scaffold,
  starters,
  keep,
  page,
  parts,
  wire,
  adopt,
  check,
  mend,
  move,
  remove,
  bring,
  lift,
  undo,
  who,
  loads,
  map,
  preview,
  look,
  pack,
  visit,
  release,
  rules,
  settings,
  demo,
  completion,
} as const satisfies Readonly<Record<string, Declaration>>;

/** What all commands that change a project are asked. */
export type ChangeOptions = Checked<typeof changing & { readonly dryRun: typeof diff }>;
