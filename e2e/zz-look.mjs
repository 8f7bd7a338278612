import { chromium } from '@playwright/test';

const b = await chromium.launch({ executablePath: '/usr/bin/chromium-headless-shell', args: ['--no-sandbox'] });
const dark = process.argv[2] === 'dark';
const narrow = process.argv[2] === 'narrow';
const ctx = await b.newContext({
  viewport: narrow ? { width: 390, height: 800 } : { width: 1280, height: 800 },
  colorScheme: dark ? 'dark' : 'light',
  baseURL: 'http://127.0.0.1:8470',
});
const p = await ctx.newPage();
await p.request.post('/api/session', { data: { card: 'wren' }, headers: { 'X-North-Pebble': '1' } });
const cards = await (await p.request.get('/api/session/cards')).json().catch(() => null);
const dir = await (await p.request.get('/api/directory')).json();
const at = dir.people
  .filter(x => x.records.at(-1).place === 'ovay')
  .slice(0, 6)
  .map(x => `${x.id}=${x.name}`);
console.log(JSON.stringify(cards)?.slice(0, 300), at);
await p.goto('/house/shutdowns');
await p.getByRole('button', { name: 'New shutdown' }).click();
const f = p.getByRole('form', { name: 'New shutdown' });
await f.getByLabel('Name').fill('Painting of the station');
await f.getByRole('combobox', { name: 'Place' }).click();
await p.getByRole('option', { name: 'Ovay Station' }).click();
for (const [l, d] of [
  ['First day', '09112026'],
  ['Last day', '10112026'],
]) {
  await p.getByRole('group', { name: l }).getByRole('spinbutton', { name: 'Day' }).click();
  await p.keyboard.type(d);
}
await f.getByLabel('Exceptions').fill('Tob');
await p.waitForTimeout(800);
await p.screenshot({ path: `/tmp/s1${process.argv[2] ?? ''}.png` });
await p.getByRole('option').first().click();
await f.getByRole('button', { name: 'See what follows' }).click();
await p.waitForTimeout(2500);
await p.screenshot({ path: `/tmp/s2${process.argv[2] ?? ''}.png`, fullPage: true });
await f.getByRole('textbox', { name: 'Why' }).fill('Painters.');
await f.getByRole('button', { name: 'Book the shutdown' }).click();
await p.waitForTimeout(2500);
await p.screenshot({ path: `/tmp/s3${process.argv[2] ?? ''}.png` });
await p.goto('/balances?person=ada-dunmore');
await p.waitForTimeout(2000);
await p.screenshot({ path: `/tmp/s4${process.argv[2] ?? ''}.png`, fullPage: true });
await b.close();
