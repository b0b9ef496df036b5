// usage: node shot.tmp.mjs name url [w h] [script]
import { chromium } from '@playwright/test';
const [, , name, url, w = '1280', h = '800', js] = process.argv;
const b = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  ignoreDefaultArgs: ['--hide-scrollbars'],
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
});
const p = await b.newPage({ viewport: { width: +w, height: +h } });
p.on('console', (m) => {
  if (['error', 'warning'].includes(m.type())) console.log('CONSOLE', m.text());
});
await p.goto(url.startsWith('http') ? url : 'http://127.0.0.1:3000' + url);
await p.waitForLoadState('networkidle');
await p.waitForTimeout(300);
if (js) await new Function('p', 'return (async()=>{' + js + '})()')(p);
await p.waitForTimeout(300);
await p.screenshot({ path: `/tmp/shots/${name}.png` });
await b.close();
