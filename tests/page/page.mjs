// Opens the page of a model from disk in a real browser, and uses it as somebody would.
import assert from 'node:assert/strict';
import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import path from 'node:path';
import puppeteer from 'puppeteer-core';

const [tool, project, folder, browserPath] = process.argv.slice(2);
const say = (...words) => JSON.parse(execFileSync(tool, [...words, '--json'], { encoding: 'utf8', maxBuffer: 1 << 28 }));
say('export', project, '--what', 'model', '--as', 'html', '--dir', folder);
const file = path.resolve(folder, 'model.html');
const volumes = say('volumes', project).units.filter(u => u.volume > 0);

const browser = await puppeteer.launch({
  executablePath: browserPath, headless: true,
  args: ['--no-sandbox', '--use-gl=angle', '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--ignore-gpu-blocklist', '--disable-dev-shm-usage'],
});
try {
  const page = await browser.newPage();
  await page.setViewport({ width: 1280, height: 800 });
  const wrong = [], asked = [];
  page.on('console', m => { if (m.type() === 'error') wrong.push(m.text()); });
  page.on('pageerror', e => wrong.push(e.message));
  page.on('request', r => { if (!/^(data|blob):/.test(r.url())) asked.push(r.url()); });
  const drawn = () => page.waitForFunction(() => document.body.dataset.state === 'drawn', { timeout: 60000 });
  const picture = async () => { // after everything that was asked for is drawn
    await page.evaluate(() => new Promise(done => requestAnimationFrame(() => requestAnimationFrame(done))));
    return (await page.$('#stage')).screenshot({ encoding: 'base64' });
  };
  /* A picture of which this is true, taken again until it is: the browser draws in its own time. */
  const pictureWhere = async (holds, words) => {
    for (const until = Date.now() + 20000; ;) {
      const now = await picture();
      if (holds(now)) return now;
      assert.ok(Date.now() < until, words);
    }
  };
  const began = Date.now();
  await page.goto('file://' + file);
  await drawn();
  assert.ok(fs.statSync(file).size < 6e6, 'the page is small');
  console.log(`page: ${(fs.statSync(file).size / 1e6).toFixed(2)} MB, first picture after ${Date.now() - began} ms`);
  assert.equal(Number(await page.evaluate(() => document.body.dataset.units)), volumes.length);

  const first = await picture();
  if (process.env.FOX_PICTURES) await page.screenshot({ path: path.join(process.env.FOX_PICTURES, 'page.png') });
  const code = volumes[0].code;
  await page.click('#unit-' + code);
  await pictureWhere(now => now !== first, 'a unit that is switched off is not drawn');
  await page.click('#unit-' + code);
  await pictureWhere(now => now === first, 'and is drawn again');

  for (const id of ['east', 'north', 'apart', 'exaggeration']) {
    await page.focus('#' + id);
    const value = await page.$eval('#' + id, e => e.value);
    for (let i = 0; i < 40; ++i) await page.keyboard.press('ArrowRight');
    assert.notEqual(await page.$eval('#' + id, e => e.value), value);
    await pictureWhere(now => now !== first, `${id} changes what is seen`);
    if (process.env.FOX_PICTURES) await page.screenshot({ path: path.join(process.env.FOX_PICTURES, `page-${id}.png`) });
    for (let i = 0; i < 40; ++i) await page.keyboard.press('ArrowLeft');
  }
  const uncut = await picture();
  for (const id of ['east', 'north', 'line-cut']) { // planes are dragged by their knobs, there and back
    const way = await page.evaluate(id => window.foxCellar.handle(id), id);
    const to = { x: way.at.x + 0.6 * (way.end.x - way.at.x), y: way.at.y + 0.6 * (way.end.y - way.at.y) };
    await page.mouse.move(way.at.x, way.at.y);
    await page.mouse.down();
    await page.mouse.move((way.at.x + to.x) / 2, (way.at.y + to.y) / 2);
    await page.mouse.move(to.x, to.y);
    await page.mouse.up();
    const value = Number(await page.$eval('#' + id, e => e.value));
    assert.ok(value > 400 && value < 800, `${id} was dragged to ${value}`);
    await pictureWhere(now => now !== uncut, `the model is cut by ${id}`);
    if (process.env.FOX_PICTURES) await page.screenshot({ path: path.join(process.env.FOX_PICTURES, `page-drag-${id}.png`) });
    await page.mouse.move(to.x, to.y);
    await page.mouse.down();
    await page.mouse.move(way.at.x - (to.x - way.at.x), way.at.y - (to.y - way.at.y));
    await page.mouse.up();
    assert.equal(Number(await page.$eval('#' + id, e => e.value)), 0);
    await page.mouse.move(640, 5);
    await pictureWhere(now => now === uncut, `and whole again; dragging ${id} does not turn it`);
  }
  await page.focus('#canvas');
  const before = await picture();
  await page.keyboard.press('ArrowLeft');
  await pictureWhere(now => now !== before, 'the model turns by keys');

  const hole = await page.evaluate(() => window.foxCellar.visibleHole());
  assert.ok(hole, 'some hole can be clicked');
  await page.mouse.click(hole.x, hole.y);
  await page.waitForSelector('#card:not([hidden])');
  assert.equal(await page.$eval('#card h2', e => e.textContent), hole.name);
  if (process.env.FOX_PICTURES) await page.screenshot({ path: path.join(process.env.FOX_PICTURES, 'page-hole.png') });
  await page.mouse.move(500, 500);
  await page.waitForFunction(() => /level/.test(document.getElementById('cursor').textContent));

  await page.click('#tab-pictures');
  assert.ok(await page.$eval('#shown-picture', e => e.complete && e.naturalWidth > 500));
  if (process.env.FOX_PICTURES) await page.screenshot({ path: path.join(process.env.FOX_PICTURES, 'page-map.png') });
  await page.click('#tab-holes');
  await page.click('#hole-list button');
  assert.ok(await page.$eval('#view-model', e => !e.hidden));
  await page.click('#tab-about');
  assert.ok((await page.$eval('#about', e => e.textContent)).includes('off the model'));

  // printed: the model as it was seen last, all pictures, the holes and what is known
  await page.emulateMediaType('print');
  await page.evaluate(() => window.dispatchEvent(new Event('beforeprint')));
  const onPaper = await page.evaluate(() => {
    const sheet = document.getElementById('printed'), dots = sheet.getContext('2d').getImageData(0, 0, sheet.width, sheet.height).data;
    const colours = new Set();
    for (let i = 0; i < dots.length; i += 4 * 97) if (dots[i + 3] > 200) colours.add(dots[i] << 16 | dots[i + 1] << 8 | dots[i + 2]);
    const height = id => document.getElementById(id).getBoundingClientRect().height;
    return { colours: colours.size, model: height('printed'), stage: height('stage'), holes: height('hole-list'), about: height('about'),
      pictures: document.querySelectorAll('#printed-pictures img').length, loaded: Array.from(document.querySelectorAll('#printed-pictures img')).every(i => i.complete && i.naturalWidth > 500) };
  });
  assert.ok(onPaper.colours > 50, `the model is drawn for paper, in ${onPaper.colours} colours`);
  assert.ok(onPaper.model > 300 && onPaper.stage === 0, 'and stands where the view was');
  assert.ok(onPaper.holes > 300 && onPaper.about > 300, 'with the holes and what is known');
  assert.equal(onPaper.pictures, await page.$eval('#picture', e => e.length));
  assert.ok(onPaper.loaded);
  const pdf = Buffer.from(await page.pdf({ format: 'A4', printBackground: true }));
  assert.ok(pdf.length > 100000, `the PDF has the pictures, ${pdf.length} bytes`);
  if (process.env.FOX_PICTURES) fs.writeFileSync(path.join(process.env.FOX_PICTURES, 'page.pdf'), pdf);
  await page.emulateMediaType('screen');
  await page.evaluate(() => window.dispatchEvent(new Event('afterprint')));

  await page.setViewport({ width: 390, height: 800 }); // a phone
  await page.click('#tab-model');
  assert.ok(await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth));
  if (process.env.FOX_PICTURES) await page.screenshot({ path: path.join(process.env.FOX_PICTURES, 'page-phone.png') });
  assert.deepEqual(wrong, []);
  assert.deepEqual(asked.map(u => u.replace(/[?#].*/, '')), ['file://' + file], 'nothing but the page itself is asked for');
} finally {
  await browser.close();
}
