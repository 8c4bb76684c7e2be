/** Addresses that scripts hand to the platform: code of js/a.js, and what is said of it where the page in the root runs it. */
export const platformAddresses: readonly (readonly [code: string, ...said: string[]])[] = [
  ['fetch("images/map.svg")'],
  ['fetch("map.svg")', 'absent fetch() map.svg -> images/map.svg'],
  ['self.fetch(`gone.json`)', 'absent fetch() gone.json'],
  [
    'const URL1 = "gone.json"; const a = "b"; fetch(URL1).then(() => fetch(URL1)); fetch(location.href)',
    'absent fetch() gone.json',
  ],
  [
    'document.querySelectorAll("img").forEach((i) => { i.src = "pier.svg" })',
    'absent src = pier.svg -> images/pier.svg',
  ],
  [
    'for (const i of document.getElementsByTagName("img")) i.src = "map.svg"',
    'absent src = map.svg -> images/map.svg',
  ],
  ['fetch("../images/none.svg")', 'beyond-site fetch() ../images/none.svg'],
  [
    'const x = new XMLHttpRequest(); x.open("GET", "data/gone.json"); x.send()',
    'absent open() data/gone.json',
  ],
  ['({ open() {} }).open("door", "data/gone.json")'],
  ['fetch(new Request("gone.json"))', 'absent new Request() gone.json'],
  [
    'const i = new Image(); i.src = "images/Pier.svg"',
    'letter-case src = images/Pier.svg -> images/pier.svg',
  ],
  ['new Image().src = "pier.svg"', 'absent src = pier.svg -> images/pier.svg'],
  ['document.getElementById("x").src = "pier.svg"', 'absent src = pier.svg -> images/pier.svg'],
  ['const i = document.querySelector("#x"); i.setAttribute("src", "gone.png")', 'absent src = gone.png'],
  [
    'const s = document.createElement("script"); s.src = "js/tides.js"; document.body.append(s)',
    'absent src = js/tides.js',
  ],
  [
    'const s = document.createElement("link"); s.rel = "stylesheet"; s.href = "css/b.css"; document.body.append(s)',
    'absent href = css/b.css',
  ],
  [
    'const v = document.createElement("video"); v.poster = "gone.png"; document.body.append(v)',
    'absent poster = gone.png',
  ],
  // What is no element of the page is nobody's to load.
  ['const boat = {}; boat.src = "boat.json"'],
  ['class Boat {} const boat = new Boat(); boat.src = "boat.json"'],
  ['function f(o) { o.src = "boat.json" } f({})'],
  ['new Audio("horn.mp3")', 'absent new Audio() horn.mp3'],
  ['new FontFace("F", "url(fonts/f.woff2)").load()', 'absent new FontFace() fonts/f.woff2'],
  [`new FontFace("F", 'url("f.woff2") format("woff2"), local(x)').load()`, 'absent new FontFace() f.woff2'],
  [
    'document.body.style.background = "url(pier.svg) red"',
    'absent style.background = pier.svg -> images/pier.svg',
  ],
  ['location = "gone.html"', 'absent location = gone.html'],
  ['window.location.href = "gone.html"', 'absent location.href = gone.html'],
  ['location.assign("gone.html")', 'absent location.assign() gone.html'],
  ['document.location.replace("gone.html")', 'absent location.replace() gone.html'],
  ['location.href = "#x"; "a".replace("gone.html", "x"); location.hash = "y"'],
  ['new Worker("js/gone.js")', 'absent new Worker() js/gone.js'],
  ['addEventListener("load", function () { fetch("gone.json") })', 'absent fetch() gone.json'],
];
