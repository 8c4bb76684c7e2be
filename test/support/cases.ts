/**
 * Cases that stand in a text: what each is about, the files of a site, and what is said of it. A line of a case starts with
 * `=` (what it is about), `>` (what is said), `+` (of what else the test needs) or the path of a file, whose text follows.
 * `⏎` stands for a line end, `⟦3×x⟧` for `xxx`; a path with `(utf-16)` behind it for a file in that encoding.
 */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { projectFolder } from './program.ts';
import type { Files } from './site.ts';

export interface Case {
  readonly what: string;
  readonly files: Files;
  readonly said: readonly string[];
  readonly more: string;
}

/** The cases of `test/corpus/<name>.txt`. */
export function casesOf(name: string): readonly Case[] {
  const text = readFileSync(join(projectFolder, 'test/corpus', `${name}.txt`), 'utf8');
  return text
    .split(/^= /m)
    .slice(1)
    .map((one) => {
      const [what = '', ...lines] = one.trimEnd().split('\n');
      const starting = (mark: string) =>
        lines.flatMap((line) => (line.startsWith(mark) ? whole(line.slice(2)) : []));
      const files = lines.flatMap((line) => {
        const [, path, isWide, content] = /^([^=>+ ]\S*)( \(utf-16\))? ?(.*)$/.exec(line) ?? [];
        if (path === undefined) return [];
        const own = whole(content ?? '');
        return [[path, isWide ? new Uint8Array(Buffer.from(`\uFEFF${own}`, 'utf16le')) : own] as const];
      });
      return { what, files: Object.fromEntries(files), said: starting('> '), more: starting('+ ').join('') };
    });
}

function whole(line: string): string {
  const lines = line.replaceAll('⏎', '\n');
  return lines.replaceAll(/⟦(\d+)×(.*?)⟧/g, (_whole, times, text: string) => text.repeat(Number(times)));
}
