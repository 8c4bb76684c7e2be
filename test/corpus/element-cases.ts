/** Scripts that use elements of their page: whether a browser finds them, the rules are to say as well. */
import type { OrderCase } from './load-order-cases.ts';

/** Each runs before the elements, and on a page that has none of them. */
const uses: readonly string[] = [
  'document.getElementById("go").addEventListener("click", () => {});',
  'const go = document.getElementById("go");\ngo.textContent = "x";',
  'let go;\ngo = document.querySelector("#go");\ngo.hidden = true;',
  'document.querySelector(".big").hidden = true;',
  'document.querySelector("button").hidden = true;',
  'document.querySelector("button.go").hidden = true;',
  'document.querySelector("button#go.go.big").hidden = true;',
  'document.querySelector("main > button").hidden = true;',
  'document.querySelector("ul li").hidden = true;',
  'document.querySelector(".none, #go").hidden = true;',
  'document.querySelector("[name=day]").value = "x";',
  'document.querySelector("input[type=\'text\'][name]").value = "x";',
  'document.querySelector("#go:not(.x)").hidden = true;',
  'document.querySelector("UL").hidden = true;',
  'document.getElementsByClassName("big")[0].hidden = true;',
  'document.getElementsByClassName("go big")[0].hidden = true;',
  'document.getElementsByTagName("li")[1].hidden = true;',
  'document.getElementsByName("day")[0].value = "x";',
  'document.querySelectorAll("li")[0].hidden = true;',
  'document.querySelectorAll("li").item(1).hidden = true;',
  'document.forms.fares.submit;',
  'document.forms["fares"].elements.day.value = "x";',
  'document.forms[0].action = "x";',
  'const { forms } = document; forms.length;',
  'document.getElementById("go").querySelector("b").hidden = true;',
  'document.querySelector("main").append(document.getElementById("go").cloneNode(true));',
  'const { textContent } = document.getElementById("go");',
  'function show() { document.getElementById("go").hidden = true; }\nshow();',
  'const find = (id) => document.getElementById(id);\nfind("go").hidden = true;',
  'const $ = document.querySelector.bind(document);\n$("#go").hidden = true;',
  '["go", "gone"].forEach((id) => { document.getElementById(id).hidden = true; });',
  'const ui = { go: document.getElementById("go") };\nui.go.hidden = true;',
  'class Go { constructor() { this.go = document.querySelector(".go"); this.go.hidden = true; } }\nnew Go();',
  'window.document.getElementById("go").hidden = true;',
  'var d = document;\nd.getElementById("go").hidden = true;',
  '(function (doc) { doc.getElementById("go").hidden = true; })(document);',
  'document.getElementById("go").onclick = function () {};\nmissing();',
  'document.getElementById("go").textContent = missing();',
  'document.getElementById("go").style.width = missing();',
  'document.documentElement.appendChild(document.getElementById("go"));',
  'getComputedStyle(document.getElementById("go")).color;',
  'new MutationObserver(() => {}).observe(document.getElementById("go"), { childList: true });',
  'document.getElementById(`go`).hidden = true;',
  'document.getElementById("go")["hidden"] = true;',
  'document.getElementById("go").classList.add("x");',
  'const id = "go";\ndocument.getElementById(id).hidden = true;',
  'var go = null;\ngo = document.getElementById("go");\ngo.hidden = true;',
  // With a guard, and as lists.
  'const go = document.getElementById("go");\nif (go) go.hidden = true;',
  'document.getElementById("go")?.remove();',
  'const go = document.getElementById("go");\ngo && go.remove();',
  '(function () { const go = document.getElementById("go"); if (!go) return; go.remove(); })();',
  'const go = document.getElementById("go");\nif (go === null) { console.log(1); } else go.remove();',
  'try { document.getElementById("go").remove(); } catch {}',
  'addEventListener("click", () => document.getElementById("go").remove());',
  'document.querySelectorAll("li").forEach((one) => one.remove());',
  'for (const one of document.getElementsByClassName("go")) one.hidden = true;',
  'document.getElementsByTagName("li").length;',
  'const go = document.getElementById("go") || document.documentElement;\ngo.hidden = true;',
  'const go = document.getElementById("go") ?? document.createElement("p");\ngo.hidden = true;',
  'function never() { document.getElementById("go").remove(); }',
  'console.log(document.getElementById("go"));',
  'document.querySelector("html").lang = "en"; document.querySelector("head").id = "h"; document.head.id;',
  'document.querySelector(":root").id = "r"; document.querySelector("*").id = "s";',
  'document.currentScript.remove();',
  'document.getElementById("go" + Math.random()) === null;',
  'const go = document.createElement("b");\ngo.id = "go";\ndocument.documentElement.append(go);\ndocument.getElementById("go").hidden = true;',
  'document.documentElement.insertAdjacentHTML("beforeend", "<i class=big></i>");\ndocument.querySelector(".big").hidden = true;',
];
const elements = `<main><button id="go" class="go big" name="go"><b>Go</b></button>
<form name="fares"><input type="text" name="day"></form><ul><li>a<li>b</ul></main>`;
const START =
  '<!doctype html><html lang="en"><meta charset="utf-8"><title>x</title><link rel=icon href=data:,>';
