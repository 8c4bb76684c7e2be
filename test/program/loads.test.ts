/** `loads` and `who`, as people see them. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { cravel } from '../support/program.ts';
import { temporaryFolder } from '../support/site.ts';

const site = {
  'index.html': `<!doctype html><meta charset="utf-8"><title>x</title><link rel="stylesheet" href="css/a.css">
<img src="images/none.svg" alt=""><script src="js/u.js"></script><script src="js/l.js"></script>
<script src="https://tides.example/t.js" async></script>`,
  'css/a.css': '@import "b.css";',
  'css/b.css': 'p{background:url(../images/p.svg)}',
  'images/p.svg': '<svg xmlns="http://www.w3.org/2000/svg"/>',
  'js/u.js': 'Tideclock.start();\nif (window.Piers) Piers.open();',
  'js/l.js': 'var Tideclock = {};',
};

test('loads shows the files of a page in a table, its scripts, and both as data and as a picture', (t) => {
  const folder = temporaryFolder(t, site);
  const table = cravel(folder, 'loads', 'index.html');
  assert.equal(table.code, 0);
  const lines = table.stdout.split('\n');
  assert.ok(lines.every((line) => line.length <= 80));
  const rows = lines.filter((line) => /^\d/.test(line)).map((line) => line.split(/ {2,}/));
  assert.deepEqual(rows, [
    ['1', '1:83', 'css/a.css', '16', 'blocks rendering'],
    ['2', 'css/b.css', '34', 'blocks rendering'],
    ['3', 'images/p.svg', '41', 'if used'],
    ['4', '2:11', 'images/none.svg', 'not there', 'image'],
    ['5', '2:48', 'js/u.js', '50', 'blocks parsing'],
    ['6', '2:79', 'js/l.js', '19', 'blocks parsing'],
    ['7', '3:14', 'https://tides.example/t.js', 'elsewhere', 'async'],
    ['8 requests with the page, 407 bytes: 2 stylesheets (50), 2 images (41), 3'],
  ]);
  assert.match(table.stdout, /index\.html ▸ css\/a\.css ▸\s+css\/b\.css ▸ images\/p\.svg/);
  const scripts = cravel(folder, 'loads', 'index.html', '--scripts').stdout;
  assert.match(
    scripts,
    /^1 {2}js\/u\.js {3}blocks parsing\n {3}needs {4}Tideclock {2}made later\n {3}perhaps {2}Piers$/m,
  );
  assert.match(scripts, /^2 {2}js\/l\.js {3}blocks parsing\n {3}makes {4}Tideclock$/m);
  assert.match(scripts, /^3 {2}https:\/\/tides\.example\/t\.js {3}async\n {3}it lies on another host/m);
  const { steps, chain, beforePaint } = JSON.parse(cravel(folder, 'loads', '.', '--as', 'json').stdout);
  assert.deepEqual([steps.length, chain.length, beforePaint], [7, 4, 247 + 50]);
  const picture = cravel(folder, 'loads', 'index.html', '--as', 'svg').stdout;
  assert.match(picture, /^<svg xmlns="http:\/\/www\.w3\.org\/2000\/svg"[\s\S]*<\/svg>\n$/);
  assert.equal(picture.match(/<rect x="\d+(?:\.\d+)?" y="\d+" width/g)?.length, 8 + 4);
  const wrong = cravel(folder, 'loads', 'indx.html');
  assert.deepEqual([wrong.code, wrong.stdout], [2, '']);
  assert.match(wrong.stderr, /There is no file indx\.html in the site\.\nDid you mean: index\.html\?/);
});

test('who shows every spot that refers to a file', (t) => {
  const folder = temporaryFolder(t, site);
  assert.equal(
    cravel(folder, 'who', 'images/p.svg').stdout,
    'images/p.svg\n\ncss/b.css 1:18   url()   ../images/p.svg\n\nBy way of css/a.css ▸ css/b.css, 1 page:\n    index.html\n\n1 reference in 1 file.\n',
  );
  assert.match(cravel(folder, 'who', 'index.html').stdout, /^Nothing refers to it\.$/m);
  const { path, references } = JSON.parse(cravel(folder, 'who', 'css', '--as', 'json').stdout);
  assert.deepEqual([path, references.length, references[0].holder], ['css/', 1, 'link href']);
});
