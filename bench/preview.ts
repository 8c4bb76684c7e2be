/**
 * `npm run bench -- --preview`: how long a saved stylesheet takes to be on the screen, from the write to the browser's first
 * frame that has it, by the built program on sites of 1,000 and 10,000 pages. Needs the browser of the tests.
 */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { chromium } from 'playwright-core';

/** Saves of each site. */
const TIMES = 30;
const program = join(import.meta.dirname, '../../../dist/cravel.js');
const root = mkdtempSync(join(tmpdir(), 'cravel-bench-'));
process.on('exit', () => rmSync(root, { recursive: true, force: true }));

/** Where the browser of the tests was unpacked. */
const unpacked = readdirSync(import.meta.dirname).find((name) => name.startsWith('chromium-'));
const browser = await chromium.launch({
  executablePath: join(import.meta.dirname, unpacked ?? '', 'chromium'),
  args: ['--disable-background-networking'],
});
for (const amount of [1000, 10_000]) {
  const folder = layOut(amount);
  const preview = spawn(process.execPath, [program, 'preview', folder], {
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let told = '';
  for await (const text of preview.stdout) {
    told += text;
    if (/^site .*\n/m.test(told)) break;
  }
  await once(preview.stderr, 'data');
  const page = await browser.newPage();
  await page.goto(/^site +(\S+)$/m.exec(told)?.[1] as string);
  await setTimeout(1000);
  const times: number[] = [];
  for (let save = 1; save <= TIMES; save++) {
    const colour = `rgb(${save}, 2, 3)`;
    const seen = page.evaluate(
      `new Promise((done) => { const look = () => getComputedStyle(document.body).color === "${colour}" ? done(performance.timeOrigin + performance.now()) : requestAnimationFrame(look); look(); })`,
    );
    const start = performance.timeOrigin + performance.now();
    writeFileSync(join(folder, 'css/main.css'), `body { color: ${colour} }`);
    times.push(((await seen) as number) - start);
    // The look at the site that follows is no part of it.
    await setTimeout(400);
  }
  times.sort((one, other) => one - other);
  const at = (share: number) => `${Math.round(times[Math.floor((TIMES - 1) * share)] as number)} ms`;
  console.log(
    `${amount.toLocaleString('en').padStart(7)} pages: from the write to the new look ${at(0)} to ${at(1)}, half of them within ${at(0.5)} (at most 200)`,
  );
  await page.close();
  preview.kill();
}
await browser.close();

function layOut(amount: number): string {
  const folder = join(root, String(amount));
  mkdirSync(join(folder, 'css'), { recursive: true });
  writeFileSync(join(folder, 'css/main.css'), 'body { color: black }');
  for (let at = 0; at < amount; at++) {
    const inside = join(folder, `p${Math.floor(at / 100)}`);
    if (at % 100 === 0) mkdirSync(inside);
    const rows = Array.from(
      { length: 18 },
      (_none, row) =>
        `<p>The ferry sails at eight. <a href="../p${Math.floor(((at + row) % amount) / 100)}/${(at + row) % amount}.html">x</a></p>\n`,
    );
    const page = `<!doctype html><html lang="en"><meta charset="utf-8"><title>Page ${at}</title><link rel="stylesheet" href="../css/main.css">\n${rows.join('')}`;
    writeFileSync(join(inside, `${at}.html`), page);
  }
  writeFileSync(
    join(folder, 'index.html'),
    '<!doctype html><html lang="en"><meta charset="utf-8"><title>Home</title><link rel="stylesheet" href="css/main.css"><a href="p0/1.html">x</a>',
  );
  return folder;
}
