/** Edits of script tags and stylesheets: what is moved, put in and taken away, and when that is left alone. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { applyEdits, type Edit } from '../../src/core/change/edit.ts';
import {
  addAttribute,
  deferAsync,
  insertTag,
  makeModule,
  moveTag,
  moveTagToEnd,
  replaceAttribute,
} from '../../src/core/mend/script-tags.ts';
import { moveImport, quoteImport, straightQuotes } from '../../src/core/mend/style-edits.ts';
import type { Span } from '../../src/core/read/reading.ts';

/** A text in which `«…»` marks what an edit is about, and `‹…›` what it goes by. */
interface Marked {
  readonly bytes: Uint8Array;
  /** One character a byte. */
  readonly plain: string;
  readonly own: Span;
  readonly other: Span;
}

function marked(text: string): Marked {
  const plainText = text.replaceAll(/[«»‹›]/g, '');
  const at = (mark: string) => Buffer.byteLength(text.slice(0, text.indexOf(mark)).replaceAll(/[«»‹›]/g, ''));
  const between = (from: string, to: string) => ({ offset: at(from), length: at(to) - at(from) });
  const bytes = Buffer.from(plainText);
  return { bytes, plain: bytes.toString('latin1'), own: between('«', '»'), other: between('‹', '›') };
}

type EditOf = (text: Marked) => Edit | readonly Edit[] | null;

/** What stands there after an edit; null where there is none. */
type Row = readonly [edit: EditOf, before: string, after: string | null];

function holdsTo(rows: readonly Row[]): void {
  const outcomes = rows.map(([edit, before]) => {
    const text = marked(before);
    const edits = edit(text);
    return [before, edits && Buffer.from(applyEdits(text.bytes, [edits].flat())).toString()];
  });
  assert.deepEqual(
    outcomes,
    rows.map(([, before, after]) => [before, after]),
  );
}

const put = insertionOf('<b>');
function insertionOf(markup: string): EditOf {
  return ({ bytes, own }) => insertTag(bytes, own, markup);
}
const move: EditOf = ({ bytes, own, other }) => moveTag(bytes, 'utf-8', own, other);
const moveToEnd: EditOf = ({ bytes, own }) => moveTagToEnd(bytes, 'utf-8', own);
const replace =
  (name: string, text: string): EditOf =>
  ({ bytes, own }) =>
    replaceAttribute(bytes, own, name, text);
const add: EditOf = ({ bytes, own }) => addAttribute(bytes, own, 'defer');
const makeOne: EditOf = ({ bytes, own }) => makeModule(bytes, own);
const wait =
  (goal: 'script' | 'module'): EditOf =>
  ({ bytes, own }) =>
    deferAsync(bytes, { ...own, goal });

const [a, b] = ['<script src="«a.js»"></script>', '<script src="‹b.js›"></script>'];
const [plainA, plainB] = ['<script src="a.js"></script>', '<script src="b.js"></script>'];

test('a script is moved with its line where it has one, and stays where it is not written as usual', () => {
  holdsTo([
    [move, `${b}${a}`, `${plainA}${plainB}`],
    [move, `<p>${b}x${a}y`, `<p>${plainA}${plainB}xy`],
    [move, `\n${b}\n${a}\n`, `\n${plainA}\n${plainB}\n`],
    [move, `${b}\n${a}\n`, `${plainA}\n${plainB}\n`],
    [move, `\t${b} \r\n  ${a}\t\r\n<p>`, `  ${plainA}\t\r\n\t${plainB} \r\n<p>`],
    [move, `\r${b}\r ${a}\rx`, `\r ${plainA}\r${plainB}\rx`],
    // Where one of the two shares its line, the tag alone is moved.
    [move, `<p>${b}\n ${a}\nx`, `<p>${plainA}${plainB}\n \nx`],
    [move, `${b}\n<p>${a}\n`, `${plainA}${plainB}\n<p>\n`],
    [move, `${b}\n${a}`, `${plainA}${plainB}\n`],
    [move, `${b} x\n${a}\n`, `${plainA}${plainB} x\n\n`],
    [
      move,
      'é<SCRIPT src=‹b.js› ></Script >é<script src=«a.js»>é</script>é',
      'é<script src=a.js>é</script><SCRIPT src=b.js ></Script >éé',
    ],
    // Code instead of an address.
    [
      move,
      '<script>‹let b›</script><script async>«let a»</script>',
      '<script async>let a</script><script>let b</script>',
    ],
    [move, `${b}<script>«if (x > 1) y»</script>z`, `<script>if (x > 1) y</script>${plainB}z`],
    // Not behind it; not without an end.
    [move, `${a}${b}`, null],
    [move, `${b}<script src="«a.js»">`, null],
    [move, `<img src="‹b.js›">${a}`, null],
    [move, `<p>«a.js»`, null],
    [move, `${b}<script src="«a.js»"`, null],
  ]);
});