const run = (code: string, type = '') => `<script${type}>\n${code}\n</script>\n`;

/** The markup of a page. */
const pages: readonly (readonly [about: string, markup: string, files?: OrderCase['files']])[] = [
  ['body in the head', `${run('document.body.className = "x";')}<body>`],
  [
    'body in the head, later',
    `${run('addEventListener("load", () => { document.body.className = "x"; });')}<body>`,
  ],
  ['body in the body', `<body>${run('document.body.className = "x";')}`],
  ['body behind what implies it', `<p>x</p>${run('document.body.append("x");')}`],
  [
    'body implied by nothing yet',
    `<link rel="stylesheet" href="data:text/css,">${run('document.body.append("x");')}<p>`,
  ],
  ['a file in the head', `<script src="x.js"></script><body>${elements}`, { 'x.js': uses[0] as string }],
  ['a file that waits', `<script src="x.js" defer></script><body>${elements}`, { 'x.js': uses[0] as string }],
  ['a module', `${run(uses[0] as string, ' type="module"')}<body>${elements}`],
  ['a module on a page without', `${run(uses[0] as string, ' type="module"')}<body>`],
  [
    'behind the elements',
    `<body>${elements}${run(
      uses
        .slice(0, 6)
        .map((one) => `{${one}}`)
        .join('\n'),
    )}`,
  ],
  [
    'between the elements',
    `<body>${elements.replace('<ul>', `${run('document.getElementsByTagName("li")[0].hidden = true;')}<ul>`)}`,
  ],
  [
    'the second of a list',
    `<body><ul><li>a</ul>${run('document.querySelectorAll("li")[1].hidden = true;')}<ul><li>b</ul>`,
  ],
  ['in its own element', `<body><div id="go">${run(uses[0] as string)}</div>`],
  ['in a template', `<body><template>${elements}</template>${run(uses[0] as string)}`],
  ['in a comment', `<body><!-- ${elements} -->${run(uses[0] as string)}`],
  ['in a noscript', `<body><noscript>${elements}</noscript>${run(uses[0] as string)}`],
  ['in an iframe', `<body><iframe srcdoc="<p id=go>"></iframe>${run(uses[0] as string)}`],
  ['an id in capitals', `<body><p id="Go">${run(uses[0] as string)}`],
  [
    'an element of an image',
    `<body><svg><circle id="go"/></svg>${run('document.querySelector("circle").remove; document.querySelector("#go").id;')}`,
  ],
  [
    'rows that the parser makes',
    `<body><table><tr><td>x</table>${run('document.querySelector("tbody").id = "x";')}`,
  ],
  [
    'an attribute without quotes',
    `<body><p class=go id=go>${run('document.querySelector("p.go#go").hidden = true;')}`,
  ],
  ['an id with a reference', `<body><p id="g&#111;">${run(uses[0] as string)}`],
  [
    'ready',
    `${run('document.addEventListener("DOMContentLoaded", () => { document.getElementById("go").hidden = true; });')}<body>${elements}`,
  ],
  [
    'ready, on a page without',
    `${run('document.addEventListener("DOMContentLoaded", () => {\ndocument.getElementById("go").hidden = true; });')}<body>`,
  ],
  [
    'looked for early, used when ready',
    `${run('const go = document.getElementById("go");\naddEventListener("load", () => {\ngo.hidden = true; });')}<body>${elements}`,
  ],
  [
    'by a function of another script',
    `<script src="x.js"></script>${run('show("go");')}<body>${elements}`,
    { 'x.js': 'function show(id) {\ndocument.getElementById(id).hidden = true; }' },
  ],
  [
    'by a function of another script, in time',
    `<script src="x.js"></script><body>${elements}${run('show("go"); show("gone-for-good") && 1;')}`,
    {
      'x.js': 'function show(id) {\nconst one = document.getElementById(id);\nif (one) one.hidden = true; }',
    },
  ],
  [
    'given to a function of another script',
    `<script src="x.js"></script><body>${run('hide(document.querySelector(".none"));')}${elements}`,
    { 'x.js': 'function hide(one) {\none.hidden = true; }' },
  ],
  [
    'given on to another one',
    `<script src="x.js"></script><body>${run('outer(document.querySelector("#go"), "x");')}${elements}`,
    {
      'x.js':
        'function outer(one, two) { inner(two, one); }\nfunction inner(text, one) {\none.title = text; }',
    },
  ],
  [
    'given to a function of a module',
    `<body>${elements}<script type="module">\nimport { draw } from "./m.js";\ndraw(document.querySelector("#chart"));\ndraw(document.querySelector("#go"));</script>`,
    { 'm.js': 'export function draw(one) {\none.title = "x"; }' },
  ],
  [
    'given to a function that looks for more in it',
    `<script src="x.js"></script><body>${elements}${run('look(document.createDocumentFragment());')}`,
    { 'x.js': 'function look(one) { const found = one.querySelector(".none"); if (found) found.remove(); }' },
  ],
  [
    'what a function of another script gives',
    `<script src="x.js"></script><body>${run('byId("go").hidden = true;')}${elements}`,
    { 'x.js': 'function byId(id) { return document.getElementById(id); }' },
  ],
  [
    'what a function of another script gives, in time and with a guard',
    `<script src="x.js"></script><body>${elements}${run('byId("go").hidden = true; byId("none")?.remove();')}`,
    { 'x.js': 'const byId = (id) => document.getElementById(id);' },
  ],
  [
    'what a function of a module gives',
    `<body>${elements}<script type="module">\nimport { one } from "./m.js";\none(".none").title = "x";</script>`,
    {
      'm.js':
        'export const one = (selector) => document.querySelector(selector);\nexport const first = () => document.querySelector("b");',
    },
  ],
  [
    'what a function of another script gives of what is always there',
    `<script src="x.js"></script><body>${run('body().title = "x"; other().x.y = 1;')}`,
    { 'x.js': 'function body() { return document.body; }\nfunction other() { return { x: {} }; }' },
  ],
  [
    'a copy of what a template has',
    `<body><template id="t"><p id="copied">x</p></template>${run('document.body.append(document.getElementById("t").content.cloneNode(true));\ndocument.getElementById("copied").title = "x";')}`,
  ],
  [
    'what a piece has that is put in',
    `<body><div id="box"></div>${run('fetch("nav.html").then((answer) => answer.text()).then((text) => {\ndocument.getElementById("box").innerHTML = text;\ndocument.querySelector(".toggle").title = "x"; });')}`,
    { 'nav.html': '<nav><b class="toggle">x</b></nav>' },
  ],
  [
    'what markup may have that nobody sees before',
    `<body><div id="box"></div>${run('fetch("d.json").then((answer) => answer.json()).then((data) => {\ndocument.getElementById("box").innerHTML = data.markup;\ndocument.querySelector(".toggle").title = "x"; });')}`,
    { 'd.json': '{ "markup": "<b class=toggle></b>" }' },
  ],
  [
    'what another script makes',
    `<body><script src="x.js"></script>${run(uses[0] as string)}`,
    { 'x.js': 'document.body.innerHTML = "<p id=go>";' },
  ],
  [
    'what another script makes later',
    `<body>${run(uses[0] as string)}<script src="x.js"></script>`,
    { 'x.js': 'document.body.innerHTML = "<p id=go>";' },
  ],
  [
    'an id that is put together',
    `<body>${run('for (const n of [1]) { const p = document.createElement("p"); p.id = "row-" + n; document.body.append(p); }\ndocument.getElementById("row-1").hidden = true;')}`,
  ],
  ['written', `<body>${run('document.write("<p id=go>");\ndocument.getElementById("go").hidden = true;')}`],
  [
    'what follows is not run',
    `<body>${run('document.getElementById("go").hidden = true;\nmissing();\nwindow.made = 1;')}${run('made.x;')}`,
  ],
  ['a handler of the body', `<body onload="document.getElementById('go').hidden = true">${elements}`],
  [
    'names of forms',
    `<body><form id="fares"><input id="day"></form>${run('document.forms.fares.elements.day.value = 1; document.forms.length; document.forms.none.x;')}`,
  ],
];

export const elementCases: readonly OrderCase[] = [
  ...uses.flatMap((code): OrderCase[] => [
    { about: `before: ${code}`, markup: `${START}<body>\n${run(code)}${elements}`, files: {} },
    { about: `without: ${code}`, markup: `${START}<body>\n${run(code)}`, files: {} },
  ]),
  ...pages.map(([about, markup, files = {}]) => ({ about, markup: START + markup, files })),
];
