/**
 * Pages and the scripts that they run: what is missing on them a browser says, and the rules are to say the same. Each is
 * the markup of `index.html`, and its files; `a(…)` is short for script elements with these sources.
 */
export interface OrderCase {
  readonly about: string;
  readonly markup: string;
  readonly files: Readonly<Record<string, string>>;
}

type Row = readonly [about: string, markup: string, files?: Readonly<Record<string, string>>];

/** `<script src="…"></script>` for each; `x.js defer` has the attribute. */
function a(...sources: readonly string[]): string {
  return sources
    .map((source) => {
      const [path, ...attributes] = source.split(' ');
      return `<script ${[`src="${path}"`, ...attributes].join(' ')}></script>\n`;
    })
    .join('');
}
const run = (code: string, type = '') => `<script${type}>\n${code}\n</script>\n`;
const runModule = (code: string) => run(code, ' type="module"');
const click = (code: string) => `<button onclick="${code}">x</button>\n`;

/** Libraries as they are built. */
const plainLib = 'var Tideclock = { start: function () {}, tick: 3 };';
const umd = (name: string, factory: string, needs = '') => `(function (root, factory) {
  if (typeof define === 'function' && define.amd) define(['exports'], factory);
  else if (typeof exports === 'object') factory(exports);
  else factory((root.${name} = {})${needs});
})(typeof self !== 'undefined' ? self : this, function (exports${needs === '' ? '' : ', base'}) { ${factory} });`;
const umdExpression = (name: string) =>
  `!function(e,t){"object"==typeof exports&&"undefined"!=typeof module?module.exports=t():"function"==typeof define&&define.amd?define(t):(e="undefined"!=typeof globalThis?globalThis:e||self).${name}=t()}(this,function(){"use strict";return{start:function(){}}});`;
const likeBase = `( function( global, factory ) {
  "use strict";
  if ( typeof module === "object" && typeof module.exports === "object" ) { module.exports = factory( global, true ); }
  else { factory( global ); }
} )( typeof window !== "undefined" ? window : this, function( window, noGlobal ) {
  var base = function( selector ) { return new base.fn.init( selector ); };
  base.fn = base.prototype = { ready: function( fn ) { window.setTimeout( fn ); return this; }, each: function() { return this; } };
  base.fn.init = function( ready ) { if ( typeof ready === 'function' ) window.setTimeout( ready ); return this; };
  base.fn.init.prototype = base.fn;
  base.extend = function() { return base; };
  if ( typeof noGlobal === "undefined" ) { window.jQuery = window.$ = base; }
  return base;
} );`;
const bundle = `(()=>{var e={123:(e,t,n)=>{n.d(t,{Z:()=>r});const r=class{start(){}}}},t={};function n(r){var o=t[r];if(void 0!==o)return o.exports;var i=t[r]={exports:{}};return e[r](i,i.exports,n),i.exports}n.d=(e,t)=>{for(var r in t)Object.defineProperty(e,r,{enumerable:!0,get:t[r]})};var r=n(123);window.Tideclock=r.Z})();`;

