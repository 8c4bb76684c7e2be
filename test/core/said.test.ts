/** What rules say, in their words: the words are what people act on. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { type Published, publishedAt } from '../../src/core/resolve/published.ts';
import { checkFiles, type Files } from '../support/site.ts';

const page = (markup: string) => ({ 'index.html': `<!doctype html><title>x</title>${markup}` });
const said = (files: Files, rule: string, options: Parameters<typeof checkFiles>[2] = {}) =>
  checkFiles(files, null, options)
    .findings.filter((finding) => finding.rule === rule)
    .map(
      ({ message, grade, mends }) => `${grade}: ${message}${mends[0]?.sure ? ` [${mends[0].title}]` : ''}`,
    );

test('what was left open says where a browser takes it to end, and what goes with it', () => {
  const rows: readonly (readonly [markup: string, ...said: string[]])[] = [
    [
      '<textarea>a<img src=p.svg>',
      'broken: this <textarea> is never closed: the rest of the page is swallowed, with 1 image [write </textarea> there]',
    ],
    ['<script src=a.js/></script><p>'],
    [
      '<script>a</p><p>b</p>',
      'broken: this <script> is never closed: the rest of the page is swallowed [write </script> there]',
    ],
    [
      '<iframe src=a.html /><a href=b.html>b</a><a href="#c">c</a><img src=p.svg>',
      'broken: a <iframe> cannot close itself with />: the rest of the page is swallowed, with 2 links and 1 image [write ></iframe> there]',
    ],
    [
      '<!-- a <p>b\n<link rel=stylesheet href=a.css><script src=a.js></script><link rel=icon href=i.svg><video src=v.mp4></video>',
      'broken: this comment is never closed: the rest of the page is swallowed, with 1 stylesheet, 1 script, 1 icon and 1 file',
    ],
    [
      '<a href="b.html>b</a>\n<p>c</p>\n<a href="d.html">d</a>',
      'broken: a quote in this <a> is never closed: 3 lines up to the next quote are swallowed, with 2 links [write " there]',
    ],
    [
      '<title>b <p>c</p>',
      'broken: this <title> is never closed: the rest of the page is swallowed [write </title> there]',
    ],
  ];
  for (const [markup, ...words] of rows) assert.deepEqual(said(page(markup), 'swallowed'), words, markup);
  const styles: readonly (readonly [css: string, ...said: string[]])[] = [
    [
      'b { color: red\ni { color: blue }',
      'broken: this brace is never closed, and what follows belongs to it: it takes a line with it',
    ],
    [
      'b { color: red } }\ni { color: blue }',
      'broken: this brace closes nothing, and spoils the rule that follows',
    ],
    ['/* a\nb { color: red }', 'broken: this comment is never closed: it takes 2 lines with it'],
    ['<style>\nb { color: red }', 'broken: this is markup, and spoils the rule that follows'],
    [
      '@import "b.css"\nb { color: red }',
      'broken: @import ends with no semicolon: neither it nor the rule that follows takes effect',
    ],
  ];
  for (const [css, ...words] of styles) {
    const files = { ...page('<link rel=stylesheet href=a.css>'), 'a.css': css, 'b.css': 'b{}' };
    assert.deepEqual(said(files, 'swallowed'), words, css);
  }
});

test('what takes no effect says why, and what was probably meant', () => {
  const rows: readonly (readonly [markup: string, ...said: string[]])[] = [
    ['<img scr="p.svg">', 'broken: img has no attribute scr; src was probably meant [write src]'],
    [
      '<link href="a.css">',
      'broken: a link without rel loads nothing: say what it is for, for example rel="stylesheet" [write rel="stylesheet"]',
    ],
    [
      '<link rel="styleshet" href="a.css">',
      'broken: no browser knows this rel; rel="stylesheet" was probably meant [write stylesheet]',
    ],
    ['<link rel="stylesheet">', 'broken: this link has no href: it loads nothing'],
    [
      '<script type="text/js" src="a.js"></script>',
      'broken: scripts of this type are not run: leave the type out, or write module [write text/javascript]',
    ],
    [
      '<link rel=stylesheet type="text/ccs" href="a.css">',
      'broken: stylesheets of this type are not loaded: leave the type out [write text/css]',
    ],
    [
      '<script defer></script>',
      'broken: this script has neither a source nor code: its src was probably forgotten',
    ],
    [
      '<script async></script>',
      'broken: this script has neither a source nor code: its src was probably forgotten',
    ],
    ['<script></script>'],
    [
      '<link rel=stylesheet disabled href="a.css">',
      'broken: a stylesheet that is disabled is not loaded, and no script of the page enables it',
    ],
    ['<link rel=stylesheet disabled href="a.css"><script>x = 1</script>'],
    ['<link rel=stylesheet disabled href="a.css"><script src=a.js></script>'],
    ['<link rel=stylesheet disabled href="a.css"><script type=module src=a.js></script>'],
    [
      '<script nomodule src="a.js"></script>',
      'fragile: browsers that know modules pass over a script with nomodule, and no module stands in for it here',
    ],
    ['<script nomodule src="a.js"></script><script type=module src="a.js"></script>'],
    ['<script nomodule src="a.js"></script><script type=module>let a = 1</script>'],
    [
      '<lnk rel=stylesheet href="a.css">',
      'broken: no browser knows the element lnk; link was probably meant [write link]',
    ],
    [
      '<link rel=stylesheet media="scren" href="a.css">',
      'broken: no device has this media type; screen was probably meant [write screen]',
    ],
  ];
  for (const [markup, ...words] of rows) {
    const files = { ...page(markup), 'a.css': 'b{}', 'a.js': 'x = 1;', 'p.svg': '' };
    assert.deepEqual(said(files, 'without-effect'), words, markup);
  }
});

test('what is not there says what an address lacks, or has too much', () => {
  const rows: readonly (readonly [markup: string, ...said: string[]])[] = [
    [
      '<img src="http://images/p.svg">',
      'broken: http:// makes images the name of a host, and no visitor finds one of that name [write images/p.svg]',
    ],
    [
      '<img src=" https:\\\\images/p.svg">',
      'broken: https:\\\\ makes images the name of a host, and no visitor finds one of that name [write images/p.svg]',
    ],
    ['<img src="//p.svg">'],
    [
      '<script src="http://a.mjs"></script>',
      'broken: http:// makes a.mjs the name of a host, and no visitor finds one of that name [write a.mjs]',
    ],
    [
      '<a href="http://b.htm?x">x</a>',
      'broken: http:// makes b.htm the name of a host, and no visitor finds one of that name [write b.htm?x]',
    ],
    ['<img src="http://gullhaven.example/p.svg">'],
    ['<img src="http://images:80/p.svg">'],
    [
      '<a href=" www.gullhaven.example/x ">x</a>',
      "broken: there is no folder www.gullhaven.example in the site's root [write https://www.gullhaven.example/x]",
    ],
    ['<a href="www.x">x</a>', "broken: there is no file www.x in the site's root"],
    [
      '<a href="awww.gullhaven.example/x">x</a>',
      "broken: there is no folder awww.gullhaven.example in the site's root",
    ],
    [
      '<a href="crew@gullhaven.example.org?subject=x">x</a>',
      "broken: there is no file crew@gullhaven.example.org in the site's root [write mailto:crew@gullhaven.example.org?subject=x]",
    ],
    [
      '<a href="crew@gullhaven.example/x">x</a>',
      "broken: there is no folder crew@gullhaven.example in the site's root",
    ],
    ['<a href="crew/@gullhaven.example">x</a>', "broken: there is no folder crew in the site's root"],
    [
      '<link rel=stylesheet href="main.css">',
      "broken: there is no file main.css in the site's root; main.css.txt is there",
    ],
    ['<a href="main">x</a>', "broken: there is no file main in the site's root"],
  ];
  for (const [markup, ...words] of rows) {
    const files = {
      ...page(markup),
      'images/p.svg': '',
      'a.mjs': '',
      'b.htm': '<p>',
      'main.css.txt': '',
      'main.txt': '',
    };
    assert.deepEqual(said(files, 'absent'), words, markup);
  }
});

test('an address that browsers make sense of, and others do not, is told with what to write', () => {
  const ferry = publishedAt('https://gullhaven.example/ferry/');
  const plain = publishedAt('http://gullhaven.example/');
  const rows: readonly (readonly [
    rule: string,
    markup: string,
    published: Published | null,
    ...said: string[],
  ])[] = [
    [
      'needs-encoding',
      '<img src="north pier.svg" alt>',
      null,
      'fragile: a space is written percent-encoded in an address',
    ],
    ['needs-encoding', '<img src=" north%20pier.svg " alt>', null],
    [
      'needs-encoding',
      '<img src="möwe.svg" alt>',
      null,
      'fragile: ö is written percent-encoded in an address',
    ],
    [
      'needs-encoding',
      '<img src="100%.svg" alt>',
      null,
      'fragile: a % that begins no escape is written percent-encoded in an address',
    ],
    [
      'needs-encoding',
      '<img src="100%2.svg" alt>',
      null,
      'fragile: a % that begins no escape is written percent-encoded in an address',
    ],
    [
      'needs-encoding',
      '<img src="p.svg?a b" alt>',
      null,
      'fragile: a space is written percent-encoded in an address [write p.svg?a%20b]',
    ],
    ['needs-encoding', '<a href="b.html#a b">x</a>', null],
    ['needs-encoding', '<img src="gone gone.svg" alt>', null],
    ['needs-encoding', '<a href="https://gullhaven.example/a b">x</a>', null],
    [
      'needs-encoding',
      '<img src="images/q.svg?%zz" alt>',
      null,
      'fragile: a % that begins no escape is written percent-encoded in an address [write images/q.svg?%25zz]',
    ],
    [
      'needs-encoding',
      '<img src="images/q.svg?%41=é &amp;b#é %z" alt>',
      null,
      'fragile: é is written percent-encoded in an address [write images/q.svg?%41=%C3%A9%20&amp;b#é%20%z]',
    ],
    [
      'backslash',
      '<img src="images\\q.svg" alt>',
      null,
      'fragile: addresses have slashes between their steps [write images/q.svg]',
    ],
    ['backslash', '<img src="images\\gone.svg" alt>', null],
    ['backslash', '<img src="p.svg?x\\y" alt>', null],
    ['backslash', '<img src="p.svg#x\\y" alt>', null],
    [
      'backslash',
      '<a href="\\b.html?x#y">x</a>',
      null,
      'fragile: addresses have slashes between their steps [write /b.html?x#y]',
    ],
    [
      'insecure',
      '<script src=" http://h.example/a.js"></script>',
      null,
      'fragile: it is loaded without encryption',
    ],
    [
      'insecure',
      '<script src="//h.example/a.js"></script>',
      null,
      'fragile: without a scheme it is loaded as the page was',
    ],
    ['insecure', '<script src="https://h.example/a.js"></script>', null],
    ['insecure', '<a href="http://h.example/a">x</a>', null],
    [
      'insecure',
      '<img src="HTTP:\\\\h.example/a.png" alt>',
      null,
      'fragile: it is loaded without encryption',
    ],
    ['insecure', '<script src="http://h.example/a.js"></script>', plain],
    [
      'insecure',
      '<script src="http://h.example/a.js"></script>',
      ferry,
      'fragile: it is loaded without encryption',
    ],
    [
      'from-root',
      '<img src="/p.svg" alt>',
      null,
      'fragile: this holds only where the site is published at the root of its host; say so with published-at in cravel.yaml',
    ],
    ['from-root', '<img src="/p.svg" alt>', ferry],
    ['from-root', '<img src="/gone.svg" alt>', null],
    [
      'host-dependent',
      '<a href="images">x</a>',
      null,
      'fragile: a folder is addressed with a slash at the end [write images/]',
    ],
    [
      'host-dependent',
      '<a href="b">x</a>',
      null,
      'fragile: only some hosts add .html by themselves [write b.html]',
    ],
    [
      'host-dependent',
      '<img src="images//q.svg" alt>',
      null,
      'fragile: not every host takes two slashes for one [write images/q.svg]',
    ],
    ['host-dependent', '<a href="https://gullhaven.example//x">x</a>', null],
    ['host-dependent', '<a href="b.html/">x</a>', null],
    ['moved-away', '<a href=" b.html ">x</a>', null],
  ];
  for (const [rule, markup, published, ...words] of rows) {
    const files: Files = {
      ...page(markup),
      'b.html': '<!doctype html><p id="a b">',
      'images/index.html': '<!doctype html>',
      ...Object.fromEntries(
        ['p.svg', 'images/q.svg', 'north pier.svg', 'möwe.svg', '100%.svg', '100%2.svg'].map((path) => [
          path,
          '',
        ]),
      ),
    };
    const what = `${rule} ${markup}`;
    assert.deepEqual(said(files, rule, { published }), words, what);
  }
});

test('an error page says which addresses hold at one depth only', () => {
  const rows: readonly (readonly [
    markup: string,
    file: string,
    published: Published | null,
    ...said: string[],
  ])[] = [
    [
      '<link rel=stylesheet href="a.css">',
      '404.html',
      null,
      'fragile: hosts show this page at any address: at piers/ this leads to piers/a.css',
    ],
    ['<link rel=stylesheet href="a.css">', 'error.html', null],
    ['<link rel=stylesheet href="a.css">', 'fares.html', null],
    [
      '<link rel=stylesheet href=" a.css?v=1&amp;w=2#x ">',
      '404.html',
      publishedAt('https://gullhaven.example/ferry/'),
      "fragile: hosts show this page at any address: at piers/ this leads to piers/a.css [start from the host's root]",
    ],
    [
      '<link rel=stylesheet href="x/../a.css">',
      '404.html',
      publishedAt('https://gullhaven.example'),
      "fragile: hosts show this page at any address: at piers/ this leads to piers/a.css [start from the host's root]",
    ],
    ['<base href="/"><link rel=stylesheet href="a.css">', '404.html', null],
    ['<base href="https://gullhaven.example/"><link rel=stylesheet href="a.css">', '404.html', null],
    ['<base href="x/"><link rel=stylesheet href="a.css">', '404.html', null],
    [
      '<link rel=stylesheet href="/a.css"><a href="mailto:a@b.example">x</a><a href="#x">x</a><a href="">x</a><a href="\\a.css">x</a>',
      '404.html',
      null,
    ],
    [
      '<a href="404.html">x</a><a href="gone.html">x</a><a href="../a.css">x</a><a href="web+ferry:x">x</a><img src="?x" alt>',
      '404.html',
      null,
    ],
  ];
  for (const [markup, file, published, ...words] of rows) {
    const files: Files = { ...page(''), [file]: `<!doctype html><title>x</title>${markup}`, 'a.css': 'b{}' };
    const what = `${file} ${markup}`;
    assert.deepEqual(said(files, 'any-depth', { published }), words, what);
  }
});
