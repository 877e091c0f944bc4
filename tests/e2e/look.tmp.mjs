import { chromium } from '@playwright/test';
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--headless', '--disable-gpu'] });
const ctx = await browser.newContext({ viewport: { width: 1280, height: 800 } });
const page = await ctx.newPage();
page.on('console', (m) => ['error', 'warning'].includes(m.type()) && console.log('console', m.type(), m.text()));
const base = 'http://localhost:5080';
// a drawn photograph
await page.goto(base);
const jpg = await page.evaluate(async () => {
  const c = document.createElement('canvas'); c.width = 1600; c.height = 1200; const g = c.getContext('2d');
  const s = g.createLinearGradient(0, 0, 0, 700); s.addColorStop(0, '#9cc4e4'); s.addColorStop(1, '#e8f0f4'); g.fillStyle = s; g.fillRect(0, 0, 1600, 700);
  g.fillStyle = '#6d8f4a'; g.fillRect(0, 640, 1600, 560); g.fillStyle = '#8a6a48'; g.fillRect(1040, 420, 60, 300); g.fillStyle = '#3f6b2d'; g.beginPath(); g.arc(1070, 340, 210, 0, 7); g.fill();
  g.fillStyle = '#d8cdb4'; g.fillRect(150, 560, 420, 24); for (let i = 0; i < 9; i++) g.fillRect(160 + i * 48, 500, 16, 170);
  const b = await new Promise((r) => c.toBlob(r, 'image/jpeg', 0.9)); return [...new Uint8Array(await b.arrayBuffer())];
});
const photo = { name: 'south border.jpg', mimeType: 'image/jpeg', buffer: Buffer.from(jpg) };
const call = (method, path, body, headers = {}) => page.evaluate(async ([method, path, body, headers]) => {
  const t = await (await fetch('/api/antiforgery')).json();
  const r = await fetch('/api/console/v1/' + path, { method, headers: { 'X-Antiforgery': t.token, 'content-type': 'application/json', ...headers }, body: body ? JSON.stringify(body) : undefined });
  return { status: r.status, body: await r.text(), etag: r.headers.get('etag') };
}, [method, path, body, headers]);
await page.goto(base + '/console');
await page.getByLabel('E-mail').fill('imre@marrowby.example'); await page.getByLabel('Password').fill('quince and hornbeam'); await page.keyboard.press('Enter');
await page.getByRole('link', { name: 'Versions' }).waitFor();
export { browser, ctx, page, base, photo, call };
