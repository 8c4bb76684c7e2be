/** What the preview does in a browser: pages stay up to date, and the deck shows what took effect. */
import assert from 'node:assert/strict';
import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { test } from 'node:test';
import type { Page } from 'playwright-core';
import { pagesOfBrowser, servePlainly } from '../support/browser.ts';
import { html, idle, previewOf, svg } from '../support/previewed.ts';
import { type Files, temporaryFolder } from '../support/site.ts';

const newPage = pagesOfBrowser();

const main = '@import "base.css"; body { background-image: url(../sea.svg); background-color: ';

const ferry: Files = {
  'index.html': html(
    '<link rel="stylesheet" href="css/main.css">',
    `<link rel="stylesheet" href="css/tide, (low)&amp;high@sea.css"><input id="name"><img id="boat" src="boat.svg" alt=""><div style="height:3000px"></div><script src="js/a.js"></script>`,
  ),
  'other.html': html('<link rel="stylesheet" href="css/main.css">', '<p>Other</p>'),
  'css/main.css': `${main}rgb(1, 1, 1) }`,
  'sea.svg': svg(50),
  'css/tide, (low)&high@sea.css': 'body { outline-color: rgb(1, 1, 1) }',
  'css/base.css': 'body { color: rgb(2, 2, 2) }',
  'boat.svg': svg(20),
  'js/a.js': 'window.tide = (window.tide || 0) + 1;',
  'js/work.js': 'importScripts("part.js");',
  'js/part.js': 'postMessage("low")',
  'worker.html': html(
    '',
    '<script>new Worker("js/work.js").onmessage = ({ data }) => { document.title = data }</script>',
  ),
};

/** Waits until something holds in the page. */
const holds = (page: Page, expression: string) => page.waitForFunction(expression);
const style = (name: string) => `getComputedStyle(document.body).${name}`;

test('a saved style or image is swapped in place, a saved page or script reloads the pages that load it alone', async (t) => {
  const folder = temporaryFolder(t, ferry);
  const { site } = await previewOf(t, folder);
  const write = (path: string, text: string) => writeFileSync(join(folder, path), text);
  const [index, other, worker] = [await newPage(), await newPage(), await newPage()];
  await Promise.all([index.goto(site), other.goto(`${site}other.html`), worker.goto(`${site}worker.html`)]);
  for (const page of [index, other, worker]) await page.evaluate('window.stays = true');
  await index.fill('#name', 'Ida');
  await index.evaluate('scrollTo(0, 700)');
  const isAsBefore = async () => {
    assert.equal(
      await index.evaluate('[window.stays, scrollY, document.querySelector("#name").value].join()'),
      'true,700,Ida',
    );
    assert.equal(await other.evaluate('window.stays'), true);
  };
  write('css/main.css', `${main}rgb(3, 3, 3) }`);
  for (const page of [index, other]) await holds(page, `${style('backgroundColor')} === 'rgb(3, 3, 3)'`);
  await isAsBefore();
  write('css/base.css', 'body { color: rgb(4, 4, 4) }');
  for (const page of [index, other]) await holds(page, `${style('color')} === 'rgb(4, 4, 4)'`);
  await isAsBefore();
  write('css/tide, (low)&high@sea.css', 'body { outline-color: rgb(5, 5, 5) }');
  await holds(index, `${style('outlineColor')} === 'rgb(5, 5, 5)'`);
  await isAsBefore();
  write('boat.svg', svg(50));
  await holds(index, 'document.querySelector("#boat").naturalWidth === 50');
  await isAsBefore();
  const spot = () => index.screenshot({ clip: { x: 300, y: 300, width: 40, height: 40 } });
  const before = await spot();
  write('sea.svg', svg(50).replace('<rect', '<rect fill="#00f" width="90" height="90"/><rect'));
  while ((await spot()).equals(before)) await index.waitForTimeout(50);
  await isAsBefore();
  write('js/a.js', 'window.tide = 7;');
  await holds(index, 'window.tide === 7');
  assert.equal(await index.evaluate('window.stays'), undefined);
  assert.equal(await other.evaluate('window.stays'), true);
  write('other.html', html('', '<p id="new">New</p>'));
  await other.waitForSelector('#new');
  assert.equal(await worker.evaluate('window.stays'), true);
  write('js/part.js', 'postMessage("high")');
  await holds(worker, 'document.title === "high"');
  // What is not there yet comes once it is.
  const late = await newPage();
  await late.goto(`${site}late.html`);
  assert.match((await late.textContent('h1')) ?? '', /gets nothing here/);
  write('late.html', html('', '<p id="late">Late</p>'));
  await late.waitForSelector('#late');
  // Nothing of the preview is in the document or on the disk.
  assert.equal(await late.evaluate('document.scripts.length'), 0);
  assert.doesNotMatch(readFileSync(join(folder, 'index.html'), 'utf8'), /cravel/);
});

