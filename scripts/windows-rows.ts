/** The calls that `npm run windows` compares. A way in braces, `{piers/north}`, is written as each system does. */
import { cases } from '../test/corpus/reference-cases.ts';

export interface Row {
  /** Files besides the library that every row has. */
  readonly files?: Readonly<Record<string, string>>;
  /** One after the other, in the same folder. */
  readonly calls: readonly (readonly string[])[];
}

const page = (title: string, body: string) =>
  `<!doctype html>\n<html lang="en">\n<head>\n<meta charset="utf-8">\n<title>${title}</title>\n<meta name="description" content="${title}">\n<meta name="viewport" content="width=device-width">\n</head>\n<body>\n${body}\n</body>\n</html>\n`;
const navigation =
  '<!-- Part: navigation -->\n<nav><a href="index.html">Home</a></nav>\n<!-- End of part: navigation -->';
const small = {
  'index.html': page('Home', `${navigation}\n<main><img src="images/Pier.svg" alt=""></main>`),
  'piers/north.html': page('North', '<nav><a href="../index.html">Home</a></nav><main></main>'),
  'images/pier.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
  'css/tide.css': '.a { background: url(../images/pier.svg) }',
  'js/tide.js': 'const tide = 1;',
};
const windowsLines = Object.fromEntries(
  Object.entries(small).map(([path, text]) => [path, text.replaceAll('\n', '\r\n')]),
);
const starters = ['flat', 'folders', 'assets', 'pages', 'source', 'stage'];
const formats = ['text', 'json', 'ndjson', 'sarif', 'junit', 'html'];

