/**
 * `npm run bench -- --changes`: what moving, packing and mending cost, as multiples of a cold check of the same site by the built
 * program: a folder that 10,000 pages use is moved, and 20,000 findings are mended. A number after `=` makes another
 * amount of pages.
 */
import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const [, given] = process.argv.find((word) => word.startsWith('--changes'))?.split('=') ?? [];
const amount = Number(given ?? 10_000);
const program = join(import.meta.dirname, '../../../dist/cravel.js');
const root = mkdtempSync(join(tmpdir(), 'cravel-bench-'));
process.on('exit', () => rmSync(root, { recursive: true, force: true }));

const sound = layOut('sound', 'images/');
const mistaken = layOut('mistaken', 'image/');

const checked = timed('check', sound);
const moved = timed('move', sound, 'images', 'pictures');
timed('undo', sound);
const packed = timed('pack', sound, '--to', join(root, 'packed'), '--all-the-same');
const first = timed('check', mistaken);
const mended = timed('mend', mistaken);
console.log(`${amount.toLocaleString('en')} pages`);
tell('a cold check', checked, checked);
tell('move of a folder that all use (at most 2.5)', moved, checked);
tell('pack (at most 3)', packed, checked);
tell('a cold check of the site with mistakes', first, first);
tell(`mend of ${(amount * 2).toLocaleString('en')} findings (at most 3)`, mended, first);

function tell(what: string, time: number, unit: number): void {
  console.log(
    `  ${what.padEnd(48)} ${time.toFixed(2).padStart(7)} s  ${(time / unit).toFixed(2)} × a cold check`,
  );
}

/** Pages of some 6 kB with 40 references each, in folders of a hundred. */
function layOut(name: string, images: string): string {
  const folder = join(root, name);
  mkdirSync(join(folder, 'images'), { recursive: true });
  mkdirSync(join(folder, 'css'));
  writeFileSync(join(folder, 'css/main.css'), 'b { color: red }');
  for (let at = 0; at < 20; at++)
    writeFileSync(join(folder, `images/p${at}.svg`), '<svg xmlns="http://www.w3.org/2000/svg"/>');
  const words = 'The ferry sails at eight, whatever the tide says. '.repeat(3);
  for (let at = 0; at < amount; at++) {
    const inside = `p${Math.floor(at / 100)}`;
    if (at % 100 === 0) mkdirSync(join(folder, inside));
    const rows = Array.from({ length: 18 }, (_none, row) => {
      const other = (at * 7 + row) % amount;
      return `<p>${words}<a href="../p${Math.floor(other / 100)}/${other}.html">x</a> <img src="../images/p${row}.svg" alt="">\n`;
    });
    writeFileSync(
      join(folder, at === 0 ? 'index.html' : `${inside}/${at}.html`),
      `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Page ${at}</title><meta name="description" content="Page ${at}."><link rel="stylesheet" href="../css/main.css">\n${rows.join('')}<img src="../${images}p18.svg" alt=""><img src="../${images}p19.svg" alt="">\n`,
    );
  }
  return folder;
}

/** Seconds that a call takes. */
function timed(command: string, folder: string, ...args: readonly string[]): number {
  const started = performance.now();
  const where = command === 'check' ? [folder] : ['--dir', folder];
  const { status, stderr } = spawnSync(process.execPath, [program, command, ...args, ...where], {
    encoding: 'utf8',
    env: { ...process.env, XDG_STATE_HOME: join(root, 'state') },
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  if (status === null || status > 1) throw new Error(`${command}: ${stderr}`);
  return (performance.now() - started) / 1000;
}
