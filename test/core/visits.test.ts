/** What is told of the answers of a host: which rule, how bad, and in which words. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { hostRules } from '../../src/core/judge/index.ts';
import type { Difference, Visit } from '../../src/core/judge/visit.ts';

const answer: Visit = {
  asks: 'file',
  file: 'a.txt',
  address: 'https://gullhaven.example/a.txt',
  encoding: null,
  failure: null,
  status: 200,
  type: 'text/plain',
  movedTo: null,
  asksToLogIn: false,
  isAnything: false,
  difference: null,
};

/** What the first rule that has something to say says. */
function told(visit: Partial<Visit>): string[] {
  const all = hostRules.flatMap((rule) => {
    const verdict = rule.judgeVisit({ ...answer, ...visit });
    return verdict === null ? [] : `${rule.name} ${verdict.grade ?? rule.grade}: ${verdict.message}`;
  });
  return all.slice(0, 1);
}

const there = 'https://gullhaven.example/b';

test('an answer of a host is told by what was asked, and nothing is told of one that is right', () => {
  const other: Difference = { is: 'other', bytes: 1234, of: 56_789 };
  const rows: readonly (readonly [visit: Partial<Visit>, ...said: string[]])[] = [
    [{}],
    [{ status: 404 }, 'not-published broken: the host answers 404'],
    [{ status: 400 }, 'not-published broken: the host answers 400'],
    [{ status: 399 }],
    [{ status: 0, failure: 'it does not answer' }, 'not-published broken: it does not answer'],
    [{ isAnything: true }, 'not-published broken: the host answers with the page that it has for any name'],
    [{ asksToLogIn: true, status: 401 }, 'behind-login broken: the host answers 401'],
    [{ asksToLogIn: true, status: 400 }, 'behind-login broken: the host answers 400'],
    [{ asksToLogIn: true }, 'behind-login broken: what comes is a page to log in'],
    [
      { asksToLogIn: true, movedTo: there },
      'behind-login broken: the host sends on to https://gullhaven.example/b, to log in there',
    ],
    [{ asksToLogIn: true, asks: 'private' }, 'left-open broken: everybody can read it: take it off the host'],
    [{ movedTo: there }, 'sent-on untidy: the host sends on to https://gullhaven.example/b'],
    [{ movedTo: there, status: 404 }, 'not-published broken: the host answers 404'],
    [
      { movedTo: there, failure: 'it goes round and round', status: 0 },
      'not-published broken: it goes round and round',
    ],
    [
      { difference: { is: 'encoding', encoding: 'utf-16le' } },
      'served-otherwise fragile: the same text in another encoding, utf-16le',
    ],
    [
      { difference: { is: 'line-ends' } },
      'served-otherwise fragile: its line ends are others: upload it as binary',
    ],
    [
      { difference: { is: 'mark' } },
      'served-otherwise fragile: a byte order mark was put in front of it, or taken away',
    ],
    [
      { difference: { is: 'white-space' } },
      'served-otherwise fragile: the host rewrites it: white space and comments are others',
    ],
    [
      { difference: { is: 'added', amount: 12_345, start: '<script>' } },
      'served-otherwise fragile: the host puts 12,345 characters into it, which begin with <script>',
    ],
    [
      { difference: { is: 'cut', bytes: 1234, of: 5678 } },
      'served-otherwise broken: no more than 1,234 of its 5,678 bytes come',
    ],
    [{ difference: { is: 'page' } }, 'served-otherwise broken: a page comes in its place'],
    [{ difference: other }, 'served-otherwise broken: it differs: 1,234 bytes come, 56,789 were packed'],
    [{ asks: 'private' }, 'left-open broken: everybody can read it: take it off the host'],
    [{ asks: 'private', status: 404 }],
    [{ asks: 'private', status: 301 }],
    [{ asks: 'private', isAnything: true }],
    [
      { asks: 'invented', file: 'none-42' },
      'answers-anything fragile: the host answers 200 for none-42, which there cannot be',
    ],
    [
      { asks: 'invented', status: 204 },
      'answers-anything fragile: the host answers 204 for a.txt, which there cannot be',
    ],
    [
      { asks: 'invented', status: 299 },
      'answers-anything fragile: the host answers 299 for a.txt, which there cannot be',
    ],
    [{ asks: 'invented', status: 300 }],
    [{ asks: 'invented', status: 199 }],
    [{ asks: 'invented', status: 404 }],
    [
      { asks: 'letter-case' },
      'any-case untidy: the host answers in any letter case: mistakes in it do not show here',
    ],
    [{ asks: 'letter-case', difference: other }],
    [{ asks: 'letter-case', status: 404 }],
    [{ asks: 'letter-case', status: 300 }],
    [{ asks: 'letter-case', isAnything: true }],
    [{ asks: 'letter-case', failure: 'it does not answer' }],
    [
      { asks: 'plain-http', address: 'http://gullhaven.example/' },
      'unsafe-way fragile: http://gullhaven.example/ is served without being sent on to https',
    ],
    [{ asks: 'plain-http', movedTo: 'https://gullhaven.example/' }],
    [
      { asks: 'plain-http', movedTo: 'http://gullhaven.example/x?https:' },
      'unsafe-way fragile: https://gullhaven.example/a.txt is served without being sent on to https',
    ],
    [{ asks: 'plain-http', status: 403 }],
    [
      { asks: 'other-name', address: 'https://www.gullhaven.example/' },
      'two-names untidy: https://www.gullhaven.example/ serves it, too, without sending on',
    ],
    [
      { asks: 'other-name', difference: other },
      'two-names untidy: https://gullhaven.example/a.txt serves something else',
    ],
    [{ asks: 'other-name', movedTo: there }],
    [{ asks: 'other-name', status: 404 }],
  ];
  for (const [visit, ...said] of rows) {
    const what = JSON.stringify(visit);
    assert.deepEqual(told(visit), said, what);
  }
});

