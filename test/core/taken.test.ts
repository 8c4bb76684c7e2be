/** What a check takes from one file: where it leads, what it loads and names, and what is left to be looked at. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import type { Share, Surroundings } from '../../src/core/check/share.ts';
import { concerned } from '../../src/core/judge/index.ts';
import { Resolver } from '../../src/core/resolve/resolver.ts';
import type { SiteView } from '../../src/core/resolve/subject.ts';
import { makeInventory } from '../../src/core/site/inventory.ts';
import { sharesIn } from '../support/shares.ts';

const paths = [
  ...['index.html', 'a.html', 'b.html', 'piers/n.html', 'p.png', 'q.png', 's.css', 't.min.css', 't.css'],
  ...['j.js', 'w.js', 'm.js', 'd.json', 'piers/p.png', 'lib/x/x.js', 'menu.html'],
];

/** As one line: only what there is. */
function inWords(share: Share, { spots }: Resolver): string {
  const { record, external, runAddresses } = share;
  const lists: readonly (readonly [string, Iterable<string>])[] = [
    ['to', share.leadsTo],
    ['menu', record?.navigation ?? []],
    ['loads', Array.from(share.loads, ([path, kind]) => `${path} ${kind}`)],
    ['names', share.names],
    ['data', share.data],
    ['workers', share.workers],
    ['spots', share.spots.map((spot) => `${spots.pages[spot]}#${spots.fragments[spot]}`)],
    [
      'runs',
      runAddresses.map(
        ({ as, reference: { written }, isLoading }) => `${as} ${written}${isLoading ? ' !' : ''}`,
      ),
    ],
    ['asks', share.questions.map(({ address }) => address)],
    ['found', share.findings.map(({ rule, line, column }) => `${rule} ${line}:${column}`)],
    ['odd', share.suspected.map(({ rule }) => rule)],
    ['later', share.suspects.map(({ reference: { written } }) => written)],
    ['texts', (record?.samples ?? []).map(({ text, offset, length }) => `${text} ${offset}+${length}`)],
    ['scripts', share.scripts.map(({ source }) => source.in)],
    ['frames', share.frames.map(() => 'one')],
    ['handlers', share.handlers.length > 0 ? ['some'] : []],
  ];
  const counts = `${share.references}${external > 0 ? ` (${external} away)` : ''}`;
  const told = lists.flatMap(([name, all]) =>
    [...all].length > 0 ? [`${name} ${[...all].join(', ')}`] : [],
  );
  const marks = [
    share.hasOpenHints ? 'open' : [],
    record === null ? 'no page' : record.title === null || record.description === null ? 'unnamed' : [],
  ].flat();
  return [counts, ...told, ...marks].join('; ');
}

const head =
  '<!doctype html><html lang=en><meta charset=utf-8><meta name=viewport content="width=device-width"><title>T</title><meta name=description content=D>';

type Row = readonly [
  file: string,
  text: string,
  told: string,
  more?: Partial<Surroundings> & { readonly isApart?: true },
];

const apart = { isApart: true } as const;
const site = { inventory: makeInventory(paths), published: null, entry: 'index.html', anchorsOf: () => null };
const inLibrary: SiteView = {
  ...site,
  places: { libraries: 'lib' },
  contentOf: () => 'text',
  holds: () => false,
};

