/** Every reader, fed with what is nearly right: it reads it, or says what is wrong, the same each time. */
import assert from 'node:assert/strict';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import fc from 'fast-check';
import { CravelError } from '../../src/core/errors.ts';
import { Allowance } from '../../src/core/library/allowance.ts';
import { loadOrder } from '../../src/core/order/order.ts';
import { ScriptUses } from '../../src/core/order/script-uses.ts';
import { makeLike } from '../../src/core/page/make.ts';
import { openPage } from '../../src/core/page/page.ts';
import { mastersOf, partEdits } from '../../src/core/page/parts.ts';
import { wireAll } from '../../src/core/page/wire.ts';
import { readFile } from '../../src/core/read/read.ts';
import { readSettings } from '../../src/core/settings/read.ts';
import { readManifest } from '../../src/core/starter/manifest.ts';
import { archiveFormat, unpack } from '../../src/disk/archive.ts';
import { tgzOf, tideclock, zipOf } from '../support/library.ts';
import { mutated } from '../support/mutated.ts';
import { projectFolder } from '../support/program.ts';
import { bytesOf } from '../support/site.ts';

/** Sources for each reader; `npm run long` has ten thousand. */
const AMOUNT = Number(process.env.CRAVEL_MUTATIONS ?? 60);

function sources(folder: string, name: RegExp): Uint8Array[] {
  const root = join(projectFolder, folder);
  const paths = readdirSync(root, { recursive: true, encoding: 'utf8' }).filter((path) => name.test(path));
  return paths.map((path) => readFileSync(join(root, path)));
}

const text = (bytes: Uint8Array) => new TextDecoder().decode(bytes);
const xml = (content: string) => [bytesOf(`<?xml version="1.0"?>${content}`)];
const reading = (path: string) => (bytes: Uint8Array) => readFile(path, bytes);

function changed(bytes: Uint8Array): unknown {
  const page = openPage('a/p.html', bytes);
  const settings = {
    order: loadOrder({}, undefined),
    scriptsGo: undefined,
    provided: [],
    scripts: new ScriptUses(() => null),
    areBuilds: () => false,
    swaps: true,
  };
  const wirings = [
    { kind: 'stylesheet', path: 'a.css' },
    { kind: 'script', path: 'b.js' },
  ] as const;
  return [
    () => wireAll(page, wirings, settings),
    () => makeLike(page, 'b/new.html', { title: 'T', description: 'D', heading: 'H' }),
    () => partEdits(page, mastersOf(page)),
  ].map(outcomeOf);
}

/** What comes of it: a value, or what a person is told. */
function outcomeOf(work: () => unknown): unknown {
  try {
    return work();
  } catch (error) {
    if (error instanceof CravelError) return error.message;
    throw error;
  }
}

const pages = [...sources('demo/gullhaven', /\.html$/), ...sources('starters', /\.html$/)];
const rows: readonly (readonly [
  what: string,
  from: readonly Uint8Array[],
  read: (bytes: Uint8Array) => unknown,
])[] = [
  ['HTML', pages, reading('p.html')],
  ['pages that are changed', pages, changed],
  ['XHTML', pages, reading('p.xhtml')],
  ['CSS', sources('demo/gullhaven', /\.css$/), reading('a.css')],
  ['scripts', sources('demo', /\.js$/), reading('a.js')],
  [
    'modules',
    [
      bytesOf(
        'import a, { b as c } from "./x.js";\nexport * from "y";\nconst u = new URL("a.png", import.meta.url);\nawait import("./" + u + ".js");',
      ),
    ],
    reading('a.mjs'),
  ],
  ['SVG', sources('demo', /\.svg$/), reading('a.svg')],
  [
    'manifests',
    [
      bytesOf(
        '{"name":"Ferry","start_url":"./","icons":[{"src":"i.png","sizes":"any"}],"scope":"/","shortcuts":[{"url":"a"}]}',
      ),
    ],
    reading('m.webmanifest'),
  ],
  [
    'sitemaps',
    xml(
      '<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"><url><loc>https://gullhaven.example/a?b&amp;c</loc></url></urlset>',
    ),
    reading('sitemap.xml'),
  ],
  [
    'feeds',
    xml(
      '<feed xmlns="http://www.w3.org/2005/Atom"><link href="a"/><entry><content type="html"><![CDATA[<img src="a.png">]]></content></entry></feed>',
    ),
    reading('feed.xml'),
  ],
  [
    'settings',
    [
      bytesOf(
        'site: .\nlibraries:\n  a: { folder: lib/a, scripts: [ a.js ], needs: [] }\nleave-out: [ "a/**" ]\naccept:\n  - { rule: absent, because: x }\n',
      ),
    ],
    (bytes) => readSettings(text(bytes)),
  ],
  [
    'starters',
    sources('starters', /starter\.yaml$/),
    (bytes) => readManifest(text(bytes), 'starter.yaml').manifest,
  ],
];

for (const [what, from, read] of rows)
  test(`${what}, changed at random, are read or refused, the same each time`, () => {
    fc.assert(
      fc.property(mutated(from), (bytes) => {
        const first = outcomeOf(() => read(Uint8Array.from(bytes)));
        assert.deepEqual(
          outcomeOf(() => read(Uint8Array.from(bytes))),
          first,
        );
      }),
      { numRuns: AMOUNT },
    );
  });

test('archives, changed at random, are unpacked or refused', async () => {
  const whole = [zipOf(tideclock), await tgzOf(tideclock)];
  await fc.assert(
    fc.asyncProperty(mutated(whole), async (bytes) => {
      const format = archiveFormat(bytes);
      if (format === null) return;
      const files = await unpack('a', bytes, format, new Allowance('a', { files: 100, bytes: 1e6 })).catch(
        (error) => {
          assert.ok(error instanceof CravelError, String(error));
          return new Map<string, Uint8Array>();
        },
      );
      for (const path of files.keys()) assert.doesNotMatch(path, /^\/|(?:^|\/)\.\.(?:\/|$)|\0/);
    }),
    { numRuns: AMOUNT },
  );
});
