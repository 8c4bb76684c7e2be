/** Sites for tests: in memory, and on disk in a folder of their own. */
import { createHash } from 'node:crypto';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import type { TestContext } from 'node:test';
import { applyEdits } from '../../src/core/change/edit.ts';
import { type Check, type CheckOptions, startCheck } from '../../src/core/check/check.ts';
import type { Answer } from '../../src/core/judge/rule.ts';
import type { Finding, Mend, SiteReport } from '../../src/core/report.ts';
import { makeInventory } from '../../src/core/site/inventory.ts';
import { asWritten, type DiskPath } from '../../src/disk/disk-path.ts';

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
export function brokenIn(files: Files): SiteReport {
  const report = checkFiles(files);
  const isBroken = ({ grade }: { readonly grade: string }) => grade === 'broken';
  return { ...report, findings: report.findings.filter(isBroken), causes: report.causes.filter(isBroken) };
}

/**
 * Hands over what the check wants, and takes the bytes away again: it must keep nothing of them. Null for what nobody may
 * read.
 */
export function takeAll(check: Check, read: (path: string) => Uint8Array | null): readonly string[] {
  const { wanted } = check;
  for (const path of wanted) {
    const content = read(path);
    if (content === null) {
      check.skip(path, 'no right to read it');
      continue;
    }
    const bytes = new Uint8Array(content);
    check.take(path, bytes);
    bytes.fill(0);
  }
  return wanted;
}

/** Gives bytes that are good until the next are asked for, as files are read from a disk. */
export function oneAtATime(read: (path: string) => Uint8Array): (path: string) => Uint8Array {
  let memory = new Uint8Array(1 << 12);
  return (path) => {
    const bytes = read(path);
    if (bytes.length > memory.length) memory = new Uint8Array(bytes.length * 2);
    memory.fill(0);
    memory.set(bytes);
    return memory.subarray(0, bytes.length);
  };
}

/** What a check needs to know of the content of files that exist in memory only. */
export function contentOptions(read: (path: string) => Uint8Array): CheckOptions {
  return {
    headOf: read,
    digestOf: (path, algorithm) => createHash(algorithm).update(read(path)).digest('base64'),
  };
}

/** The texts that the starter of each site has in place of its own. */
export const samples = ['What comes first, in a few words.', 'What comes at last, é.'];

/** The report on a site that exists in memory only; other hosts give these answers, by address. */
export function checkFiles(
  files: Files,
  answers: ReadonlyMap<string, Answer> | null = null,
  options: Pick<CheckOptions, 'entry' | 'published' | 'libraries'> = {},
): SiteReport {
  const entries = Object.entries(files).map(([path, text]) => [path, contentFor(path, text)] as const);
  const content = new Map(entries);
  const inventory = makeInventory(content.keys());
  const check = startCheck(inventory, {
    ...contentOptions((path) => content.get(path) as Uint8Array),
    isOnline: answers !== null,
    samples,
    ...options,
  });
  takeAll(check, (path) => content.get(path) as Uint8Array);
  if (answers !== null) check.answer(answers);
  return check.report(
    'site',
    oneAtATime((path) => content.get(path) as Uint8Array),
  );
}

/** The site as it is after every edit of a finding's first mend. */
export function mended(files: Files, { mends: [mend] }: Finding): Files {
  return mend === undefined ? files : mendedBy(files, mend);
}

/** The site as it is after every edit of a mend; what is a text stays one. */
export function mendedBy(files: Files, { edits }: Mend): Files {
  const after: Record<string, string | Uint8Array> = { ...files };
  for (const path of new Set(edits.map(({ file }) => file))) {
    const content = files[path] ?? '';
    const own = edits.filter(({ file }) => file === path);
    const bytes = applyEdits(bytesOf(content), own);
    after[path] = typeof content === 'string' ? plainText.decode(bytes) : bytes;
  }
  return after;
}

const plainText = new TextDecoder('utf-8', { ignoreBOM: true });

/** True where a mend takes away one of `findings`, or one of what is found over and over. */
export function isSettled(
  files: Files,
  findings: readonly Finding[],
  finding: Finding,
  mend: Mend,
  options: Pick<CheckOptions, 'published' | 'libraries'> = {},
): boolean {
  const shown = ({ rule, file, message }: Finding) => `${rule} ${file} ${message}`;
  const amountIn = (all: readonly Finding[]) => all.filter((one) => shown(one) === shown(finding)).length;
  return amountIn(checkFiles(mendedBy(files, mend), null, options).findings) < amountIn(findings);
}

/** A new temporary folder that holds `files`, removed after the test. */
export function temporaryFolder(t: TestContext, files: Files = {}): DiskPath {
  const folder = asWritten(mkdtempSync(join(tmpdir(), 'cravel-test-')));
  t.after(() => rmSync(folder, { recursive: true, force: true }));
  for (const [path, content] of Object.entries(files)) {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), content);
  }
  return folder;
}