test('a thousand files saved at once, and browsers that go away, are no trouble', async (t) => {
  const pages = Object.fromEntries(
    Array.from({ length: 1000 }, (_none, index) => [`p/${index}.html`, html('', `<p>${index}</p>`)]),
  );
  const folder = temporaryFolder(t, { ...ferry, ...pages });
  const { site } = await previewOf(t, folder);
  const [stays, leaves] = [await newPage(), await newPage()];
  await stays.goto(`${site}p/999.html`);
  await leaves.goto(`${site}p/1.html`);
  for (const path of Object.keys(pages)) {
    writeFileSync(join(folder, path), html('', '<p id="now">now</p>'));
    if (path === 'p/500.html') await leaves.close();
  }
  await stays.waitForSelector('#now');
  rmSync(join(folder, 'p/3.html'));
  const gone = await newPage();
  await gone.goto(`${site}p/3.html`);
  assert.match((await gone.textContent('main')) ?? '', /there is no file 3\.html in p/);
  await gone.goto(`${site}p/4.html`);
  await gone.waitForSelector('#now');
});

test('an address where nothing is says where it goes wrong, what was meant, who refers to it and what mends it', async (t) => {
  const folder = temporaryFolder(t, {
    'index.html': html('', '<a href="piers/nort.html">North</a>'),
    'piers/north.html': html('', '<p>North</p>'),
  });
  const { site, deck } = await previewOf(t, folder);
  const page = await newPage();
  const answer = await page.goto(`${site}piers/nort.html`);
  assert.equal(answer?.status(), 404);
  const text = (await page.innerText('body')).replace(/\s+/g, ' ');
  assert.match(
    text,
    /\/ ▸ piers\/ ▸ nort\.html there is no file nort\.html in piers\. Probably meant piers\/north\.html Who refers to it index\.html 1:\d+ piers\/nort\.html meant piers\/north\.html What mends it cravel move --already piers\/nort\.html piers\/north\.html/,
  );
  // A page of the site's own for that comes in its place, and the deck says the rest.
  writeFileSync(join(folder, '404.html'), html('', '<p id="own">Lost at sea</p>'));
  const asked =
    'fetch(location.href).then((answer) => answer.text()).then((text) => text.includes("Lost at sea"))';
  while (!(await page.evaluate(asked))) await page.waitForTimeout(50);
  assert.equal((await page.goto(`${site}piers/nort.html`))?.status(), 404);
  await page.waitForSelector('#own');
  const shown = await newPage();
  await shown.goto(deck);
  await shown.frameLocator('iframe[name="cravel-1280"]').locator('a').click();
  await shown.waitForSelector('text=A visitor gets nothing at /piers/nort.html');
});