export const rows: readonly Row[] = [
  {
    calls: [
      ['--help'],
      ['rules'],
      ['rules', 'absent'],
      ['rules', 'none'],
      ['completion', 'bash'],
      ['completion', 'tcsh'],
      ['starters'],
      ['scaffold', '--help'],
    ],
  },
  ...starters.map((name) => ({
    calls: [
      ['starters', 'show', name],
      ['scaffold', 'ferry', '--starter', name, '--dry-run'],
      ['scaffold', 'ferry', '--starter', name, '--yes'],
      ['scaffold', 'ferry', '--starter', name, '--fill-in', '--yes'],
      ['check', 'ferry'],
      ['settings', '--dir', 'ferry'],
    ],
  })),
  {
    calls: [
      ['demo', 'try'],
      ...formats.map((format) => ['check', '{try/gullhaven-ferry-with-mistakes}', '--as', format]),
    ],
  },
  {
    calls: [
      ['demo', 'try'],
      ...['cause', 'file', 'spot'].map((cut) => [
        'check',
        'try/gullhaven-ferry-with-mistakes',
        '--by',
        cut,
        '--most',
        'all',
      ]),
      ['check', '{try/gullhaven-ferry-with-mistakes}', '--as', 'json', '--out', '{try/report.json}'],
      ['check', 'try', '--only', 'broken'],
      ['check', 'nowhere'],
    ],
  },
  ...[small, windowsLines].map((files) => ({
    files,
    calls: [
      ['check'],
      ['page', 'tides', '--title', 'Tides', '--description', 'Every tide.', '--in-nav'],
      ['page', '{piers/south}', '--like', '{piers/north.html}'],
      ['page', '{piers/south}'],
      ['parts', '--dry-run'],
      ['parts', '--replace'],
      ['wire', '{css/tide.css}', '{js/tide.js}', '--dry-run'],
      ['wire', '{css/tide.css}', '{js/tide.js}'],
      ['wire', '{js/tide.js}', '--remove', '--into', 'piers/**'],
      ['wire', 'css/none.css'],
      ['settings'],
      ['settings', '--as', 'json'],
      ['check', '--most', 'all'],
    ],
  })),
  ...[small, windowsLines].map((files) => ({
    files: {
      ...files,
      'piers/south.html': `${files['piers/north.html']}<style>\nb { color: red }\n</style>`,
    },
    calls: [
      ['mend', '--dry-run'],
      ['mend'],
      ['move', 'images', 'pictures', '--dry-run'],
      ['move', 'images', 'pictures'],
      ['move', '{css/tide.css}', '{css/Tide.css}'],
      ['move', '{piers/north.html}', '{piers/deep/}'],
      ['check', '--most', 'all'],
      ['lift', '{piers/south.html:14}'],
      ['remove', '{css/Tide.css}'],
      ['move', '--safe-names'],
      ['move', 'piers', 'Piers'],
      ['check', '--most', 'all'],
      ['move', 'index.html', '{../index.html}'],
      ['undo', '--finish'],
    ],
  })),
  {
    files: small,
    calls: [
      ['move', '{css/tide.css}', '{css/Tide.css}'],
      ['undo'],
      ['mend'],
      ['move', 'images', 'Images'],
      ['undo'],
      ['undo'],
      ['undo'],
      ['check', '--most', 'all'],
    ],
  },
  {
    files: {
      ...Object.fromEntries(Object.entries(small).map(([path, text]) => [`site/${path}`, text])),
      'other/index.html': page('Other', '<a href="pages/isle.html">Isle</a>'),
      'other/pages/isle.html': page(
        'Isle',
        `${navigation}<link rel="stylesheet" href="../look/isle.css"><img src="../look/isle.svg" alt="">`,
      ),
      'other/look/isle.css': '@import "base.css"; .b { background: url(isle.svg) }',
      'other/look/base.css': 'b { color: red }',
      'other/look/isle.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
      'site/pasted.html': page('Pasted', '<img src="look/isle.svg" alt=""><img src="look/none.svg" alt="">'),
    },
    calls: [
      ['bring', '{pages/isle.html}', '--from', 'other', '--dir', 'site', '--dry-run'],
      ['bring', '{pages/isle.html}', '--from', 'other', '--dir', 'site'],
      ['bring', '--missing', '--from', '{other}', '--dir', 'site'],
      ['bring', 'none', '--from', 'other', '--dir', 'site'],
      ['undo', '--list', '--dir', 'site'],
      ['undo', '--dir', 'site'],
      ['check', 'site', '--most', 'all'],
    ],
  },
  ...['../tide.zip', '../tide.tgz', '{../unpacked/tideclock-2.3.1}'].map((source) => ({
    files: Object.fromEntries(Object.entries(small).map(([path, text]) => [`site/${path}`, text])),
    calls: [
      ['adopt', source, '--wire', '--dir', 'site'],
      ['adopt', source, '--dir', 'site'],
      ['adopt', source, '--replace', '--dir', 'site'],
      ['adopt', '{../unpacked/tideclock-2.3.1/dist/css/theme.css}', '--as', 'theme', '--dir', 'site'],
      [
        'adopt',
        '{../unpacked/tideclock-2.3.1/dist/css/theme.css}',
        '--as',
        'skin',
        '--reach',
        '{../unpacked}',
        '--dir',
        'site',
      ],
      ['check', 'site', '--most', 'all'],
    ],
  })),
  {
    files: {
      ...Object.fromEntries(
        Object.entries(small).map(([path, text]) => [`site/${path}`, text.replace('Pier.svg', 'pier.svg')]),
      ),
      'site/drafts/later.html': '<p>Later',
      'site/images/pier.psd': 'layers',
      'site/404.html': page('Lost', '<a href="index.html">Home</a>'),
      'site/cravel.yaml': 'leave-out: [drafts/**]\n',
    },
    calls: [
      ['adopt', '../tide.zip', '--wire', '--dir', 'site'],
      ['release', 'show', '--dir', 'site'],
      ['release', 'on', '--dir', 'site'],
      ['release', 'off', '--dir', 'site'],
      ['pack', '--to', '{../out/ferry}', '--dir', 'site'],
      ['pack', '--to', '{../out/ferry}', '--dir', 'site', '--all-the-same'],
      ['pack', '--to', '{../out/ferry}', '--dir', 'site', '--all-the-same', '--shrink', '--named-by-content'],
      [
        'pack',
        '--to',
        '{../out/ferry}',
        '--dir',
        'site',
        '--at',
        'https://gullhaven.example/ferry/',
        '--dry-run',
      ],
      ['pack', '--to', '{../ferry.zip}', '--dir', 'site', '--all-the-same', '--at', '/ferry/'],
      ['pack', '--to', '{css/out}', '--dir', 'site', '--all-the-same'],
      ['pack', '--to', '..', '--dir', 'site', '--all-the-same'],
      ['visit', 'http://127.0.0.1:9/', '--dir', 'site'],
      ['map', '--as', 'json', '--dir', 'site'],
      ['map', '--dir', 'site'],
      ['map', '--as', 'html', '--out', '{../map.html}', '--dir', 'site'],
    ],
  },
  {
    files: Object.fromEntries(Object.entries(small).map(([path, text]) => [`site/${path}`, text])),
    calls: [
      ['keep', 'site', 'isle', '--dry-run'],
      ['keep', 'site', 'isle', '--blank', 'Home=title'],
      ['keep', 'site', 'isle'],
      ['keep', 'site', 'isle', '--replace'],
      ['starters'],
      ['starters', 'show', 'isle'],
      ['scaffold', 'other', '--starter', 'isle', '--yes'],
      ['check', 'other'],
    ],
  },
  {
    files: {
      ...small,
      'Tides.html': page('Tides', ''),
      'caf\u00e9.html': page('Caf\u00e9', '<a href="cafe\u0301.html">x</a><a href="TIDES.html">y</a>'),
      'cravel.yaml': 'places: { pages: piers, styles: css }\n',
    },
    calls: [
      ['page', './tides'],
      ['page', 'south'],
      ['page', './Tides.html'],
      ['check', '--most', 'all'],
      ['check', '{./piers/..}', '--only', 'letter-case,twin-names'],
      ['check', '<here>'],
      ['check', '<long>', '--only', 'broken'],
      ['page', './waves', '--dir', '<here>'],
      ['wire', '<here>', '--dir', '<here>'],
    ],
  },
  {
    files: small,
    calls: [
      ...['con', 'aux', 'nul.html', 'piers/com1', 'a:b', 'a*', 'a.', 'Tide Clock'].map((name) => [
        'page',
        name,
      ]),
      ['page', '../out'],
      ['page', '{../out}'],
      ['check', '--out', '{css/tide.css/x}'],
      ['check', '--as', 'none'],
      ['wire'],
    ],
  },
  {
    files: Object.fromEntries(
      cases.map(({ head, body }, index) => [
        `case-${index}.html`,
        `<!doctype html><head>${head}</head><body>${body}`,
      ]),
    ),
    calls: [['check', '--as', 'json']],
  },
];
