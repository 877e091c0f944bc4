import { chromium } from '@playwright/test';
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.on('console', (m) => m.type() === 'error' && console.log('console:', m.text().slice(0, 200)));
page.on('pageerror', (e) => console.log('pageerror:', e.message));
const base = 'http://localhost:5080';
await page.goto(base + '/console');
await page.getByLabel('E-mail').fill('imre@marrowby.example');
await page.getByLabel('Password').fill('quince and hornbeam');
await page.getByRole('button', { name: 'Sign in' }).click();
await page.waitForTimeout(1500);
const shots = process.argv.slice(2);
for (const s of shots) {
  const [name, path, ...rest] = s.split('=');
  if (path) await page.goto(base + path);
  await page.waitForTimeout(1200);
  if (rest.length) await eval('(async () => {' + rest.join('=') + '})()');
  await page.waitForTimeout(500);
  await page.screenshot({ path: `/tmp/shots/${name}.png` });
}
await browser.close();
