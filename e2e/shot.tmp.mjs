// args: name url w h 'js'
import { chromium } from '@playwright/test';
import { mkdirSync } from 'node:fs';
mkdirSync('/tmp/shots', { recursive: true });
const [name, url, w, h, js] = process.argv.slice(2);
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] });
const page = await b.newPage({ viewport: { width: +w, height: +h } });
page.on('console', (m) => m.type() === 'error' && console.log('console:', m.text()));
await page.goto('http://127.0.0.1:3000' + url, { waitUntil: 'networkidle' });
await page.waitForTimeout(800);
if (js) {
  const f = new Function('page', `return (async () => { ${js} })()`);
  await f(page);
  await page.waitForTimeout(500);
}
await page.screenshot({ path: `/tmp/shots/${name}.png` });
await b.close();