test('a script is moved to the end of the body, or of what there is', () => {
  holdsTo([
    [moveToEnd, `<body>${a}<p>x</body>`, `<body><p>x${plainA}</body>`],
    [moveToEnd, `<body>\n  ${a}\n  <p>x\n</body>`, `<body>\n  <p>x\n  ${plainA}\n</body>`],
    [moveToEnd, `<body>\r\n${a}\r\n<p>x\r\n\t</BODY >\r\n`, `<body>\r\n<p>x\r\n${plainA}\r\n\t</BODY >\r\n`],
    [moveToEnd, `<body>\n${a}\n<p>x</body>`, `<body>\n<p>x${plainA}\n</body>`],
    [moveToEnd, `<body>${a}\n<p>x\n</body>\n`, `<body>\n<p>x\n${plainA}</body>\n`],
    [moveToEnd, `${a}<p>x</html>`, `<p>x${plainA}</html>`],
    [moveToEnd, `${a}<p>x`, `<p>x${plainA}`],
    [moveToEnd, `${a}\n<p>x\n`, `<p>x\n${plainA}\n`],
    [moveToEnd, `é${a}é</body>`, `éé${plainA}</body>`],
    // The last of them counts; what stands behind it stays.
    [moveToEnd, `${a}</body><p></body>`, `</body><p>${plainA}</body>`],
    [moveToEnd, `<body></body>${a}`, null],
    [moveToEnd, `<body>${a}</body>`, `<body>${plainA}</body>`],
    [moveToEnd, '<body><img src="«a.js»"></body>', null],
  ]);
});

test('a tag is put in front of a script, on a line of its own where that has one', () => {
  holdsTo([
    [put, `x${a}`, `x<b>${plainA}`],
    [put, `\n\t${a}\ny`, `\n\t<b>\n\t${plainA}\ny`],
    [put, `\r\n  ${a}  \r\n`, `\r\n  <b>\r\n  ${plainA}  \r\n`],
    [put, `\r${a}\ry`, `\r<b>\r${plainA}\ry`],
    [put, `  ${a}y`, `  <b>${plainA}y`],
    [put, `  ${a}`, `  <b>${plainA}`],
    [put, 'a.js «x»', null],
  ]);
});

test('attributes of a script are put in, replaced and taken away, whatever stands around them', () => {
  const tag = (inside: string) => `<script ${inside}></script>`;
  holdsTo([
    [add, tag('src="«a.js»"'), tag('src="a.js" defer')],
    [add, tag('src=«a.js»'), tag('src=a.js defer')],
    [add, '<script src="«a.js»"/></script>', '<script src="a.js" defer/></script>'],
    [add, '<script src="«a.js»" class="x" ></script>', '<script src="a.js" class="x"  defer></script>'],
    [add, '<script>«x»</script>', '<script defer>x</script>'],
    [add, '<p>«a.js»', null],
    [replace('async', 'defer'), tag('src="«a.js»" async'), tag('src="a.js" defer')],
    [replace('async', 'defer'), tag('async src="«a.js»"'), tag('defer src="a.js"')],
    [replace('async', 'defer'), tag('ASYNC="" src="«a.js»"'), tag('defer src="a.js"')],
    [replace('async', 'defer'), tag("src=«a.js»\n\tasync = 'async'  id=x"), tag('src=a.js\n\tdefer  id=x')],
    [replace('async', 'defer'), tag('src=«a.js» async=async'), tag('src=a.js defer')],
    [replace('async', ''), tag('src=«a.js»  async class=x'), tag('src=a.js class=x')],
    [
      replace('async', 'defer'),
      '<script src="«a.js»" async/></script>',
      '<script src="a.js" defer/></script>',
    ],
    [replace('async', 'defer'), tag('src="«a.js»" data-async asyncs'), null],
    [replace('async', 'defer'), `${tag('src="«a.js»"')}<script async></script>`, null],
    [replace('async', 'defer'), '<p async>«a.js»', null],
    [makeOne, tag('src="«a.js»" type="text/javascript"'), tag('src="a.js" type="module"')],
    [makeOne, tag('src="«a.js»"'), tag('src="a.js" type="module"')],
    [wait('script'), tag('src="«a.js»" async'), tag('src="a.js" defer')],
    [wait('script'), tag('defer src="«a.js»" async'), tag('defer src="a.js"')],
    [wait('module'), tag('type=module src="«a.js»" async'), tag('type=module src="a.js"')],
  ]);
});