test('a type that a host names is told where browsers would not take it, or would have to find out', () => {
  const refused = (come: string, is: string) => `wrong-type broken: it comes as ${come}, and is ${is}`;
  const odd = (come: string, is: string) => `wrong-type fragile: it comes as ${come}, and is ${is}`;
  const rows: readonly (readonly [
    file: string,
    types: readonly string[],
    said: (type: string) => string | null,
  ])[] = [
    ['a.css', ['text/css', 'TEXT/CSS; charset=utf-8', ' text/css ;\n x=y'], () => null],
    [
      'a.css',
      ['text/plain', 'text/html', 'application/css', 'text/css2'],
      (type) => refused(type, 'text/css'),
    ],
    [
      'a.js',
      [
        'text/javascript',
        'application/javascript',
        'application/x-javascript',
        'text/ecmascript',
        'application/x-ecmascript',
      ],
      () => null,
    ],
    [
      'a.js',
      [
        'text/plain',
        'text/html',
        'text/x-typescript',
        'xtext/javascript',
        'text/javascriptx',
        'text/javascript1.5',
      ],
      (type) => refused(type, 'text/javascript'),
    ],
    ['a.html', ['text/html', 'application/xhtml+xml'], () => null],
    [
      'a.html',
      ['text/plain', 'application/octet-stream', 'application/xml'],
      (type) => refused(type, 'text/html'),
    ],
    ['a.png', ['image/png', 'image/jpeg', 'image/webp'], () => null],
    ['a.png', ['text/plain', 'application/octet-stream', 'x-image/png'], (type) => odd(type, 'image/png')],
    ['a.svg', ['image/svg+xml'], () => null],
    ['a.svg', ['text/xml', 'image/png', 'text/plain'], (type) => refused(type, 'image/svg+xml')],
    [
      'a.woff2',
      ['font/woff2', 'application/font-woff2', 'font/woff', 'application/octet-stream'],
      () => null,
    ],
    ['a.woff2', ['text/plain'], (type) => odd(type, 'font/woff2')],
    ['a.wasm', ['application/wasm'], () => null],
    ['a.wasm', ['application/octet-stream', 'text/plain'], (type) => refused(type, 'application/wasm')],
    ['a.xml', ['text/xml', 'application/xml', 'application/rss+xml'], () => null],
    ['a.xml', ['text/plain', 'application/xmls', 'x/text/xml', 'text/xml2'], (type) => odd(type, 'text/xml')],
    ['a.json', ['application/json', 'text/json', 'application/ld+json'], () => null],
    [
      'a.json',
      ['text/plain', 'text/html', 'application/jsonp', 'x-application/json'],
      (type) => odd(type, 'application/json'),
    ],
    ['a.mp4', ['video/mp4', 'application/octet-stream', 'x-text/html', 'text/htmlx'], () => null],
    ['a.mp4', ['text/html'], (type) => odd(type, 'video/mp4')],
    ['a.gullhaven', ['text/html', 'any/thing', ''], () => null],
    [
      'a.css',
      ['', ' ', ';charset=utf-8'],
      () => 'wrong-type fragile: no Content-Type comes with it; it is text/css',
    ],
  ];
  const outcomes = rows.flatMap(([file, types]) =>
    types.map((type) => [file, type, ...told({ file, type })]),
  );
  const expected = rows.flatMap(([file, types, said]) =>
    types.map((type) => [file, type, said(type) ?? []].flat()),
  );
  assert.deepEqual(outcomes, expected);
  assert.deepEqual(told({ asks: 'private', file: 'a.css', status: 404 }), []);
});

test('an encoding that a host names is told where it is not the one of the file', () => {
  const rows: readonly (readonly [type: string, encoding: string | null, ...said: string[]])[] = [
    ['text/plain; charset=utf-8', 'utf-8'],
    ['text/plain; charset="UTF-8"', 'utf-8'],
    ['text/plain; charset=latin1', 'windows-1252'],
    [
      'text/plain; charset=iso-8859-1',
      'utf-8',
      'wrong-type broken: it comes as iso-8859-1, and is written in utf-8: letters beyond ASCII are garbled',
    ],
    [
      'text/plain; charset=utf-8',
      'windows-1252',
      'wrong-type broken: it comes as utf-8, and is written in windows-1252: letters beyond ASCII are garbled',
    ],
    ['text/plain; charset=Nonsense', 'utf-8'],
    ['text/plain; charset=Nonsense', 'nonsense'],
    ['text/plain; charset=latin1', null],
    ['text/plain', 'utf-8'],
  ];
  for (const [type, encoding, ...said] of rows) {
    const what = `${type} of ${encoding}`;
    assert.deepEqual(told({ type, encoding }), said, what);
  }
});
