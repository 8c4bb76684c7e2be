/**
 * Takes the pictures in docs/screenshots from the demo data: commands in a real terminal, pages in the
 * bundled Chromium. The terminal ones need xvfb, xterm and imagemagick (Debian: apt-get install them).
 */
import { execFileSync, spawn } from 'node:child_process';
import { existsSync, mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import sirv from 'sirv';
import { browserProgram, serve, startBrowser } from '../test/support/browser.ts';

const project = join(import.meta.dirname, '..');
const target = join(project, 'docs/screenshots');
const display = ':87';

interface Terminal {
  readonly name: string;
  /** What is typed at the prompt; the last screenful is what the picture shows. */
  readonly typed: readonly string[];
  /** What is answered when the first line asks. */
  readonly answers?: readonly string[];
}

const terminals: readonly Terminal[] = [
  {
    name: 'scaffold',
    typed: ['cravel scaffold gullhaven-ferry', 'cravel check gullhaven-ferry'],
    answers: ['', 'Gullhaven Ferry', 'Over to the island, every hour.', 'timetable,piers/north', 'y'],
  },
  {
    name: 'starters',
    typed: [
      'cravel starters show pages | head -16',
      'cravel keep sound small-line --blank "Gullhaven Ferry=title" --summary "A small line with two piers"',
    ],
  },
  {
    name: 'page',
    typed: [
      'cd starter',
      'cravel page piers/north --title "North pier" --description "How to find it." --in-nav',
      'grep -nE "title>|href|src" pages/piers/north.html',
    ],
  },
  {
    name: 'parts',
    typed: [
      'cd sound',
      'cravel parts --add header --from header.bar',
      'sed -i "s,>Boats</a>,>Our boats</a>," index.html',
      'cravel check',
      'cravel parts',
    ],
  },
  {
    name: 'wire',
    typed: [
      'cd starter',
      'echo "@media print { nav { display: none; } }" > css/print.css',
      'cravel wire css/print.css --into "index.html,pages/about.html" --dry-run',
      'cravel wire css/print.css',
    ],
  },
  {
    name: 'adopt',
    typed: [
      'cd starter',
      'cravel adopt ../downloads/buoys-2.0.1 --wire',
      'cravel adopt ../downloads/signal-flags-1.4.0 --wire',
      'tail -7 cravel.yaml',
    ],
  },
  { name: 'check', typed: ['cravel check mistaken --most 5'] },
  { name: 'look', typed: ['cd mistaken', 'cravel look index.html boats.html piers/south.html'] },
  {
    name: 'mend',
    typed: [
      'cd mistaken',
      'cravel mend --only beyond-site --dry-run',
      'cravel mend',
      'cravel check | tail -8',
    ],
  },
  {
    name: 'move',
    typed: [
      'cd sound',
      'cravel move piers docks/piers',
      'cravel move images/crossing.svg images/boat.svg',
      'cravel remove docks/piers/south.html',
      'cravel undo --list',
      'cravel undo',
    ],
  },
  {
    name: 'loads',
    typed: [
      'cd sound',
      'cravel loads index.html',
      'cravel loads timetable.html --scripts',
      'cravel who images/waves.svg',
    ],
  },
  {
    name: 'pack',
    typed: [
      'cd sound',
      'cravel pack --to ../packed --at http://127.0.0.1:4701/ferry/ --shrink --named-by-content',
      'cp -r ../packed ../published/ferry; cravel visit',
      'cd ../published/ferry; rm fares.html; sed -i "s,</body>,<script>count()</script></body>," index.html',
      'cravel visit --dir ../../sound',
    ],
  },
  { name: 'demo', typed: ['cravel demo try-cravel | tail -40'] },
];

const starters = ['flat', 'folders', 'assets', 'pages', 'source', 'stage'];

/** Name of the picture, the folder that is served, its page, width and colour scheme. */
const pages: readonly (readonly [string, string, string, number, 'light' | 'dark'])[] = [
  ...starters.map((name) => [`starter-${name}`, siteOf(name), '', 1280, 'light'] as const),
  ['report', 'report', '', 1280, 'light'],
  ['map', 'report', 'map.html', 1280, 'light'],
];

function siteOf(starter: string): string {
  return starter === 'source' ? 'starter-source/src' : `starter-${starter}`;
}

// A fixed name, since it shows in the pictures.
const work = join(tmpdir(), 'ferry');
rmSync(work, { recursive: true, force: true });
mkdirSync(work);
mkdirSync(target, { recursive: true });
try {
  prepare();
  await photographPages();
  await photographDeck();
  const host = createServer(sirv(join(work, 'published'), { dev: true })).listen(4701, '127.0.0.1');
  await photographTerminals();
  host.close();
} finally {
  rmSync(work, { recursive: true, force: true });
}

function prepare(): void {
  mkdirSync(join(work, 'report'));
  mkdirSync(join(work, 'published'));
  writeFileSync(join(work, 'published/index.html'), '<!doctype html>');
  const run = (...args: string[]) =>
    execFileSync(process.execPath, [join(project, 'dist/cravel.js'), ...args], {
      cwd: work,
      stdio: 'ignore',
    });
  run('demo', 'demo');
  execFileSync('cp', ['-r', join(work, 'demo/gullhaven-ferry'), join(work, 'sound')]);
  execFileSync('cp', ['-r', join(work, 'demo/gullhaven-ferry-with-mistakes'), join(work, 'mistaken')]);
  execFileSync('cp', ['-r', join(project, 'demo/downloads'), join(work, 'downloads')]);
  const words = [
    '--title',
    'Gullhaven Ferry',
    '--set',
    'description=Over to the island, every hour, from two piers.',
  ];
  try {
    run('check', 'mistaken', '--as', 'html', '--out', 'report/index.html');
  } catch {
    // A check with findings exits with 1.
  }
  run('map', '--as', 'html', '--out', 'report/map.html', '--dir', 'mistaken');
  for (const name of starters) run('scaffold', `starter-${name}`, '--starter', name, ...words);
  run('scaffold', 'starter', '--starter', 'pages', ...words);
}

async function photographTerminals(): Promise<void> {
  const server = spawn('Xvfb', [display, '-screen', '0', '1280x800x24'], { stdio: 'ignore' });
  await sleep(1000);
  const env = { ...process.env, DISPLAY: display };
  try {
    for (const { name, typed, answers = [] } of terminals) {
      const ready = join(work, 'ready');
      rmSync(ready, { force: true });
      const lines = typed.map((line, index) => {
        const shown = `printf '\\e[1;32m$\\e[0m %s\\n' '${line}'`;
        const feed =
          index === 0 && answers.length > 0
            ? `{ sleep 1.5; ${answers.map((answer) => `printf '${answer}\\r'; sleep 0.5`).join('; ')}; } | `
            : '';
        return `${shown}; ${feed}${line}; echo`;
      });
      const script = join(work, 'type.sh');
      // A pipe is no terminal: what is cut short for the picture is coloured as the terminal would be.
      writeFileSync(
        script,
        `cravel() { script -qec "${process.execPath} ${join(project, 'dist/cravel.js')} $(printf '%q ' "$@")" /dev/null; }\n` +
          `stty cols 104; cd ${work}\nexport HOME=${work}/home XDG_DATA_HOME= CRAVEL_BROWSER=${browserProgram}\n${lines.join('\n')}\ntouch ${ready}\nsleep 30\n`,
      );
      const terminal = spawn(
        'xterm',
        [
          '-geometry',
          '104x46+0+0',
          '-fa',
          'DejaVu Sans Mono',
          '-fs',
          '10',
          '-bg',
          '#12191c',
          '-fg',
          '#dfe7e5',
          '-e',
          'bash',
          script,
        ],
        { env, stdio: 'ignore' },
      );
      for (let tries = 0; tries < 200 && !existsSync(ready); tries++) await sleep(100);
      await sleep(500);
      execFileSync('import', ['-window', 'root', '-trim', '+repage', '-strip', join(target, `${name}.png`)], {
        env,
      });
      terminal.kill();
      await sleep(200);
    }
  } finally {
    server.kill();
  }
}

async function photographPages(): Promise<void> {
  const browser = await startBrowser();
  for (const [name, site, path, width, colorScheme] of pages) {
    const server = await serve(join(work, site));
    const page = await browser.newPage({ viewport: { width, height: 800 }, colorScheme });
    await page.goto(server.address + path, { waitUntil: 'networkidle' });
    if (name === 'map') await page.click('.spot[data-id="piers/north.html"]');
    await page.screenshot({ path: join(target, `${name}.png`) });
    await page.close();
    server.close();
  }
  await browser.close();
  // All starters on one sheet; the plainest of them by itself as well.
  onOneSheet('starter', '3x2', '420x263+6+6', 'starters-wide', ['folders']);
}

function onOneSheet(
  start: string,
  tile: string,
  geometry: string,
  name: string,
  kept: readonly string[],
): void {
  const pictures = starters.map((starter) => join(target, `${start}-${starter}.png`));
  execFileSync('montage', [
    ...pictures,
    '-tile',
    tile,
    '-geometry',
    geometry,
    '-background',
    '#8a9699',
    '-strip',
    join(target, `${name}.png`),
  ]);
  for (const [index, picture] of pictures.entries())
    if (!kept.includes(starters[index] as string)) rmSync(picture);
}

/** The deck on the site with mistakes, wide and on a phone in the dark. */
async function photographDeck(): Promise<void> {
  const program = spawn(
    process.execPath,
    [join(project, 'dist/cravel.js'), 'preview', 'mistaken', '--port', '4700'],
    {
      cwd: work,
      stdio: 'ignore',
    },
  );
  const browser = await startBrowser();
  try {
    await sleep(3000);
    for (const [name, width, height, colorScheme, tab] of [
      ['deck', 1280, 800, 'light', 'files'],
      ['deck-phone', 390, 844, 'dark', 'findings'],
    ] as const) {
      const page = await browser.newPage({ viewport: { width, height }, colorScheme });
      await page.goto('http://127.0.0.1:4700/');
      await page.click('button:has-text("timetable.html")');
      await page.click(`#tab-${tab}`);
      await sleep(4000);
      if (width < 500) await page.evaluate('scrollTo(0, 480)');
      await page.screenshot({ path: join(target, `${name}.png`) });
      await page.close();
    }
  } finally {
    await browser.close();
    program.kill();
  }
}
