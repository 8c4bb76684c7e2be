/** What becomes of a site on its way out: chosen, swapped, moved to another address, told where it is, named by content. */
import assert from 'node:assert/strict';
import { createHash } from 'node:crypto';
import { test } from 'node:test';
import fc from 'fast-check';
import { chooseFiles } from '../../src/core/packing/choose.ts';
import { CopiedFiles } from '../../src/core/packing/copied-files.ts';
import { groupsInOrder } from '../../src/core/packing/groups.ts';
import { makeCopy, type PackedCopy } from '../../src/core/packing/pack.ts';
import { newPlace } from '../../src/core/packing/rebase.ts';
import { settingsOfCopy } from '../../src/core/packing/settings.ts';
import { publishedAt } from '../../src/core/resolve/published.ts';
import { Library, Settings } from '../../src/core/settings/settings.ts';
import { makeInventory } from '../../src/core/site/inventory.ts';
import { textOf } from '../support/files.ts';
import { bytesOf, checkFiles, type Files } from '../support/site.ts';

const digestOf = (bytes: Uint8Array, algorithm: string) =>
  createHash(algorithm).update(bytes).digest('base64');
const hashOf = (pieces: readonly (string | Uint8Array)[]) => {
  const hash = createHash('sha256');
  for (const piece of pieces) hash.update(piece);
  return hash.digest('hex');
};
const head = '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Ferry</title>';

interface Asked {
  readonly published?: string;
  readonly at?: string;
  readonly libraries?: Record<string, Partial<Library>>;
  readonly namedByContent?: boolean;
  readonly shrinks?: boolean;
  readonly used?: readonly string[];
}

async function packed(
  content: Files,
  asked: Asked = {},
): Promise<{ files: Record<string, string>; copy: PackedCopy; settings: Settings }> {
  const { published, at, libraries = {}, namedByContent = false, used = [] } = asked;
  const files = new CopiedFiles(Object.keys(content), (path) => bytesOf(content[path] ?? ''));
  const settings = new Settings();
  for (const [name, library] of Object.entries(libraries))
    settings.libraries[name] = Object.assign(new Library(), library);
  const copy = await makeCopy({
    files,
    settings,
    used: new Set(used),
    published: publishedAt(published),
    at: at === undefined ? null : newPlace(at),
    // What a shrinker may do wrong is found, too.
    shrinker: asked.shrinks ? (text) => Promise.resolve(text.replace(/\/\*.*?\*\/|\s+(?=\s)/g, '')) : null,
    namedByContent,
    digestOf,
    hashOf,
  });
  const texts = files.paths().map((path) => [path, textOf(files.read(path))] as const);
  return { files: Object.fromEntries(texts), copy, settings: settingsOfCopy(settings, copy) };
}

test('what is published is chosen by what it is, and each file that stays has its reason', () => {
  const rows: readonly (readonly [path: string, why: string | null, whyOnlyUsed?: string | null])[] = [
    ['index.html', null],
    ['old.html', null],
    ['css/main.css', null],
    ['images/lost.svg', null, 'nothing refers to it'],
    ['images/pier.psd', 'a source, to which nothing refers'],
    ['images/plan.psd', null],
    ['raw/any.psd', null],
    ['css/main.scss', 'a source, to which nothing refers'],
    ['js/main.js.map', 'a source, to which nothing refers'],
    ['js/wanted.js.map', null],
    ['README.md', 'for those who build the site'],
    ['package.json', 'for those who build the site'],
    ['lib/buoys/buoys.js', null],
    ['lib/buoys/LICENSE', null],
    ['notes/LICENSE', null, 'nothing refers to it'],
    ['robots.txt', null],
    ['favicon.ico', null],
    ['.well-known/security.txt', null],
    ['.htaccess', null],
  ];
  for (const onlyUsed of [false, true]) {
    const { taken, left } = chooseFiles({
      inventory: makeInventory(
        rows.map(([path]) => path),
        {
          hidden: new Map([
            ['.git/', ''],
            ['.env', ''],
            ['.cravel/', ''],
          ]),
        },
      ),
      used: new Set(['index.html', 'css/main.css', 'images/plan.psd', 'raw/', 'lib/buoys/buoys.js']),
      isWanted: (path) => path === 'js/wanted.js.map',
      onlyUsed,
    });
    const reasonOf = (path: string) => [...left].find(([, paths]) => paths.includes(path))?.[0] ?? null;
    for (const [path, why, whyOnlyUsed = why] of rows) {
      const expected = onlyUsed ? whyOnlyUsed : why;
      assert.equal(reasonOf(path), expected, `${path}, ${onlyUsed}`);
      assert.equal(taken.includes(path), expected === null, path);
    }
    assert.equal(reasonOf('.git/'), "another program's");
    assert.equal(reasonOf('.env'), 'it may hold a secret');
    assert.equal(reasonOf('.cravel/'), null);
  }
});