const moveIn =
  (isPage: boolean): EditOf =>
  ({ plain, own }) =>
    moveImport(plain, own.offset, isPage);
const [moveInSheet, moveInPage] = [moveIn(false), moveIn(true)];
const quote: EditOf = ({ plain, own }) => quoteImport(plain, own.offset);
const straighten: EditOf = ({ plain, own }) => straightQuotes(plain, own.offset);

test('an import is moved to where it counts, behind what may stand there', () => {
  holdsTo([
    [moveInSheet, 'i{}\n«»@import "a.css";\nb{}', '@import "a.css";\ni{}\nb{}'],
    [
      moveInSheet,
      'i{}«»@import url(a.css) screen and (color);b{}',
      '@import url(a.css) screen and (color);\ni{}b{}',
    ],
    [moveInSheet, "i{}\r\n  «»@IMPORT 'a;.css';\r\n", "@IMPORT 'a;.css';\r\ni{}\r\n"],
    [moveInSheet, '\ufeffi{}\n«»@import "a.css";', '\ufeff@import "a.css";\ni{}'],
    [moveInSheet, '@charset "utf-8";\ni{}\n«»@import "a.css";', '@charset "utf-8";\n@import "a.css";\ni{}'],
    [
      moveInSheet,
      '/* a */ @layer x, y;\n@import "b.css" layer(x);\n\ni{}\n\t«»@import "a.css";',
      '/* a */ @layer x, y;\n@import "b.css" layer(x);\n@import "a.css";\n\ni{}',
    ],
    [
      moveInSheet,
      '@import url("b;.css")  screen; i{} «»@import "a.css";',
      '@import url("b;.css")  screen;\n@import "a.css"; i{}',
    ],
    [
      moveInSheet,
      '@import \'b;.css\' ; i{} «»@import "a.css";',
      '@import \'b;.css\' ;\n@import "a.css"; i{}',
    ],
    // A layer with rules in it is none that may stand in front.
    [moveInSheet, '@layer x{}\n«»@import "a.css";', '@import "a.css";\n@layer x{}'],
    [moveInSheet, 'i{}«»@import "é.css";', null],
    [moveInSheet, 'i{}«»@import "a.css"', null],
    [moveInSheet, 'i{}«»@import {};', null],
    [
      moveInPage,
      '<style>\n  i{}\n  «»@import "a.css";\n  b{}</style>',
      '<style>\n  @import "a.css";\n  i{}\n  b{}</style>',
    ],
    [
      moveInPage,
      '<style>u{}</style><STYLE media=x>i{}«»@import "a.css";</STYLE>',
      '<style>u{}</style><STYLE media=x>\n@import "a.css";i{}</STYLE>',
    ],
    [
      moveInPage,
      '<style>\n  /* a */\n  i{}\n«»@import "a.css";</style>',
      '<style>\n  /* a */\n  @import "a.css";\n  i{}</style>',
    ],
    [moveInPage, 'i{}«»@import "a.css";</style>', null],
    [moveInPage, 'i{}<style «»@import "a.css";</style>', null],
  ]);
});

test('quotes are put where a stylesheet needs them', () => {
  holdsTo([
    [quote, '«»@import a.css;', '@import "a.css";'],
    [quote, 'i{}\n«»@IMPORT\n ../css/a-1.min.CSS screen;', 'i{}\n@IMPORT\n "../css/a-1.min.CSS" screen;'],
    [quote, '«»@import a.css', null],
    [quote, '«»@import a.scss;', null],
    [quote, '«»@import (a.css);', null],
    [
      straighten,
      'a{content:“x”}\nb{«»content:“y” ‘z’ ‚w‛ „v‟}\ni{content:“u”}',
      'a{content:“x”}\nb{content:"y" \'z\' \'w\' "v"}\ni{content:“u”}',
    ],
    [straighten, '«»a{content:“x”}', 'a{content:"x"}'],
    [straighten, 'a{}\nb«»{c:“x”}', 'a{}\nb{c:"x"}'],
    [straighten, 'a«»{content:"–"}', 'a{content:"–"}'],
  ]);
});
