/**
 * `npm run adopted -- <folder>`: takes in every archive of the folder as `cravel adopt … --wire` does, each into a project
 * of its own with what it needs of the others, and opens the page in the bundled Chromium: nothing may be thrown, nothing
 * may be missing. A folder of packages from a registry makes a good one.
 */
import { mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { servePlainly, startBrowser } from '../test/support/browser.ts';
import { cravel } from '../test/support/program.ts';

const [folder] = process.argv.slice(2);
if (folder === undefined) {
  console.error('Name a folder of archives: npm run adopted -- <folder>');
  process.exit(2);
}
const archives = readdirSync(folder).filter((name) => /\.(?:tgz|zip|tar)$/.test(name));
const root = mkdtempSync(join(tmpdir(), 'cravel-adopted-'));
const browser = await startBrowser();
let faulty = 0;
for (const archive of archives) {
  const site = join(root, archive);
  mkdirSync(site);
  const told = adopt(site, archive);
  const faults = told.code === 0 ? await faultsOf(site) : [];
  if (faults.length > 0) faulty++;
  console.log([archive, ...told.notes, ...faults.map((fault) => `FAULT ${fault}`)].join('\n    '));
  rmSync(site, { recursive: true });
}
await browser.close();
rmSync(root, { recursive: true });
console.log(`\n${archives.length} archives, ${faulty} with faults.`);
process.exit(faulty > 0 ? 1 : 0);

/** Takes in an archive; what it lacks is taken in first, where an archive is called like that. */
function adopt(site: string, archive: string): { code: number | null; notes: string[] } {
  writeFileSync(
    join(site, 'index.html'),
    '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Ferry</title></head><body><p>Tides</p></body></html>',
  );
  const take = (name: string, ...more: string[]) =>
    cravel(site, 'adopt', join(folder as string, name), '--wire', ...more);
  let outcome = take(archive);
  const [, lacking] = /^It needs (.*), which no library/m.exec(outcome.stderr) ?? [];
  const bases = (lacking?.split(', ') ?? []).flatMap((name) => {
    const isOf = (other: string) => other.toLowerCase().replace(/-\d.*$/, '') === name.toLowerCase();
    return archives.find(isOf) ?? [];
  });
  if (bases.length > 0) {
    for (const base of bases) take(base);
    outcome = take(archive, '--replace');
  }
  const notes = outcome.stderr.split('\n').filter((line) => /^(?:Pages load|It needs|No |There )/.test(line));
  return { code: outcome.code, notes };
}

async function faultsOf(site: string): Promise<string[]> {
  const server = await servePlainly(site);
  const page = await browser.newPage();
  const faults: string[] = [];
  page.on('pageerror', (error) => faults.push(`${error.name}: ${error.message}`));
  page.on('response', (response) => {
    const isOwn = response.url().startsWith(server.address);
    if (isOwn && response.status() >= 400) faults.push(`${response.status()} ${response.url()}`);
  });
  await page.route(
    (url) => !url.href.startsWith(server.address),
    (route) => route.abort(),
  );
  await page.goto(server.address, { waitUntil: 'load' });
  await page.waitForTimeout(200);
  await page.close();
  server.close();
  return faults;
}