test('addresses that start from the root of the host, or name it, start where the site is published', async () => {
  const rows: readonly (readonly [written: string, after: string, asked?: Asked])[] = [
    ['/css/a.css', '/ferry/css/a.css'],
    ['/css/a.css?x=1#y', '/ferry/css/a.css?x=1#y'],
    ['/', '/ferry/'],
    ['css/a.css', 'css/a.css'],
    ['//cdn.example/a.css', '//cdn.example/a.css'],
    ['https://gullhaven.example/css/a.css', 'https://gullhaven.example/css/a.css'],
    [
      'https://gullhaven.example/css/a.css',
      'https://isles.example/ferry/css/a.css',
      { published: 'https://gullhaven.example/', at: 'https://isles.example/ferry' },
    ],
    [
      '//Gullhaven.example/old/css/a.css',
      '//isles.example/ferry/css/a.css',
      { published: 'https://gullhaven.example/old/', at: 'https://isles.example/ferry/' },
    ],
    [
      'https://gullhaven.example/css/a.css',
      'https://gullhaven.example/ferry/css/a.css',
      { published: 'https://gullhaven.example/', at: '/ferry/' },
    ],
    ['/old/css/a.css', '/ferry/css/a.css', { published: 'https://gullhaven.example/old/', at: '/ferry/' }],
    [
      '/elsewhere/css/a.css',
      '/elsewhere/css/a.css',
      { published: 'https://gullhaven.example/old/', at: '/ferry/' },
    ],
    ['/css/a.css', '/css/a.css', { at: '/' }],
  ];
  for (const [written, after, asked = { at: '/ferry/' }] of rows) {
    const { files } = await packed(
      { 'x/a.html': `${head}<a href="${written}">a</a>`, 'css/a.css': '' },
      asked,
    );
    assert.match(
      files['x/a.html'] as string,
      new RegExp(`href="${after.replace(/[?.]/g, '\\$&')}"`),
      written,
    );
  }
  const { files, copy } = await packed(
    {
      'a.html': `${head}<base href="/"><script type="module">import "/js/m.js"; fetch("/data/t.json")</script><style>p { background: url(/p.svg) }</style>`,
      'js/m.js': 'export const way = "/p.svg";',
      'data/t.json': '{}',
      'p.svg': '',
      'app.webmanifest': '{ "start_url": "/a.html" }',
    },
    { at: '/ferry/' },
  );
  assert.match(
    files['a.html'] as string,
    /base href="\/ferry\/".*"\/ferry\/js\/m\.js".*"\/ferry\/data.*url\(\/ferry\/p/,
  );
  assert.match(files['app.webmanifest'] as string, /"\/ferry\/a\.html"/);
  assert.deepEqual(copy.unsure, [{ file: 'js/m.js', line: 1, written: '/p.svg' }]);
  for (const none of ['ferry', 'ftp://gullhaven.example/', '//gullhaven.example/', 'https://', '/a?b'])
    assert.equal(newPlace(none), null, none);
});

const readable = 'var Buoys = { ring: 1 };';
const small = 'var Buoys={ring:1}';
const buoys = {
  buoys: {
    folder: 'lib/b',
    scripts: ['b.js'],
    styles: ['b.css'],
    release: { 'b.js': 'b.min.js', 'b.css': 'b.prod.css' },
  },
};

test('minified builds come in the place of readable ones, with their integrity; what a script names stays', async () => {
  const integrity = `sha384-${digestOf(Buffer.from(readable), 'sha384')}`;
  const site = {
    'index.html': `${head}<link rel="stylesheet" href="lib/b/b.css"><script src='lib/b/b.js' integrity='${integrity}'></script><script src="js/a.js" integrity="sha384-wrong"></script>`,
    'x/a.html': `${head}<script src="../lib/b/b.js?v=2"></script>`,
    'js/a.js': 'Buoys.ring;',
    'lib/b/b.js': readable,
    'lib/b/b.min.js': small,
    'lib/b/b.css': 'p { color: red }',
    'lib/b/b.prod.css': 'p{color:red}',
  };
  const { files, copy, settings } = await packed(site, { libraries: buoys });
  const value = `sha384-${digestOf(Buffer.from(small), 'sha384')}`;
  assert.ok(
    files['index.html']?.includes(
      `href="lib/b/b.prod.css"><script src='lib/b/b.min.js' integrity='${value}'`,
    ),
  );
  assert.match(files['index.html'] as string, /sha384-wrong/);
  assert.match(files['x/a.html'] as string, /\.\.\/lib\/b\/b\.min\.js\?v=2/);
  assert.deepEqual(copy.readable, ['lib/b/b.js', 'lib/b/b.css']);
  assert.equal(copy.swapped, 3);
  assert.ok(!('lib/b/b.js' in files));
  assert.deepEqual(settings.libraries.buoys?.scripts, ['b.min.js']);
  const named = await packed({ ...site, 'js/a.js': 'load("lib/b/b.js")' }, { libraries: buoys });
  assert.ok('lib/b/b.js' in named.files);
  // Both builds of one library are one too many, whatever they are called.
  const both = checkFiles(
    {
      ...site,
      'index.html': `${head}<link rel="stylesheet" href="lib/b/b.css"><link rel="stylesheet" href="lib/b/b.prod.css">`,
    },
    null,
    { libraries: settingsWith(buoys).libraries },
  );
  assert.equal(both.findings.filter(({ rule }) => rule === 'twice').length, 1);
});