const rows: readonly Row[] = [
  // The order of classic scripts
  ['a library, then its user', a('l.js', 'u.js'), { 'l.js': plainLib, 'u.js': 'Tideclock.start();' }],
  ['its user first', a('u.js', 'l.js'), { 'l.js': plainLib, 'u.js': 'Tideclock.start();' }],
  ['no library at all', a('u.js'), { 'u.js': 'Tideclock.start();' }],
  ['a library that the page forgot', a('u.js'), { 'u.js': 'Tideclock.start();', 'l.js': plainLib }],
  ['a name that is nearly right', a('l.js', 'u.js'), { 'l.js': plainLib, 'u.js': 'Tideclok.start();' }],
  ['wrong letter case', a('l.js', 'u.js'), { 'l.js': plainLib, 'u.js': 'tideclock.start();' }],
  ['code of the page before the library', run('Tideclock.start();') + a('l.js'), { 'l.js': plainLib }],
  ['code of the page behind it', a('l.js') + run('Tideclock.start();'), { 'l.js': plainLib }],
  [
    'two users, one of them early',
    a('u.js', 'l.js', 'v.js'),
    { 'l.js': plainLib, 'u.js': 'Tideclock.start();', 'v.js': 'Tideclock.start();' },
  ],
  [
    'what stands behind the throw is not made',
    a('u.js', 'v.js'),
    { 'u.js': 'nowhere.go();\nwindow.Piers = {};', 'v.js': 'Piers.open();' },
  ],
  [
    'functions of a script that throws are there',
    a('u.js', 'v.js'),
    { 'u.js': 'nowhere.go();\nfunction openPiers() {}', 'v.js': 'openPiers();' },
  ],
  [
    'var of a script that throws is there, undefined',
    a('u.js', 'v.js'),
    { 'u.js': 'nowhere.go();\nvar Piers = 1;', 'v.js': 'console.log(Piers);' },
  ],
  [
    'let of a script that throws is not',
    a('u.js', 'v.js'),
    { 'u.js': 'nowhere.go();\nlet Piers = 1;', 'v.js': 'console.log(Piers);' },
  ],
  [
    'a class used before the file that defines it',
    a('u.js', 'l.js'),
    { 'u.js': 'new Ferry();', 'l.js': 'class Ferry {}' },
  ],
  [
    'a class extended before',
    a('u.js', 'l.js'),
    { 'u.js': 'class Boat extends Ferry {}', 'l.js': 'class Ferry {}' },
  ],
  [
    'a class extended behind',
    a('l.js', 'u.js'),
    { 'u.js': 'class Boat extends Ferry {}\nnew Boat();', 'l.js': 'class Ferry {}' },
  ],
  [
    'const of another script',
    a('l.js', 'u.js'),
    { 'l.js': 'const PIERS = [1];', 'u.js': 'PIERS.forEach(function () {});' },
  ],
  [
    'const of a later script',
    a('u.js', 'l.js'),
    { 'l.js': 'const PIERS = [1];', 'u.js': 'PIERS.forEach(function () {});' },
  ],
  // defer, async, modules
  ['deferred in order', a('l.js defer', 'u.js defer'), { 'l.js': plainLib, 'u.js': 'Tideclock.start();' }],
  [
    'deferred out of order',
    a('u.js defer', 'l.js defer'),
    { 'l.js': plainLib, 'u.js': 'Tideclock.start();' },
  ],
  [
    'a deferred user of a blocking library behind it',
    a('u.js defer', 'l.js'),
    { 'l.js': plainLib, 'u.js': 'Tideclock.start();' },
  ],
  [
    'a blocking user of a deferred library',
    a('l.js defer', 'u.js'),
    { 'l.js': plainLib, 'u.js': 'Tideclock.start();' },
  ],
  [
    'code of the page that uses a deferred library',
    a('l.js defer') + run('Tideclock.start();'),
    { 'l.js': plainLib },
  ],
  [
    'code with defer, which says nothing there',
    a('l.js defer') + run('Tideclock.start();', ' defer'),
    { 'l.js': plainLib },
  ],
  [
    'a module of the page uses a deferred library',
    a('l.js defer') + runModule('Tideclock.start();'),
    { 'l.js': plainLib },
  ],
  [
    'a module before the deferred library',
    runModule('Tideclock.start();') + a('l.js defer'),
    { 'l.js': plainLib },
  ],
  ['a module before a blocking library', runModule('Tideclock.start();') + a('l.js'), { 'l.js': plainLib }],
  [
    'a module keeps its names',
    a('l.js type="module"', 'u.js defer'),
    { 'l.js': 'var Tideclock = {};', 'u.js': 'Tideclock.start();' },
  ],
  [
    'a module gives a name on purpose',
    a('l.js type="module"', 'u.js defer'),
    { 'l.js': 'window.Tideclock = { start() {} };', 'u.js': 'Tideclock.start();' },
  ],
  [
    'that comes too late for a blocking script',
    a('l.js type="module"', 'u.js'),
    { 'l.js': 'window.Tideclock = {};', 'u.js': 'Tideclock.start();' },
  ],
  [
    'what a module imports runs first',
    a('m.js type="module"'),
    { 'm.js': "import './l.js';\nTideclock.start();", 'l.js': 'globalThis.Tideclock = { start() {} };' },
  ],
  [
    'a module runs once',
    a('m.js type="module"', 'n.js type="module"'),
    {
      'm.js': "import { a } from './l.js';\na();",
      'n.js': "import { a } from './l.js';\na();",
      'l.js': 'export function a() { Piers; }\nglobalThis.Piers = 1;',
    },
  ],
  [
    'a chain of modules',
    a('m.js type="module"'),
    {
      'm.js': "import { b } from './b.js';\nb();",
      'b.js': "import { c } from './c.js';\nexport const b = () => c();",
      'c.js': 'export const c = () => 1;\nmissing();',
    },
  ],
  [
    'modules in a circle',
    a('m.js type="module"'),
    {
      'm.js': "import { b } from './b.js';\nexport const a = 1;\nb();",
      'b.js': "import { a } from './m.js';\nexport const b = () => a;",
    },
  ],
  [
    'a module that lacks an export',
    a('m.js type="module"'),
    { 'm.js': "import { openPiers } from './l.js';\nopenPiers();", 'l.js': 'export function openPier() {}' },
  ],
  [
    'a module without a default export',
    a('m.js type="module"'),
    { 'm.js': "import piers from './l.js';\npiers();", 'l.js': 'export function openPier() {}' },
  ],
  [
    'exports by way of another module',
    a('m.js type="module"'),
    {
      'm.js': "import { x } from './b.js';\nx();",
      'b.js': "export * from './c.js';",
      'c.js': 'export const x = () => {};',
    },
  ],
  [
    'exports under another name',
    a('m.js type="module"'),
    {
      'm.js': "import { y as z } from './b.js';\nz();",
      'b.js': "export { x as y } from './c.js';",
      'c.js': 'export const x = () => {};',
    },
  ],
  [
    'an import map',
    `<script type="importmap">{"imports":{"piers":"./l.js"}}</script>${runModule("import { open } from 'piers';\nopen();")}`,
    { 'l.js': 'export const open = () => Tideclock;' },
  ],
  [
    'an import map, and an export that is not there',
    `<script type="importmap">{"imports":{"piers":"./l.js"}}</script>${runModule("import { shut } from 'piers';\nshut();")}`,
    { 'l.js': 'export const open = () => 1;' },
  ],
  ['modules are strict', a('m.js type="module"'), { 'm.js': 'piers = 1;' }],
  [
    'no this in a module',
    a('m.js type="module"', 'u.js defer'),
    { 'm.js': 'if (this) this.Piers = 1;', 'u.js': 'Piers;' },
  ],
  // What runs at load
  [
    'a function that is called',
    a('u.js'),
    { 'u.js': 'function start() {\n  Tideclock.start();\n}\nstart();' },
  ],
  ['a function that nobody calls', a('u.js'), { 'u.js': 'function start() {\n  Tideclock.start();\n}' }],
  [
    'a function by way of a name',
    a('u.js'),
    { 'u.js': 'const start = function () {\n  Tideclock.start();\n};\nstart();' },
  ],
  [
    'an arrow function',
    a('u.js'),
    { 'u.js': 'const start = () => Tideclock.start();\nconst go = () => start();\ngo();' },
  ],
  [
    'a method of an object',
    a('u.js'),
    {
      'u.js': 'const App = {\n  init() { this.show(); },\n  show() { Tideclock.start(); },\n};\nApp.init();',
    },
  ],
  [
    'a method that is added later',
    a('u.js'),
    { 'u.js': 'var App = App || {};\nApp.init = function () { Tideclock.start(); };\nApp.init();' },
  ],
  [
    'a class and its method',
    a('u.js'),
    {
      'u.js': 'class App {\n  constructor() { this.draw(); }\n  draw() { Tideclock.start(); }\n}\nnew App();',
    },
  ],
  [
    'a method of the parent',
    a('u.js'),
    {
      'u.js':
        'class Base {\n  draw() { Tideclock.start(); }\n}\nclass App extends Base {\n  constructor() { super(); this.draw(); }\n}\nnew App();',
    },
  ],
  ['a static block', a('u.js'), { 'u.js': 'class App {\n  static { Tideclock.start(); }\n}' }],
  ['a static field', a('u.js'), { 'u.js': 'class App {\n  static clock = Tideclock;\n}' }],
  [
    'a field of an object that is made',
    a('u.js'),
    { 'u.js': 'class App {\n  clock = Tideclock;\n}\nnew App();' },
  ],
  ['a field of one that is not', a('u.js'), { 'u.js': 'class App {\n  clock = Tideclock;\n}' }],
  [
    'an old constructor and its prototype',
    a('u.js'),
    {
      'u.js':
        'function App() { this.draw(); }\nApp.prototype.draw = function () { Tideclock.start(); };\nnew App();',
    },
  ],
  ['a function called at once', a('u.js'), { 'u.js': '(function () {\n  Tideclock.start();\n})();' }],
  ['with its argument', a('u.js'), { 'u.js': '(function ($) {\n  $.x();\n})(jQuery);' }],
  [
    'an argument that is there',
    a('l.js', 'u.js'),
    { 'l.js': likeBase, 'u.js': '(function ($) {\n  $("#x");\n})(jQuery);' },
  ],
  ['an arrow called at once', a('u.js'), { 'u.js': '(() => {\n  Tideclock.start();\n})();' }],
  ['by call', a('u.js'), { 'u.js': '(function () {\n  this.Piers = Tideclock;\n}).call(this);' }],
  ['void and not', a('u.js'), { 'u.js': '!function () {\n  Tideclock.start();\n}();' }],
  [
    'each of a list',
    a('u.js'),
    { 'u.js': "['north', 'south'].forEach(function (pier) {\n  Tideclock.start(pier);\n});" },
  ],
  ['each of no list', a('u.js'), { 'u.js': '[].forEach(function (pier) {\n  Tideclock.start(pier);\n});' }],
  [
    'map of a list of the script',
    a('u.js'),
    { 'u.js': "const piers = ['north'];\nconst all = piers.map((pier) => Tideclock.start(pier));" },
  ],
  [
    'sort of one is never asked',
    a('u.js'),
    { 'u.js': "['north'].sort((one, other) => collate(one, other));" },
  ],
  ['sort of two', a('u.js'), { 'u.js': "['north', 'south'].sort((one, other) => collate(one, other));" }],
  ['reduce', a('u.js'), { 'u.js': '[1, 2].reduce((sum, one) => add(sum, one), 0);' }],
  ['find stops at the first', a('u.js'), { 'u.js': '[1, 2].find((one) => isPier(one));' }],
  ['for of a list', a('u.js'), { 'u.js': "for (const pier of ['north']) {\n  Tideclock.start(pier);\n}" }],
  ['a counted loop', a('u.js'), { 'u.js': 'for (let i = 0; i < 3; i++) {\n  Tideclock.start(i);\n}' }],
  [
    'a loop that never runs',
    a('u.js'),
    { 'u.js': 'for (let i = 0; i < 0; i++) {\n  Tideclock.start(i);\n}' },
  ],
  ['a template', a('u.js'), { 'u.js': `const text = \`at \${Tideclock.tick}\`;` }],
  ['a default that is used', a('u.js'), { 'u.js': 'function start(clock = Tideclock) {}\nstart();' }],
  ['a default that is not', a('u.js'), { 'u.js': 'function start(clock = Tideclock) {}\nstart(1);' }],
  ['taken apart', a('u.js'), { 'u.js': 'const { start } = Tideclock;' }],
  ['a getter that nobody asks', a('u.js'), { 'u.js': 'const App = { get clock() { return Tideclock; } };' }],
  ['a generator runs nothing', a('u.js'), { 'u.js': 'function* all() {\n  yield Tideclock;\n}\nall();' }],
  [
    'a promise runs its function at once',
    a('u.js'),
    { 'u.js': 'new Promise(() => {\n  Tideclock.start();\n});' },
  ],
  [
    'an async function up to its wait',
    a('u.js'),
    { 'u.js': 'async function load() {\n  Tideclock.start();\n  await 1;\n}\nload();' },
  ],
  [
    'what goes on after an async function',
    a('u.js', 'v.js'),
    {
      'u.js': 'async function load() {\n  nowhere.go();\n}\nload();\nwindow.Piers = { open() {} };',
      'v.js': 'Piers.open();',
    },
  ],
  ['a function in a condition that holds', a('u.js'), { 'u.js': 'if (true) {\n  Tideclock.start();\n}' }],
  ['and one that does not', a('u.js'), { 'u.js': 'if (false) {\n  Tideclock.start();\n}' }],
  ['behind a return', a('u.js'), { 'u.js': '(function () {\n  return;\n  Tideclock.start();\n})();' }],
  ['a switch', a('u.js'), { 'u.js': "switch ('north') {\n  case 'south':\n    Tideclock.start();\n}" }],
  // What does not run at load
  [
    'a listener',
    a('u.js'),
    { 'u.js': "document.addEventListener('click', function () {\n  Tideclock.start();\n});" },
  ],
  [
    'a list of elements',
    a('u.js'),
    { 'u.js': "document.querySelectorAll('.pier').forEach((one) => Tideclock.start(one));" },
  ],
  [
    'a function given to somebody',
    a('u.js'),
    { 'u.js': 'const App = { on(event, call) { this.call = call; } };\nApp.on(1, () => Tideclock.start());' },
  ],
  // Guards
  ['typeof', a('u.js'), { 'u.js': "if (typeof Tideclock !== 'undefined') Tideclock.start();" }],
  ['typeof in an expression', a('u.js'), { 'u.js': "typeof Tideclock === 'object' && Tideclock.start();" }],
  [
    'typeof turned round',
    a('u.js'),
    { 'u.js': "if (typeof Tideclock === 'undefined') console.log('none');\nelse Tideclock.start();" },
  ],
  [
    'typeof and an early return',
    a('u.js'),
    {
      'u.js': "(function () {\n  if (typeof Tideclock === 'undefined') return;\n  Tideclock.start();\n})();",
    },
  ],
  ['window.x', a('u.js'), { 'u.js': 'if (window.Tideclock) Tideclock.start();' }],
  ['window.x &&', a('u.js'), { 'u.js': 'window.Tideclock && Tideclock.start();' }],
  ['window.x?.', a('u.js'), { 'u.js': 'window.Tideclock?.start();' }],
  ['x?. is no guard', a('u.js'), { 'u.js': 'Tideclock?.start();' }],
  ['x && is no guard', a('u.js'), { 'u.js': 'Tideclock && Tideclock.start();' }],
  ['in window', a('u.js'), { 'u.js': "if ('Tideclock' in window) Tideclock.start();" }],
  ['try', a('u.js'), { 'u.js': 'try {\n  Tideclock.start();\n} catch (error) {}' }],
  [
    'try and finally',
    a('u.js'),
    { 'u.js': 'try {\n  Tideclock.start();\n} finally {\n  console.log(1);\n}' },
  ],
  [
    'what stands behind a try',
    a('u.js'),
    { 'u.js': 'try {\n  Tideclock.start();\n} catch {}\nPiers.open();' },
  ],
  [
    'what a try would have made',
    a('u.js', 'v.js'),
    { 'u.js': 'try {\n  Tideclock.start();\n  window.Piers = 1;\n} catch {}', 'v.js': 'Piers;' },
  ],
  [
    'a name that is made if it is not there',
    a('u.js', 'v.js'),
    { 'u.js': 'window.Piers = window.Piers || {};\nPiers.open = function () {};', 'v.js': 'Piers.open();' },
  ],
  [
    '??= and ||=',
    a('u.js', 'v.js'),
    { 'u.js': 'window.Piers ??= {};\nwindow.Boats ||= {};', 'v.js': 'Piers;\nBoats;' },
  ],
  ['a property of what is not there', a('u.js'), { 'u.js': 'window.Tideclock.start();' }],
  ['a function of the window that is not there', a('u.js'), { 'u.js': 'window.startTides();' }],
  ['delete', a('u.js'), { 'u.js': 'delete window.Tideclock;' }],
  // How names are made
  ['window.x =', a('l.js', 'u.js'), { 'l.js': 'window.Tideclock = {};', 'u.js': 'Tideclock;' }],
  ["window['x'] =", a('l.js', 'u.js'), { 'l.js': "window['Tideclock'] = {};", 'u.js': 'Tideclock;' }],
  [
    'self, globalThis, this',
    a('l.js', 'u.js'),
    { 'l.js': 'self.A = 1;\nglobalThis.B = 1;\nthis.C = 1;', 'u.js': 'A;\nB;\nC;' },
  ],
  ['without a declaration', a('l.js', 'u.js'), { 'l.js': 'Tideclock = {};', 'u.js': 'Tideclock;' }],
  ['without one in strict code', a('l.js'), { 'l.js': "'use strict';\nTideclock = {};" }],
  ['in a strict function', a('l.js'), { 'l.js': "(function () {\n  'use strict';\n  counter = 1;\n})();" }],
  ['in a class', a('l.js'), { 'l.js': 'class A {\n  constructor() { counter = 1; }\n}\nnew A();' }],
  [
    'Object.assign',
    a('l.js', 'u.js'),
    { 'l.js': 'Object.assign(window, { Tideclock: {} });', 'u.js': 'Tideclock;' },
  ],
  [
    'Object.defineProperty',
    a('l.js', 'u.js'),
    { 'l.js': "Object.defineProperty(window, 'Tideclock', { value: {} });", 'u.js': 'Tideclock;' },
  ],
  [
    'in a function that is called',
    a('l.js', 'u.js'),
    { 'l.js': '(function () {\n  Tideclock = {};\n})();', 'u.js': 'Tideclock;' },
  ],
  [
    'inside of a function',
    a('l.js', 'u.js'),
    { 'l.js': '(function () {\n  var Tideclock = {};\n})();', 'u.js': 'Tideclock;' },
  ],
  [
    'in a block',
    a('l.js', 'u.js'),
    {
      'l.js': '{\n  let Tideclock = {};\n  var Piers = 1;\n  function boats() {}\n}',
      'u.js': 'Piers;\nboats;\nTideclock;',
    },
  ],
  [
    'var in a loop',
    a('l.js', 'u.js'),
    { 'l.js': 'for (var pier = 0; pier < 2; pier++);', 'u.js': 'console.log(pier);' },
  ],
  [
    'taken apart into names',
    a('l.js', 'u.js'),
    { 'l.js': 'var { a, b: [c, ...d], e = 1 } = { a: 1, b: [2] };', 'u.js': 'a;\nc;\nd;\ne;\nb;' },
  ],
  [
    'a name in a list of names',
    a('l.js', 'u.js'),
    {
      'l.js': "'Piers Boats'.split(' ').forEach(function (name) {\n  window[name] = {};\n});",
      'u.js': 'Piers;\nBoats;',
    },
  ],
  [
    'names that are put together',
    a('l.js', 'u.js'),
    { 'l.js': 'for (const name in document) window[name + name] = 1;', 'u.js': 'titletitle;' },
  ],
  [
    'a function of the script that makes it',
    a('l.js', 'u.js'),
    {
      'l.js': 'function give(name, value) {\n  window[name] = value;\n}\ngive("Piers", {});',
      'u.js': 'Piers;',
    },
  ],
  [
    'a name made by a call from another script',
    a('l.js', 'u.js'),
    { 'l.js': 'function give() {\n  window.Piers = {};\n}', 'u.js': 'give();\nPiers;' },
  ],
  [
    'only when somebody clicks',
    a('l.js', 'u.js'),
    { 'l.js': "document.addEventListener('click', () => {\n  window.Piers = {};\n});", 'u.js': 'Piers;' },
  ],
  [
    'only once the page is there',
    a('l.js', 'u.js'),
    {
      'l.js': "document.addEventListener('DOMContentLoaded', () => {\n  window.Piers = {};\n});",
      'u.js': 'Piers;',
    },
  ],
  // Wrappers
  [
    'a universal wrapper',
    a('l.js', 'u.js'),
    { 'l.js': umd('Tideclock', 'exports.start = function () {};'), 'u.js': 'Tideclock.start();' },
  ],
  ['a small one', a('l.js', 'u.js'), { 'l.js': umdExpression('Tideclock'), 'u.js': 'Tideclock.start();' }],
  ['a wrapper that needs a base', a('l.js'), { 'l.js': umd('Tideclock', 'base.x();', ', root.Base') }],
  [
    'a wrapper that names its base',
    a('l.js'),
    {
      'l.js':
        '!function(e,t){"object"==typeof exports?module.exports=t(require("base")):t(Base)}(this,function(b){b.x()});',
    },
  ],
  [
    'a base library',
    a('l.js', 'u.js'),
    { 'l.js': likeBase, 'u.js': '$("#pier").each(function () {});\njQuery.extend({});' },
  ],
  [
    'a plugin before its base',
    a('p.js', 'l.js'),
    { 'l.js': likeBase, 'p.js': '(function ($) {\n  $.fn.slide = function () {};\n})(jQuery);' },
  ],
  [
    'a plugin behind its base',
    a('l.js', 'p.js'),
    { 'l.js': likeBase, 'p.js': '(function ($) {\n  $.fn.slide = function () {};\n})(jQuery);' },
  ],
  ['a bundle', a('l.js', 'u.js'), { 'l.js': bundle, 'u.js': 'new Tideclock();' }],
  [
    'the global object by way of Function',
    a('l.js', 'u.js'),
    { 'l.js': "var root = Function('return this')();\nroot.Tideclock = {};", 'u.js': 'Tideclock;' },
  ],
  ['for servers only', a('u.js'), { 'u.js': "const fs = require('fs');" }],
  ['module.exports alone', a('u.js'), { 'u.js': 'class App {}\nmodule.exports = App;' }],
  [
    'module.exports with a guard',
    a('u.js'),
    { 'u.js': "class App {}\nif (typeof module !== 'undefined') module.exports = App;" },
  ],
  ['process.env', a('u.js'), { 'u.js': "if (process.env.NODE_ENV !== 'production') console.log(1);" }],
  // Ready callbacks
  [
    'jQuery ready',
    a('l.js', 'u.js'),
    { 'l.js': likeBase, 'u.js': '$(function () {\n  $("#x").each();\n});' },
  ],
  ['jQuery ready without jQuery', a('u.js'), { 'u.js': '$(function () {\n  $("#x").each();\n});' }],
  ['document ready without jQuery', a('u.js'), { 'u.js': '$(document).ready(function () {});' }],
  ['jQuery ready before jQuery', run('$(function () {});') + a('l.js'), { 'l.js': likeBase }],
  // Once the page is there
  [
    'a load listener needs what nobody makes',
    a('u.js'),
    { 'u.js': "addEventListener('load', () => {\n  Tideclock.start();\n});" },
  ],
  [
    'a load listener finds what comes later',
    a('u.js', 'l.js'),
    { 'l.js': plainLib, 'u.js': "addEventListener('load', () => {\n  Tideclock.start();\n});" },
  ],
  [
    'DOMContentLoaded',
    a('u.js'),
    {
      'u.js':
        "document.addEventListener('DOMContentLoaded', start);\nfunction start() {\n  Tideclock.start();\n}",
    },
  ],
  ['window.onload', a('u.js'), { 'u.js': 'window.onload = function () {\n  Tideclock.start();\n};' }],
  ['a timer', a('u.js'), { 'u.js': 'setTimeout(() => {\n  Tideclock.start();\n}, 0);' }],
  ['the next frame', a('u.js'), { 'u.js': 'queueMicrotask(function () {\n  Tideclock.start();\n});' }],
  [
    'a ready callback that lacks a library',
    a('l.js', 'u.js'),
    { 'l.js': likeBase, 'u.js': '$(function () {\n  Tideclock.start();\n});' },
  ],
  [
    'document ready that lacks one',
    a('l.js', 'u.js'),
    { 'l.js': likeBase, 'u.js': '$(document).ready(function () {\n  Tideclock.start();\n});' },
  ],
  [
    'a listener with a guard',
    a('u.js'),
    {
      'u.js':
        "addEventListener('load', () => {\n  if (!document.querySelector('#x')) return;\n  Tideclock.start();\n});",
    },
  ],
  [
    'a listener of a script that stops before',
    a('u.js'),
    { 'u.js': "nowhere();\naddEventListener('load', () => {\n  Tideclock.start();\n});" },
  ],
  [
    'two listeners, both fail',
    a('u.js'),
    {
      'u.js':
        "addEventListener('load', () => {\n  Tideclock.start();\n});\naddEventListener('load', () => {\n  Piers.open();\n});",
    },
  ],
  [
    'an element that a listener finds further down',
    `${a('u.js')}<p id="pier"></p>`,
    { 'u.js': "addEventListener('load', () => {\n  pier.textContent = 1;\n});" },
  ],
  [
    'a name that a listener makes for another',
    a('u.js', 'v.js'),
    {
      'u.js': "addEventListener('load', () => {\n  window.Piers = { open() {} };\n});",
      'v.js': "addEventListener('load', () => {\n  Piers.open();\n});",
    },
  ],
  // Odd corners of the language
  [
    'a label and a break',
    a('u.js'),
    {
      'u.js':
        'outer: for (const a of [1]) {\n  for (const b of [1]) break outer;\n  Tideclock.start();\n}\nPiers.open();',
    },
  ],
  ['do while', a('u.js'), { 'u.js': 'do {\n  Tideclock.start();\n} while (false);' }],
  ['a while that never runs', a('u.js'), { 'u.js': 'while (false) {\n  Tideclock.start();\n}' }],
  ['a loop that breaks before', a('u.js'), { 'u.js': 'for (;;) {\n  break;\n}\nTideclock.start();' }],
  ['continue', a('u.js'), { 'u.js': 'for (const a of [1, 2]) {\n  continue;\n  Tideclock.start();\n}' }],
  ['a comma', a('u.js'), { 'u.js': '(0, Tideclock.start)();' }],
  ['a tagged template', a('u.js'), { 'u.js': 'html`<p>x</p>`;' }],
  [
    'new.target and super',
    a('u.js'),
    {
      'u.js':
        'class A {\n  constructor() { if (new.target === A) Tideclock.start(); }\n}\nclass B extends A {\n  constructor() { super(); Piers.open(); }\n}\nnew B();',
    },
  ],
  [
    'a setter',
    a('u.js'),
    { 'u.js': 'const App = { set clock(value) { this.x = Tideclock; } };\nApp.other = 1;' },
  ],
  ['spread', a('u.js'), { 'u.js': 'const all = [...piers];' }],
  [
    'an argument by its name',
    a('u.js'),
    { 'u.js': 'function go(call) {\n  call();\n}\ngo(() => Tideclock.start());' },
  ],
  [
    'a function of a list',
    a('u.js'),
    { 'u.js': 'const steps = [() => Tideclock.start()];\nfor (const step of steps) step();' },
  ],
  [
    'a chain of then',
    a('u.js'),
    {
      'u.js':
        'const App = {\n  set() { return this; },\n  go() { Tideclock.start(); return this; },\n};\nApp.set().go();',
    },
  ],
  ['apply', a('u.js'), { 'u.js': 'function go(a) { a.x; }\ngo.apply(null, [Tideclock]);' }],
  ['bind', a('u.js'), { 'u.js': 'const go = function () { Tideclock.start(); }.bind(null);\ngo();' }],
  [
    'an object of a class',
    a('u.js'),
    {
      'u.js':
        'class App {\n  static start() { new App().run(); }\n  run() { Tideclock.start(); }\n}\nApp.start();',
    },
  ],
  [
    'a private method',
    a('u.js'),
    {
      'u.js': 'class App {\n  #run() { Tideclock.start(); }\n  constructor() { this.#run(); }\n}\nnew App();',
    },
  ],
  [
    'a name that is hidden by a parameter',
    a('u.js'),
    { 'u.js': '(function (Tideclock) {\n  Tideclock.x;\n})({});' },
  ],
  [
    'a name that is hidden by var further down',
    a('u.js'),
    { 'u.js': '(function () {\n  typeof Tideclock;\n  if (Tideclock) Tideclock.x;\n  var Tideclock;\n})();' },
  ],
  [
    'catch has its own name',
    a('u.js'),
    { 'u.js': 'try {\n  throw 1;\n} catch (Tideclock) {\n  Tideclock.x;\n}' },
  ],
  ['what fails in a catch', a('u.js'), { 'u.js': 'try {\n  throw 1;\n} catch {\n  Tideclock.x;\n}' }],
  [
    'typeof and else',
    a('u.js'),
    { 'u.js': "if (typeof window === 'undefined') module.exports = 1;\nelse window.Piers = Tideclock;" },
  ],
  [
    'a ternary',
    a('u.js'),
    { 'u.js': "const root = typeof window !== 'undefined' ? window : global;\nroot.Piers = Tideclock;" },
  ],
  [
    'a handler with this and event',
    click('go(this, event)') + a('u.js'),
    { 'u.js': 'function go(one, event) {}' },
  ],
  ['a body onload', '<body onload="go()">', {}],
  // Names before their own declaration
  ['let before its line', a('u.js'), { 'u.js': 'console.log(pier);\nlet pier = 1;' }],
  ['a class before its line', a('u.js'), { 'u.js': 'new Ferry();\nclass Ferry {}' }],
  ['a function before its line', a('u.js'), { 'u.js': 'start();\nfunction start() {}' }],
  [
    'const in a function that is called too early',
    a('u.js'),
    { 'u.js': 'start();\nconst PIERS = [];\nfunction start() {\n  console.log(PIERS);\n}' },
  ],
  ['typeof of a let before its line', a('u.js'), { 'u.js': 'typeof pier;\nlet pier = 1;' }],
  // What browsers and pages give
  [
    'names of browsers',
    a('u.js'),
    {
      'u.js':
        'document.title; location.href; localStorage; navigator; history; screen; fetch; URL; Intl; customElements; matchMedia; structuredClone; crypto; CSS; performance; Audio; Image; Option; name; status; event; top; parent; undefined; NaN;',
    },
  ],
  ['an element by its id', `<p id="pier"></p>${a('u.js')}`, { 'u.js': 'pier.textContent = "x";' }],
  ['an element further down', `${a('u.js')}<p id="pier"></p>`, { 'u.js': 'pier.textContent = "x";' }],
  [
    'a deferred script finds it',
    `${a('u.js defer')}<p id="pier"></p>`,
    { 'u.js': 'pier.textContent = "x";' },
  ],
  ['a form by its name', `<form name="fares"></form>${a('u.js')}`, { 'u.js': 'fares.reset();' }],
  ['an anchor by its name is none', `<a name="fares"></a>${a('u.js')}`, { 'u.js': 'fares.x;' }],
  // Scripts that do not run
  ['a syntax error', a('u.js', 'v.js'), { 'u.js': 'window.Piers = {;', 'v.js': 'Piers.open();' }],
  ['a syntax error in code of the page', run('startTides(;'), {}],
  [
    'import in a classic script',
    a('u.js'),
    { 'u.js': "import { x } from './l.js';\nx();", 'l.js': 'export const x = () => {};' },
  ],
  ['export in a classic script', a('u.js'), { 'u.js': 'export const x = 1;' }],
  [
    'await at the first level of a classic script',
    a('u.js'),
    { 'u.js': 'const x = await fetch("index.html");' },
  ],
  [
    'await at the first level of a module',
    a('u.js type="module"'),
    { 'u.js': 'await 1;\nTideclock.start();' },
  ],
  ['with in a module', a('u.js type="module"'), { 'u.js': 'with (document) title;' }],
  [
    'a module that does not parse, and what imports it',
    a('m.js type="module"'),
    { 'm.js': "import './l.js';\nTideclock.start();", 'l.js': 'const = 1;' },
  ],
  ['nomodule', `${a('l.js nomodule')}${a('u.js')}`, { 'l.js': plainLib, 'u.js': 'Tideclock.start();' }],
  ['data', `<script type="text/template">${'{{Tideclock}}'}</script>`, {}],
  ['a template', `<template>${run('Tideclock.start();')}</template>`, {}],
  ['noscript', `<noscript>${run('Tideclock.start();')}</noscript>`, {}],
  // Handlers
  ['a handler', a('u.js') + click('start()'), { 'u.js': 'function start() {}' }],
  ['a handler of a script behind it', click('start()') + a('u.js'), { 'u.js': 'function start() {}' }],
  ['a handler that calls nothing', click('start()'), {}],
  ['a handler that is nearly right', a('u.js') + click('strat()'), { 'u.js': 'function start() {}' }],
  ['a handler and a const', a('u.js') + click('start()'), { 'u.js': 'const start = () => {};' }],
  ['a handler and a module', a('m.js type="module"') + click('start()'), { 'm.js': 'function start() {}' }],
  [
    'a handler and a module that gives it',
    a('m.js type="module"') + click('start()'),
    { 'm.js': 'window.start = () => {};' },
  ],
  [
    'a handler and a name inside a function',
    a('u.js') + click('start()'),
    { 'u.js': '(function () {\n  function start() {}\n})();' },
  ],
  [
    'a handler and a name inside a ready callback',
    a('u.js') + click('start()'),
    { 'u.js': "addEventListener('load', function () {\n  function start() {}\n});" },
  ],
  [
    'a handler and a name that a ready callback gives',
    a('u.js') + click('start()'),
    { 'u.js': "addEventListener('load', function () {\n  window.start = function () {};\n});" },
  ],
  [
    'a handler that does by itself',
    click("this.textContent = 'x'; return false") + click('alert') + click('focus(); getElementById'),
    {},
  ],
  ['a handler that guards', click("if (typeof start === 'function') start()"), {}],
  ['two handlers', click('start()') + click('stop2()') + a('u.js'), { 'u.js': 'function start() {}' }],
  ['a handler of an object', click('App.start()') + a('u.js'), { 'u.js': 'const App = { start() {} };' }],
  ['a handler of an object that is not there', click('App.start()'), {}],
  ['a handler with quotes', "<button onclick='start(&quot;x&quot;)'>x</button>", {}],
  // Calls across scripts
  [
    'a function of another script needs a name',
    a('l.js', 'u.js'),
    { 'l.js': 'function start() {\n  Tideclock.start();\n}', 'u.js': 'start();' },
  ],
  [
    'a function of another script, nobody calls it',
    a('l.js', 'u.js'),
    { 'l.js': 'function start() {\n  Tideclock.start();\n}', 'u.js': 'console.log(1);' },
  ],
  [
    'a method of another script',
    a('l.js') + run('App.init();'),
    { 'l.js': 'const App = {\n  init: function () { Tideclock.start(); },\n};' },
  ],
  [
    'a class of another script',
    a('l.js') + run('new App();'),
    { 'l.js': 'class App {\n  constructor() { Tideclock.start(); }\n}' },
  ],
  [
    'it comes in time',
    a('l.js', 't.js') + run('App.init();'),
    { 'l.js': 'const App = { init() { Tideclock.start(); } };', 't.js': plainLib },
  ],
  // Throws of its own
  [
    'it throws by itself',
    a('u.js', 'v.js'),
    { 'u.js': "throw new Error('no');\nwindow.Piers = 1;", 'v.js': 'Piers;' },
  ],
  [
    'it throws where the base is missing',
    a('u.js'),
    { 'u.js': "if (typeof Base === 'undefined') throw new ReferenceError('Base is not defined'); Base.x();" },
  ],
  [
    'eval may make anything',
    a('l.js', 'u.js'),
    { 'l.js': "(0, eval)('window.Piers = 1');", 'u.js': 'Piers;' },
  ],
  [
    'so may a script that is written',
    run("document.write('<scr' + 'ipt>window.Piers = 1</scr' + 'ipt>');") + a('u.js'),
    { 'u.js': 'Piers;' },
  ],
  // Documents in srcdoc, each with names of its own
  ...(
    [
      ['a library in a document', '<script src=l.js></script><script src=u.js></script>', ''],
      ['a document whose page has the library', '<script src=u.js></script>', a('l.js')],
      ['a page whose document has the library', '<script src=l.js></script>', a('u.js')],
      ['a document with its user first', '<script src=u.js></script><script src=l.js></script>', ''],
      ['a document in a document', "<iframe srcdoc='<script src=u.js></script>'></iframe>", ''],
    ] as const
  ).map(
    ([about, inside, outside]): Row => [
      about,
      `<iframe srcdoc="${inside}"></iframe>${outside}`,
      { 'l.js': plainLib, 'u.js': 'Tideclock.start();' },
    ],
  ),
  [
    'a document that may run no script',
    '<iframe sandbox srcdoc="<script src=u.js></script>"></iframe>',
    { 'u.js': 'Tideclock.start();' },
  ],
  [
    'the documents of a page by their numbers',
    `<iframe></iframe>${a('u.js')}`,
    { 'u.js': 'frames[0].focus();' },
  ],
];

export const orderCases: readonly OrderCase[] = rows.map(([about, markup, files = {}]) => ({
  about,
  markup,
  files,
}));