test('the deck proves file by file what took effect, and names what sticks out, what was said and what is found', async (t) => {
  const folder = temporaryFolder(t, idle);
  const { deck } = await previewOf(t, folder);
  const page = await newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(deck);
  const panel = page.locator('#panel');
  const row = (name: string) => panel.locator('li', { hasText: name }).first();
  await page.click('#tab-files');
  const rows: readonly (readonly [file: string, says: RegExp])[] = [
    ['css/idle.css', /no effect here.*0 of 2 rules match here/],
    ['css/works.css', /took effect.*4 of 6 rules match here/],
    ['js/throws.js', /failed.*threw: .*lighthouse is not defined \(line 2\)/],
    ['js/runs.js', /took effect.*ran, makes harbour, gull/],
    ['images/pier.png', /failed.*what came is no image/],
    ['images/boat.svg', /took effect.*20 × 10, shown 5 × \d/],
    ['imges/boat.svg', /failed.*not there/],
    ['fonts/unused.woff2', /not asked for/],
    ['○ Unused', /declared, and nothing here is set in it/],
  ];
  for (const [file, says] of rows) {
    await row(file).filter({ hasText: says }).waitFor();
  }
  await row('css/works.css').locator('text=Which rules match nothing anywhere?').click();
  await row('css/works.css').locator('text=1 match nothing on the 2 pages').waitFor();
  await row('css/works.css')
    .filter({ hasText: /\.lost b$/ })
    .waitFor();
  await page.click('#tab-edges');
  await panel.locator('h2', { hasText: '320 px' }).waitFor();
  await panel.locator('h2', { hasText: '390 px' }).waitFor();
  assert.match(await panel.innerText(), /320 px\s+p\.wide \d+ px over the edge\s+390 px/);
  assert.doesNotMatch(await panel.innerText(), /768/);
  await page.click('#tab-said');
  const said = [
    /console warning\s+low tide/,
    /exception .*lighthouse is not defined\s*\/js\/throws\.js 2/,
    /did not arrive\s+img did not get it\s*\/imges\/boat\.svg/,
  ];
  for (const words of said) await panel.filter({ hasText: words }).waitFor();
  // A sure mend, and back.
  await page.click('#tab-findings');
  const finding = panel.locator('li', { hasText: 'imges/boat.svg' });
  assert.match(
    await finding.innerText(),
    /broken · absent[\s\S]*imges\/ ▸ boat\.svg[\s\S]*meant\s+images\/boat\.svg/,
  );
  await finding.locator('button').click();
  await page.waitForSelector('text=Mended 1 finding in 1 file.');
  await finding.waitFor({ state: 'detached' });
  assert.match(readFileSync(join(folder, 'index.html'), 'utf8'), /src="images\/boat\.svg" alt="" id="lost"/);
  await page.click('text=Take back');
  await page.waitForSelector('text=Taken back: mend from the preview.');
  await finding.waitFor();
  // By keyboard: the pages, the widths, dark and light.
  await page.locator('header').click();
  await page.keyboard.press('/');
  await page.keyboard.type('abo');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  const view = (width: number) => page.frameLocator(`iframe[name="cravel-${width}"]`);
  for (const width of [320, 390, 768, 1280]) await view(width).locator('em').waitFor();
  assert.equal((await page.title()).split(' ')[0], 'about.html');
  await page.locator('header').click();
  await page.keyboard.press('1');
  await page.waitForSelector('figure.main >> text=320');
});

test('a page that is chosen comes, whatever becomes of the page before it', async (t) => {
  const folder = temporaryFolder(t, {
    'index.html': html(
      '<script>let n = 0; setInterval(() => console.warn(n++), 250)</script>',
      '<p>Loud</p>',
    ),
    'quiet.html': html('', '<em>Quiet</em>'),
  });
  const { deck } = await previewOf(t, folder);
  const page = await newPage();
  await page.goto(deck);
  await page.waitForSelector('#tab-said >> text=/[1-9]/');
  await page.route('**/quiet.html', async (route) => {
    await new Promise((done) => setTimeout(done, 600));
    await route.continue();
  });
  await page.click('.pages >> text=quiet.html');
  await page.waitForTimeout(300);
  // Saved while it is being left.
  writeFileSync(join(folder, 'index.html'), html('', '<p>Still</p>'));
  await page.frameLocator('iframe[name="cravel-1280"]').locator('em').waitFor();
  await page.waitForTimeout(300);
  assert.match(await page.title(), /^quiet\.html/);
});

test('a deck whose preview ended goes on with the next one at its address', async (t) => {
  const folder = temporaryFolder(t, ferry);
  const { deck, running } = await previewOf(t, folder);
  const page = await newPage();
  await page.goto(deck);
  await page.waitForSelector('.pages');
  await running.end();
  await page.waitForSelector('text=The preview has ended.');
  await page.waitForTimeout(2500);
  writeFileSync(join(folder, 'new.html'), html('', '<p>New</p>'));
  await previewOf(t, folder, '--port', new URL(deck).port);
  await page.waitForSelector('.pages >> text=new.html');
  await page.waitForSelector('text=The preview has ended.', { state: 'detached' });
});