function settingsWith(libraries: Record<string, Partial<Library>>): Settings {
  const settings = new Settings();
  for (const [name, library] of Object.entries(libraries))
    settings.libraries[name] = Object.assign(new Library(), library);
  return settings;
}

test('code is made small only where it loads the same and makes the same names', async () => {
  const rows: readonly (readonly [path: string, before: string, after: string, why?: RegExp])[] = [
    ['a.css', 'p {  color: red }', 'p { color: red }'],
    ['b.css', 'p { background: url(  p.svg  ) }', 'p { background: url( p.svg ) }'],
    [
      'c.css',
      'p { background: url(/*x*/p.svg) }',
      'p { background: url(/*x*/p.svg) }',
      /load something else/,
    ],
    ['a.js', 'var a =   1;', 'var a = 1;'],
    ['b.js', 'var /*x*/b   = 1;', 'var b = 1;'],
    [
      'c.js',
      '/*x*/ var c = 1; var d = "/*"; var e = "*/";',
      '/*x*/ var c = 1; var d = "/*"; var e = "*/";',
      /./,
    ],
    ['d.js', 'var   (', 'var   (', /browsers do not take/],
    ['e.min.js', 'var e =   1;', 'var e =   1;'],
    ['lib/b/f.js', 'var f =   1;', 'var f =   1;'],
  ];
  const { files, copy } = await packed(
    Object.fromEntries([...rows.map(([path, before]) => [path, before]), ['p.svg', '']]),
    { shrinks: true, libraries: { b: { folder: 'lib/b' } } },
  );
  for (const [path, , after, why] of rows) {
    assert.equal(files[path], after, path);
    if (why !== undefined) assert.match(copy.shrunk?.left.get(path) ?? '', why, path);
    else assert.equal(copy.shrunk?.left.has(path), false, path);
  }
});

test('pages say where they are published, and so does a list of them', async () => {
  const site = {
    'index.html': `${head}<meta property="og:image" content="p.svg?x"></head><body>`,
    'piers/index.html': `${head}<link rel="canonical" href="https://gullhaven.example/ferry/piers/">`,
    'piers/north pier.html': `${head}<meta name="robots" content="noindex">`,
    'print.html': `${head}<link rel="canonical" href="index.html">`,
    '404.html': head,
    'p.svg': '',
    'rows.html': '<tr><td>a</td></tr>',
  };
  const { files, copy } = await packed(site, { published: 'https://gullhaven.example/ferry/' });
  const index = files['index.html'] as string;
  assert.ok(index.includes('content="https://gullhaven.example/ferry/p.svg?x"'), index);
  assert.ok(index.includes('<link rel="canonical" href="https://gullhaven.example/ferry/">'), index);
  assert.deepEqual(copy.told, { canonical: 1, pictures: 1, made: ['sitemap.xml'] });
  const places = [...(files['sitemap.xml'] as string).matchAll(/<loc>(.*?)<\/loc>/g)].map(
    ([, place]) => place,
  );
  assert.deepEqual(places, ['https://gullhaven.example/ferry/', 'https://gullhaven.example/ferry/piers/']);
  const atRoot = await packed(site, { published: 'https://gullhaven.example/' });
  assert.match(atRoot.files['robots.txt'] as string, /Sitemap: https:\/\/gullhaven\.example\/sitemap\.xml/);
  const own = await packed(
    { ...site, 'robots.txt': 'x', 'sitemap-main.xml': '<urlset/>' },
    { published: 'https://gullhaven.example/' },
  );
  assert.deepEqual(own.copy.told?.made, []);
  assert.equal((await packed(site)).copy.told, null);
  assert.equal((await packed(site, { at: '/ferry/' })).copy.told, null);
});

