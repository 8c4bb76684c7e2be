/**
 * Takes the pictures in docs/screenshots from the demo data: commands in a real terminal, pages in the
 * bundled Chromium. The terminal ones need xvfb, xterm and imagemagick (Debian: apt-get install them).
 */
import { execFileSync, spawn } from 'node:child_process';
import { existsSync, mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { serve, startBrowser } from '../test/support/browser.ts';

const project = join(import.meta.dirname, '..');
const target = join(project, 'docs/screenshots');
const display = ':87';

/** Name of the picture, and what is typed at the prompt; the last screenful is what the picture shows. */
const terminals = [
  ['scaffold', ['cravel scaffold gullhaven-ferry --title "Gullhaven Ferry"', 'cravel check gullhaven-ferry']],
  ['check', ['cravel check mistaken --most 6']],
  ['demo', ['cravel demo try-cravel | head -45']],
  ['help', ['cravel --help', 'cravel check --help']],
] as const;

/** Name of the picture, the site, its page, width and colour scheme. */
const pages = [
  ['starter-folders', 'starter', '', 1280, 'light'],
  ['starter-folders-phone', 'starter', '', 390, 'dark'],
  ['gullhaven', 'sound', '', 1280, 'light'],
] as const;

// A fixed name, since it shows in the pictures.
const work = join(tmpdir(), 'ferry');
rmSync(work, { recursive: true, force: true });
mkdirSync(work);
mkdirSync(target, { recursive: true });
try {
  prepare();
  await photographTerminals();
  await photographPages();
} finally {
  rmSync(work, { recursive: true, force: true });
}

function prepare(): void {
  const run = (...args: string[]) =>
    execFileSync(process.execPath, [join(project, 'dist/cravel.js'), ...args], {
      cwd: work,
      stdio: 'ignore',
    });
  run('demo', 'demo');
  execFileSync('cp', ['-r', join(work, 'demo/gullhaven-ferry'), join(work, 'sound')]);
  execFileSync('cp', ['-r', join(work, 'demo/gullhaven-ferry-with-mistakes'), join(work, 'mistaken')]);
  run(
    'scaffold',
    'starter',
    '--title',
    'Gullhaven Ferry',
    '--set',
    'description=Over to the island, every hour, from two piers.',
  );
}

async function photographTerminals(): Promise<void> {
  const server = spawn('Xvfb', [display, '-screen', '0', '1280x800x24'], { stdio: 'ignore' });
  await sleep(1000);
  const env = { ...process.env, DISPLAY: display };
  try {
    for (const [name, lines] of terminals) {
      const ready = join(work, 'ready');
      rmSync(ready, { force: true });
      const typed = lines.map(
        (line) => `printf '\\e[1;32m$\\e[0m %s\\n' '${line}'; ${line.replace(/ 2>&1/, '')}; echo`,
      );
      const script = join(work, 'type.sh');
      // A pipe is no terminal: what is cut short for the picture is coloured as the terminal would be.
      writeFileSync(
        script,
        `cravel() { script -qec "${process.execPath} ${join(project, 'dist/cravel.js')} $(printf '%q ' "$@")" /dev/null; }\n` +
          `stty cols 104; cd ${work}\n${typed.join('\n')}\ntouch ${ready}\nsleep 30\n`,
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
      for (let tries = 0; tries < 100 && !existsSync(ready); tries++) await sleep(100);
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
    const page = await browser.newPage({ viewport: { width, height: width < 500 ? 844 : 800 }, colorScheme });
    await page.goto(server.address + path, { waitUntil: 'networkidle' });
    await page.screenshot({ path: join(target, `${name}.png`) });
    await page.close();
    server.close();
  }
  await browser.close();
}