const rows: readonly Row[] = [
  ['index.html', `${head}<a href=a.html>`, '1; to a.html'],
  [
    'index.html',
    `${head}<a href=a.html>x</a><a href="a.html#x">y</a><a href="a.html#x">z</a><a href="#">u</a>`,
    '4; to a.html; spots a.html#x',
  ],
  [
    'index.html',
    `${head}<a href="#x">x</a><p id=x><a href="#y">y</a><a href="index.html#y">y</a>`,
    '3; spots index.html#y',
  ],
  [
    'index.html',
    `${head}<nav><a href=a.html>x</a><a href=piers/n.html>x</a></nav><a href=b.html>x</a>`,
    '3; to a.html, piers/n.html, b.html; menu a.html, piers/n.html',
  ],
  [
    'index.html',
    `${head}<nav><a href=index.html>x</a><a href="">x</a><img src=p.png alt=""></nav>`,
    '3; menu index.html; loads p.png image; names p.png; odd wrong-kind',
  ],
  [
    'index.html',
    `${head}<a href=b.html>x</a><nav><a href=b.html>x</a><a href=no.html>n</a></nav>`,
    '3; to b.html; menu b.html; odd absent',
  ],
  [
    'index.html',
    `${head}<nav><a href=a.html>x</a></nav><p><nav><a href=b.html>x</a></nav>`,
    '2; to a.html, b.html; menu a.html, b.html',
  ],
  [
    'index.html',
    `${head}<a href=https://gullhaven.example/>x</a><a href=https://gullhaven.example/>x</a><a href=mailto:a@gullhaven.example>m</a>`,
    '3 (2 away)',
  ],
  [
    'index.html',
    `${head}<img src=p.png alt=""><img src=p.png alt=""><img src=q.png alt=""><link rel=icon href=p.png>`,
    '4; loads p.png image, q.png image; names p.png, q.png; odd wrong-kind, wrong-kind, wrong-kind, wrong-kind',
  ],
  [
    'index.html',
    `${head}<iframe src=a.html title=x></iframe><iframe src=index.html title=x></iframe>`,
    '2; to a.html; loads a.html frame',
  ],
  [
    'index.html',
    `${head}<link rel=stylesheet href=s.css><link rel=stylesheet href=s.css>`,
    '2; loads s.css stylesheet; names s.css; found twice 1:206',
  ],
  [
    'index.html',
    `${head}<link rel=stylesheet href=t.css><link rel=stylesheet href=t.min.css>`,
    '2; loads t.css stylesheet, t.min.css stylesheet; names t.css, t.min.css; found twice 1:206',
  ],
  [
    'index.html',
    `${head}<iframe srcdoc="<link rel=stylesheet href=s.css>" title=x></iframe><iframe srcdoc="<link rel=stylesheet href=s.css>" title=y></iframe>`,
    '2; loads s.css stylesheet; names s.css',
  ],
  [
    'index.html',
    `${head}<iframe srcdoc="<script src=j.js></script><script src=j.js></script>" title=x></iframe>`,
    '2; loads j.js script; names j.js; found twice 1:202; frames one',
  ],
  [
    'index.html',
    `${head}<p><link rel=stylesheet href=s.css>`,
    '1; loads s.css stylesheet; names s.css; odd late-stylesheet',
  ],
  [
    'index.html',
    `${head}<img src="" alt=""><img src=" " alt=""><a href="no.html#x">x</a><a href="no.html">x</a>`,
    '4; odd empty, empty, absent; later no.html#x',
  ],
  [
    'index.html',
    `${head}<script src=j.js></script><script>new Worker("w.js"); fetch("d.json"); let a = "q.png", b = "no.png", c = "two words.png";</script>`,
    '3; loads j.js script, w.js script; names j.js, w.js, d.json, q.png; data d.json; workers w.js; runs guess no.png; scripts file, page; open',
  ],
  [
    'index.html',
    `${head}<script type=module>import "m"; import "./m.js"; import("./" + a);</script>`,
    '2; loads m.js module; names m.js; runs specifier m; scripts page; open',
  ],
  ['index.html', `${head}<button onclick="go()">x</button><title>U`, '0; found swallowed 1:181; unnamed'],
  [
    'index.html',
    `${head}<a href="a.html>x</a><img src=p.png alt=""><a href=b.html>b</a><iframe src=piers/n.html title=x></iframe><p class="x">`,
    '2; to b.html, piers/n.html, a.html; loads piers/n.html frame, p.png image; names p.png; found swallowed 1:148; unnamed',
  ],
  [
    'a.html',
    `<a href=b.html>x</a><a href="b.html#s">x</a><img src=p.png><a href="#y">x</a><a href=" ">x</a><iframe src=piers/n.html></iframe>`,
    '4; to b.html, b.html, piers/n.html; names p.png, p.png, piers/n.html, piers/n.html; runs address b.html, address b.html#s, address p.png, address piers/n.html; no page',
    apart,
  ],
  [
    'a.html',
    `<script type=module>import "./m.js"; fetch("d.json")</script><img src=no.png><a href=a.html>x</a>`,
    '3; names m.js, m.js, d.json, d.json; runs address d.json, address no.png, address a.html; open; no page',
    apart,
  ],
  [
    'a.html',
    `---\ntitle: x\n---\n<a href=b.html>{% x %}</a><img src=p.png>`,
    '0; to b.html; names p.png, p.png; no page',
    apart,
  ],
  [
    'piers/n.html',
    `${head}<a href=../a.html>x</a><script>let a = "p.png?1";</script>`,
    '1; to a.html; names piers/p.png, p.png; scripts page',
  ],
  [
    'j.js',
    'fetch("d.json"); new Worker("w.js"); let a = "p.png#x", b = "nope.png", c = "piers/" + x; importScripts("m.js");',
    '3; loads m.js script; names d.json, d.json, w.js, w.js, m.js, p.png, p.png, piers/, piers/; runs address d.json, worker w.js, guess nope.png; open; no page',
  ],
  [
    'lib/x/x.js',
    'fetch("d.json"); let b = "nope.png"; $.get("e.json");',
    '1; names d.json; runs address d.json, guess nope.png, guess e.json !; open; no page',
  ],
  [
    'm.js',
    'import "./j.js"; import "x"; export * from "./w.js"; import("./no.js");',
    '4; loads j.js module, w.js module; names j.js, w.js; runs specifier x; odd absent; open; no page',
  ],
  [
    's.css',
    'a { background: url(p.png) } b { background: url(p.png) } @import "t.css"; c { background: url(#x) }',
    '3; loads p.png image, t.css stylesheet; names p.png, t.css; found without-effect 1:59; odd wrong-kind, wrong-kind; no page',
  ],
  ['s.css', '@import "t.css"; @import "t.css";', '2; loads t.css stylesheet; names t.css; no page'],
  [
    'index.html',
    `${head}<a href="x><a href=index.html>i</a><a href=a.html>a</a><img src=p.png alt=""><p class="">`,
    '0; to a.html; loads p.png image; names p.png; found swallowed 1:148; unnamed',
  ],
  [
    'index.html',
    `${head}<a href=https://gullhaven.example/a>x</a><a href=a.html>x</a><a href=tel:1>t</a>`,
    '3 (1 away); to a.html; asks https://gullhaven.example/a',
    { isOnline: true },
  ],
  [
    'index.html',
    `${head}<p>First text. Second text.`,
    '0; texts 2 150+11, 0 162+12',
    { samples: ['Second text.', 'None.', 'First text.'] },
  ],
  [
    'index.html',
    `First text.`,
    '0; found placeholder-title 1:1, lacks-description 1:1, lacks-language 1:1, lacks-viewport 1:1, lacks-charset 1:1, lacks-doctype 1:1; texts 0 0+11; unnamed',
    { samples: ['First text.'] },
  ],
  ['index.html', `${head}<nav><a href=a.html>x</a></nav>`, '1; to a.html', { comparesMenus: false }],
  [
    'index.html',
    `${head}<link rel=stylesheet href=s.css><link rel=stylesheet href=t.css>`,
    '2; loads s.css stylesheet, t.css stylesheet; names s.css, t.css; found twice 1:206',
    { builds: new Map([['t.css', 's.css']]) },
  ],
  [
    'index.html',
    `${head}<link rel=stylesheet href=t.css><link rel=stylesheet href=t.min.css>`,
    '2; loads t.css stylesheet, t.min.css stylesheet; names t.css, t.min.css',
    { builds: new Map([['t.min.css', 's.css']]) },
  ],
  [
    'lib/x/x.js',
    'fetch("d.json"); let b = "nope.png"; $.get("e.json"); new Worker("w.js"); let c = "p.png"',
    '0; names d.json, w.js, p.png; open; no page',
    { site: inLibrary },
  ],
];

test('a file gives what it leads to, loads and names, each once', () => {
  for (const [file, text, told, { isApart, ...more } = {}] of rows) {
    const resolver = new Resolver(site.inventory, null, concerned.address);
    const share = sharesIn(paths, { resolver, ...more })(file, text, isApart);
    assert.equal(inWords(share, resolver), told, text.replace(head, ''));
  }
});
