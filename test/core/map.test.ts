/** The map of a site: clicks, weights, what nobody comes to; and spots that can be told apart, however many pages there are. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { startCheck } from '../../src/core/check/check.ts';
import type { MappedPage, SiteMap } from '../../src/core/check/site-map.ts';
import { grouped } from '../../src/core/mapping/grouped.ts';
import { inRings } from '../../src/core/mapping/rings.ts';
import { makeInventory } from '../../src/core/site/inventory.ts';
import { mapAsDot, mapAsJson } from '../../src/show/map/data.ts';
import { bytesOf, contentOptions, type Files, takeAll } from '../support/site.ts';

const page = (title: string, body: string, head = '') =>
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>${title}</title>${head}</head><body>${body}</body></html>`;
const style = '<link rel="stylesheet" href="/css/a.css">';

function mapOf(files: Files): SiteMap {
  const content = new Map(Object.entries(files).map(([path, text]) => [path, bytesOf(text)]));
  const read = (path: string) => content.get(path) as Uint8Array;
  const check = startCheck(makeInventory(content.keys()), contentOptions(read));
  takeAll(check, read);
  return check.siteMap(check.report('', read), (path) => read(path).length);
}

test('pages are told by clicks from the entry, with all that they load, what is broken, and what nobody comes to', () => {
  const map = mapOf({
    'index.html': page(
      'Home',
      '<a href="fares.html">f</a><a href="x/a.html">a</a><a href="index.html">i</a>',
      style,
    ),
    'fares.html': page('Fares', '<a href="x/b.html">b</a><img src="lost.png" alt="">', style),
    'x/a.html': page('Same', '<a href="b.html">b</a>'),
    'x/b.html': page('Same', '<a href="../index.html">i</a>'),
    'x/alone.html': page('Alone', '<a href="a.html">a</a>'),
    'css/a.css': '@import "b.css";',
    'css/b.css': 'b { background: url(../p.svg) }',
    'p.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
    'old.svg': '<svg/>',
  });
  const told = map.pages.map(({ file, clicks, from, loads, broken }) => [
    file,
    clicks,
    from,
    [...loads.keys()].sort(),
    broken,
  ]);
  const loaded = ['css/a.css', 'css/b.css', 'p.svg'];
  assert.deepEqual(told, [
    ['fares.html', 1, 'index.html', loaded, ['lost.png']],
    ['index.html', 0, null, loaded, []],
    ['x/a.html', 1, 'index.html', [], []],
    ['x/alone.html', null, null, [], []],
    ['x/b.html', 2, 'fares.html', [], []],
  ]);
  assert.deepEqual(map.unused, ['old.svg']);
  assert.deepEqual(map.twins, [['x/a.html', 'x/b.html']]);
  assert.equal(map.sizes.get('css/a.css'), 16);
  const plain = JSON.parse(mapAsJson(map));
  assert.deepEqual(plain.pages[0].loads[0], { file: 'css/a.css', kind: 'stylesheet', bytes: 16 });
  const dot = [...mapAsDot(map, 'Map "of"')].join('');
  assert.match(dot, /digraph "Map \\"of\\"" \{/);
  assert.match(dot, /label="x\/"/);
  assert.match(dot, /"fares\.html" -> "x\/b\.html";/);
  assert.match(dot, /"fares\.html" -> "fares\.html lost\.png" \[color=red\]/);
});

test('what is loaded in several ways is told by the first, and only pages whose titles are told are twins', () => {
  const map = mapOf({
    'index.html': page(
      'Home',
      '<a href="a.html">a</a><img src="gone.svg" alt="">',
      `<link rel="icon" href="p.svg">${style}<link rel="stylesheet" href="css/b.css">`,
    ),
    'a.html': page('Fares', '<a href="b.html">b</a><img src="gone.svg" alt="">', style),
    'b.html': page('Fares', '<a href="index.html">i</a>', style),
    'css/a.css': 'a { background: url(../p.svg) } b { background: url(../q.svg) }',
    'css/b.css': '@import "a.css"; @font-face { src: url(../q.svg) }',
    'p.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
    'q.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
  });
  const loads = map.pages.map(({ loads }) => [...loads].map(([path, kind]) => `${path} ${kind}`).join());
  assert.deepEqual(loads, [
    'css/a.css stylesheet,p.svg image,q.svg image',
    'css/a.css stylesheet,p.svg image,q.svg image',
    'p.svg icon,css/a.css stylesheet,q.svg image,css/b.css stylesheet',
  ]);
  assert.deepEqual(map.twins, [['a.html', 'b.html']]);
});

test('a map tells each thing once, and only what is so', () => {
  const map = mapOf({
    'index.html': page(
      'Home',
      '<a href="a.html">a</a><a href="a.html?x">a</a><a href="plan.svg">p</a><a href="gone.html">g</a>' +
        '<a href="https://gullhaven.example/">o</a><img src="p.svg" alt=""><img src="p.svg" alt="">',
      style,
    ),
    'a.html':
      '<!doctype html><html lang="en"><body><a href="index.html">i</a><a href="b.html">b</a></body></html>',
    'b.html': page('Home', '<a href="c.html">c</a>', '<script src="js/a.js" defer></script>'),
    'c.html': page('Home', '<a href="b.html">b</a><a href="c.html">c</a><a href="d.html">d</a>'),
    'd.html': page('Fares', '<a href="index.html">i</a><script>let a = ;</script>'),
    'plan.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
    'p.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
    'js/a.js': 'import("./b.js"); let late = 1;',
    'js/b.js': 'import "./a.js"; import "./c.js";',
    'css/a.css': '@import "b.css"; a { background: url(../p.svg) } b { background: url(gone.svg) }',
    'css/b.css': '@import "a.css"; b { background: url(gone.svg) }',
  });
  const shown = map.pages.map(({ file, title, clicks, leadsTo, loads, broken }) => [
    file,
    title,
    clicks,
    leadsTo.join(' '),
    [...loads].map(([path, kind]) => `${path} ${kind}`).join(', '),
    broken.map((one) => `<${one}>`).join(' '),
  ]);
  const css = 'css/a.css stylesheet, css/b.css stylesheet, p.svg image';
  assert.deepEqual(shown, [
    ['a.html', null, 1, 'index.html b.html', '', ''],
    ['b.html', 'Home', 2, 'c.html', 'js/a.js script, js/b.js module', '<./c.js>'],
    ['c.html', 'Home', 3, 'b.html d.html', '', ''],
    ['d.html', 'Fares', 4, 'index.html', '', ''],
    ['index.html', 'Home', 0, 'a.html', css, '<gone.html> <gone.svg>'],
  ]);
  assert.deepEqual(map.twins, [['b.html', 'c.html', 'index.html']]);
  assert.deepEqual(map.unused, []);
  assert.deepEqual([...map.sizes.keys()].sort(), [
    'a.html',
    'b.html',
    'c.html',
    'css/a.css',
    'css/b.css',
    'd.html',
    'index.html',
    'js/a.js',
    'js/b.js',
    'p.svg',
  ]);
  // Twins are told where nothing else is.
  const whole = (title: string, body: string, description: string) =>
    page(
      title,
      body,
      `<meta name="viewport" content="width=device-width"><meta name="description" content="${description}">`,
    );
  const twins = mapOf({
    'index.html': whole('Home', '<a href="a.html">a</a><a href="b.html">b</a>', 'one'),
    'a.html': whole('Pier', '<a href="gone.html">g</a>', 'two'),
    'b.html': whole('Pier', '', 'three'),
  });
  assert.deepEqual(twins.twins, [['a.html', 'b.html']]);
  // Of a site without its entry nothing is so many clicks away.
  const lost = mapOf({ 'a.html': page('A', '<a href="b.html">b</a>'), 'b.html': page('B', '') });
  assert.deepEqual(
    lost.pages.map(({ clicks, from, leadsTo }) => [clicks, from, leadsTo.length]),
    [
      [null, null, 1],
      [null, null, 0],
    ],
  );
});

/** Pages that lead to each other as they happen to, in folders. */
const sites: fc.Arbitrary<SiteMap> = fc
  .record({
    amount: fc.integer({ min: 1, max: 600 }),
    folders: fc.integer({ min: 1, max: 90 }),
    ways: fc.array(fc.tuple(fc.nat(), fc.nat()), { maxLength: 1500 }),
    sizes: fc.array(fc.nat(1_000_000), { minLength: 1, maxLength: 20 }),
  })
  .map(({ amount, folders, ways, sizes }) => {
    const files = Array.from({ length: amount }, (_none, index) =>
      index === 0 ? 'index.html' : `f${index % folders}/${index % 3 === 0 ? 'in/' : ''}p<&"${index}.html`,
    );
    const next = new Map<number, number[]>();
    for (const [from, to] of ways) next.set(from % amount, [...(next.get(from % amount) ?? []), to % amount]);
    const clicks = new Map([[0, 0]]);
    const from = new Map<number, number>();
    for (const [one, far] of clicks)
      for (const to of next.get(one) ?? []) {
        if (clicks.has(to)) continue;
        clicks.set(to, far + 1);
        from.set(to, one);
      }
    const pages = files.map((file, index): MappedPage => {
      const origin = from.get(index);
      return {
        file,
        title: null,
        clicks: clicks.get(index) ?? null,
        from: origin === undefined ? null : (files[origin] as string),
        leadsTo: (next.get(index) ?? []).map((to) => files[to] as string),
        loads: new Map([['a.css', 'stylesheet']]),
        broken: index % 50 === 7 ? ['lost.html'] : [],
      };
    });
    const bytes = files.map((file, index) => [file, sizes[index % sizes.length] as number] as const);
    return { entry: 'index.html', pages, sizes: new Map([...bytes, ['a.css', 500]]), unused: [], twins: [] };
  });

test('every page has its spot, no two spots of a ring touch, and there are never too many', () => {
  fc.assert(
    fc.property(sites, (map) => {
      const { spots, unreached } = grouped(map);
      const placed = spots.flatMap(({ pages }) => pages.map(({ file }) => file));
      assert.deepEqual(
        [...placed, ...unreached.map(({ file }) => file)].sort(),
        map.pages.map(({ file }) => file).sort(),
      );
      assert.ok(spots.length <= 240);
      const rings = inRings(spots);
      assert.equal(rings.spots.length, spots.length);
      for (const [index, one] of rings.spots.entries())
        for (const other of rings.spots.slice(index + 1)) {
          if (one.ring !== other.ring) continue;
          const apart = Math.hypot(one.x - other.x, one.y - other.y);
          assert.ok(apart >= (one.radius + other.radius) * 0.98, `${one.path} and ${other.path}: ${apart}`);
        }
    }),
    { numRuns: Number(process.env.CRAVEL_MADE_UP ?? 60) },
  );
});