test('files that pages load are named by what is in them and in what they load, and all others keep their names', async () => {
  const site = {
    'index.html': `${head}<link rel="stylesheet" href="css/a.css"><link rel="manifest" href="app.webmanifest"><link rel="icon" href="favicon.ico"><script type="module" src="js/one.js"></script><a href="doc.pdf">d</a><img src="said.svg"><img src="in-data.svg"><img src="shown/q.svg"><script>navigator.serviceWorker.register("sw.js"); fetch("t.json")</script>`,
    'css/a.css': '@import "b.css"; p { background: url(../p.svg) }',
    'css/b.css': 'p { color: red }',
    'js/one.js': 'import "./two.js"; const way = "said.svg";',
    'js/two.js': 'import "./one.js";',
    'app.webmanifest': '{}',
    'favicon.ico': '',
    'sw.js': '',
    't.json': '["in-data.svg"]',
    'doc.pdf': '',
    'p.svg': '<svg/>',
    'said.svg': '',
    'in-data.svg': '',
    'shown/q.svg': '',
  };
  const asked = { namedByContent: true, used: ['shown/'] };
  const first = await packed(site, asked);
  const renamed = [...first.copy.renamed.keys()].sort();
  assert.deepEqual(renamed, ['css/a.css', 'css/b.css', 'js/one.js', 'js/two.js', 'p.svg']);
  for (const [path, text] of Object.entries(first.files))
    if (/\.(?:html|css)$/.test(path)) assert.doesNotMatch(text, /[/"]a\.css|b\.css"|\.\.\/p\.svg/, path);
  assert.deepEqual((await packed(site, asked)).copy.renamed, first.copy.renamed);
  const nameIn = async (changes: Files, path: string) =>
    (await packed({ ...site, ...changes }, asked)).copy.renamed.get(path);
  const rows: readonly (readonly [changed: string, renamed: readonly string[]])[] = [
    ['css/b.css', ['css/a.css', 'css/b.css']],
    ['p.svg', ['css/a.css', 'p.svg']],
    ['js/two.js', ['js/one.js', 'js/two.js']],
    ['css/a.css', ['css/a.css']],
  ];
  for (const [changed, others] of rows)
    for (const path of renamed) {
      const text = `${site[changed as keyof typeof site]} `;
      const isSame = (await nameIn({ [changed]: text }, path)) === first.copy.renamed.get(path);
      assert.equal(isSame, !others.includes(path), `${path} where ${changed} is another`);
    }
});

test('groups of what leads to each other come behind all that they lead to', () => {
  const graphs = fc.array(fc.tuple(fc.nat(7), fc.nat(7)), { maxLength: 20 });
  fc.assert(
    fc.property(graphs, (ways) => {
      const all = [0, 1, 2, 3, 4, 5, 6, 7];
      const next = (one: number) => ways.flatMap(([from, to]) => (from === one ? to : []));
      const reaches = (from: number) => {
        const seen = new Set([from]);
        for (const one of seen) for (const to of next(one)) seen.add(to);
        return seen;
      };
      const groups = groupsInOrder(all, next);
      assert.deepEqual(groups.flat().sort(), all);
      const rank = new Map(groups.flatMap((group, index) => group.map((one) => [one, index] as const)));
      for (const one of all)
        for (const other of all) {
          const isMutual = reaches(one).has(other) && reaches(other).has(one);
          assert.equal(rank.get(one) === rank.get(other), isMutual);
          if (reaches(one).has(other)) assert.ok((rank.get(one) as number) >= (rank.get(other) as number));
        }
    }),
  );
  const chain = Array.from({ length: 100_000 }, (_none, index) => index);
  assert.equal(groupsInOrder(chain, (one) => (one + 1 < chain.length ? [one + 1] : [])).length, chain.length);
});

test('an error page that starts where it lies is mended where the address of the site is known', () => {
  const site = {
    'index.html': head,
    'css/a b.css': '',
    '404.html': `${head}<link rel="stylesheet" href="css/a%20b.css?x#y">`,
  };
  for (const [published, text] of [
    ['https://gullhaven.example/', '/css/a%20b.css?x#y'],
    ['https://gullhaven.example/ferry/', '/ferry/css/a%20b.css?x#y'],
    ['', undefined],
  ] as const) {
    const found = checkFiles(site, null, { published: publishedAt(published) }).findings;
    const told = found.filter(({ rule }) => rule === 'any-depth');
    assert.deepEqual(
      told.map(({ grade, mends }) => [grade, mends[0]?.edits[0]?.text]),
      [['fragile', text]],
    );
  }
});
