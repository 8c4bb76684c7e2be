/** Sites for tests: in memory, and on disk in a folder of their own. */
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import type { TestContext } from 'node:test';
import { startCheck } from '../../src/core/check.ts';
import type { Finding, Report } from '../../src/core/report.ts';
import { makeInventory } from '../../src/core/site/inventory.ts';

export type Files = Readonly<Record<string, string | Uint8Array>>;

export const bytesOf = (content: string | Uint8Array) =>
  typeof content === 'string' ? new TextEncoder().encode(content) : content;

/** What stands in for the content of a file that a test says nothing of. */
const sound: Readonly<Record<string, string | Uint8Array>> = {
  svg: '<svg xmlns="http://www.w3.org/2000/svg"/>',
  png: Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
  mp4: 'xxxxftypisom',
};

function contentFor(path: string, content: string | Uint8Array): Uint8Array {
  return bytesOf(content === '' ? (sound[path.split('.').at(-1) ?? ''] ?? '') : content);
}

/** The same, but for what is not broken: sites in tests are seldom tidy. */
export function brokenIn(files: Files): Report {
  const report = checkFiles(files);
  return { ...report, findings: report.findings.filter(({ grade }) => grade === 'broken') };
}

/** The report on a site that exists in memory only. */
export function checkFiles(files: Files): Report {
  const entries = Object.entries(files).map(([path, text]) => [path, contentFor(path, text)] as const);
  const content = new Map(entries);
  const inventory = makeInventory(entries.map(([path, bytes]) => [path, bytes.length]));
  const check = startCheck(inventory, { headOf: (path) => content.get(path) as Uint8Array });
  for (const path of check.wanted) check.take(path, content.get(path) as Uint8Array);
  return check.report('site', (path) => content.get(path) as Uint8Array);
}

/** The site as it is after every edit of a finding's first mend. */
export function mended(files: Files, { mends }: Finding): Files {
  const after: Record<string, string | Uint8Array> = { ...files };
  for (const { file, offset, length, text } of mends[0]?.edits ?? []) {
    const bytes = bytesOf(after[file] ?? '');
    after[file] = new Uint8Array([
      ...bytes.subarray(0, offset),
      ...bytesOf(text),
      ...bytes.subarray(offset + length),
    ]);
  }
  return after;
}

/** A new temporary folder that holds `files`, removed after the test. */
export function temporaryFolder(t: TestContext, files: Files = {}): string {
  const folder = mkdtempSync(join(tmpdir(), 'cravel-test-'));
  t.after(() => rmSync(folder, { recursive: true, force: true }));
  for (const [path, content] of Object.entries(files)) {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), content);
  }
  return folder;
}