test('the deck fits a phone, and pages of the site cannot reach it', async (t) => {
  const folder = temporaryFolder(t, idle);
  const { deck, site } = await previewOf(t, folder);
  const phone = await newPage({ viewport: { width: 390, height: 844 } });
  await phone.goto(deck);
  await phone.waitForSelector('.pages');
  assert.equal(await phone.evaluate('document.documentElement.scrollWidth <= innerWidth'), true);
  assert.equal(await phone.locator('figure.main iframe').getAttribute('name'), 'cravel-390');
  const page = await newPage();
  await page.goto(site);
  const tried = await page.evaluate(async (address) => {
    const get = await fetch(address).then(
      (answer) => answer.text(),
      () => 'kept away',
    );
    const post = await fetch(`${address}mend`, { method: 'POST', body: '{"keys":[]}' }).then(
      (answer) => answer.text(),
      () => 'kept away',
    );
    const frame = document.createElement('iframe');
    frame.src = address;
    document.body.append(frame);
    await new Promise((done) => frame.addEventListener('load', done));
    let inside = 'kept away';
    try {
      inside = frame.contentDocument?.body.innerHTML ?? 'kept away';
    } catch {
      // As it should be.
    }
    return [get, post, inside];
  }, deck);
  assert.deepEqual(tried, ['kept away', 'kept away', 'kept away']);
});

test('a phone in the network comes in by the whole address alone, and has no deck', async (t) => {
  const folder = temporaryFolder(t, ferry);
  const { phone, deck } = await previewOf(t, folder, '--on-network').catch((error: Error) => {
    if (/is in no network/.test(error.message)) return { phone: null, deck: '' };
    throw error;
  });
  if (phone === null) return t.skip('this machine is in no network');
  const { origin, hostname } = new URL(phone);
  assert.equal((await fetch(`${origin}/`)).status, 403);
  assert.equal((await fetch(`${origin}/.cravel/page.js`)).status, 403);
  assert.equal((await fetch(`${phone}x`)).status, 403);
  const page = await newPage();
  await page.goto(phone);
  assert.equal(page.url(), `${origin}/`);
  await holds(page, 'window.tide === 1');
  writeFileSync(join(folder, 'js/a.js'), 'window.tide = 5;');
  await holds(page, 'window.tide === 5');
  await assert.rejects(fetch(`http://${hostname}:${new URL(deck).port}/`));
});

test('what the preview adds changes neither the encoding of a page nor what it may do', async (t) => {
  const utf16 = (text: string) => Buffer.from(`\ufeff${text}`, 'utf16le');
  const far = ' '.repeat(880);
  const files: Files = {
    'near.html': '<!doctype html><html><head><meta charset="utf-8"><title>é</title></head><p>x',
    'old.html': Buffer.from(
      '<!doctype html><html><head><meta charset="iso-8859-2"><title>\u00b1</title></head><p>x',
      'latin1',
    ),
    'far.html': `<!doctype html><html><head><!--${far}--><meta charset="utf-8"><title>é</title></head><p>x`,
    'none.html': Buffer.from('<!doctype html><title>\u00e9</title><p>x', 'latin1'),
    'wide.html': utf16('<!doctype html><html><head><title>é</title></head><p>x'),
    'mark.html': '\ufeff<!doctype html><title>é</title><p>x',
    'bare.html': '<title>é</title><p>x',
    'strict.html':
      '<!doctype html><meta charset="utf-8"><meta http-equiv="Content-Security-Policy" content="default-src \'none\'"><title>é</title><p>x',
    'fussy.xhtml':
      '<?xml version="1.0"?><html xmlns="http://www.w3.org/1999/xhtml"><head><title>é</title></head><body><p>x</p></body></html>',
  };
  const folder = temporaryFolder(t, files);
  const plain = await servePlainly(folder);
  t.after(() => plain.close());
  const { site } = await previewOf(t, folder);
  const page = await newPage();
  const told =
    '[document.characterSet, document.title, document.compatMode, document.head.firstElementChild?.localName, document.documentElement.outerHTML.replace(/<!-- added[^>]*>/, "").length].join()';
  for (const name of Object.keys(files)) {
    await page.goto(plain.address + name);
    const own = await page.evaluate(told);
    await page.goto(site + name);
    assert.equal(await page.evaluate(told), own, name);
    // It hears of changes all the same.
    const now = typeof files[name] === 'string' ? String(files[name]).replace('<p>x', '<p>changed') : null;
    if (now === null) continue;
    writeFileSync(join(folder, name), now);
    await page.waitForSelector('text=changed');
  }
});
