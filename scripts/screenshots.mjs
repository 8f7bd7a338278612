/** Takes the pictures of docs/screenshots from a fresh demo: `npm run screenshots`. */
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { prepare, root } from './machine/prepare.mjs';
import { main, say } from './machine/say.mjs';

const port = 8432;
const base = `http://127.0.0.1:${port}`;
const out = join(root, 'docs', 'screenshots');

async function post(page, path, body, method = 'POST') {
  const headers = { 'X-North-Pebble': '1' };
  const answer = await page.request.fetch(`${base}/api${path}`, { method, data: body, headers });
  if (!answer.ok()) throw new Error(`${path}: ${await answer.text()}`);
  return answer.json();
}

const view = async (page, request) => (await page.request.get(`${base}/api/requests/${request}`)).json();
const span = (from, to) => ({ from: { date: from, half: 'am' }, to: { date: to, half: 'pm' } });
const command = (page, request, what) =>
  post(page, `/requests/${request}/commands`, { id: crypto.randomUUID(), command: what });

/** A week of Ines's that came back once, so that the desk has old and new to show. */
async function playRework(ines, tobias) {
  const answers = { kind: 'annual', dates: span('2026-02-09', '2026-02-16') };
  const { request, version } = await post(ines, '/requests', {
    id: crypto.randomUUID(),
    workflow: 'annual-leave',
    answers,
  });
  const { tasks } = await view(tobias, request);
  const note = 'The gauge service is on the 16th, can you be back?';
  const back = await command(tobias, request, {
    kind: 'answer',
    seen: version,
    task: tasks[0].id,
    outcome: 'send-back',
    note,
  });
  await command(ines, request, {
    kind: 'resubmit',
    seen: back.version,
    answers: { kind: 'annual', dates: span('2026-02-09', '2026-02-13') },
  });
  return request;
}

async function typeDay(page, label, digits) {
  await page.getByRole('group', { name: label }).getByRole('spinbutton', { name: 'Day' }).click();
  await page.keyboard.type(digits);
}

await main(async () => {
  prepare({ browser: true });
  const { buildPages, startStack } = await import('./machine/stack.mjs');
  const { chromium } = await import('@playwright/test');
  buildPages();
  mkdirSync(out, { recursive: true });
  const folder = mkdtempSync(join(tmpdir(), 'np-pictures-'));
  const stack = await startStack({ folder, port, fresh: true, quiet: true });
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium-headless-shell',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--no-first-run'],
  });
  try {
    const at = async (who, size = { width: 1280, height: 800 }, colorScheme = 'light') => {
      const context = await browser.newContext({ viewport: size, colorScheme, reducedMotion: 'reduce' });
      const page = await context.newPage();
      if (who) await post(page, '/session', { card: who });
      return page;
    };
    const shoot = async (page, name, path, ready) => {
      if (path) await page.goto(base + path);
      await page.getByText(ready).first().waitFor();
      // What is still being checked or fetched is not the page.
      await page.getByText('being checked').first().waitFor({ state: 'detached' });
      await page.waitForTimeout(700);
      await page.screenshot({ path: join(out, `${name}.png`) });
      say(`docs/screenshots/${name}.png`);
    };
    const ines = await at('ines');
    const tobias = await at('tobias');
    const wren = await at('wren');
    const request = await playRework(ines, tobias);
    await shoot(tobias, 'desk', `/desk?item=${request}`, 'was Mon 9');
    const pia = await at(null, { width: 390, height: 844 });
    await pia.goto(base);
    await pia.getByRole('button', { name: /Pia Lindqvist/ }).click();
    await shoot(pia, 'joiner', null, 'Welcome, Pia');
    const applying = await at(null, { width: 390, height: 844 });
    await applying.goto(`${base}/open-posts`);
    await applying.getByRole('link', { name: /^Apply for Watch lead/ }).click();
    await shoot(applying, 'applying', null, 'go on by mail');
    await shoot(wren, 'papers', '/papers', 'runs out soon');
    await ines.goto(`${base}/ask/annual-leave`);
    await typeDay(ines, 'First day', '04052026');
    await typeDay(ines, 'Last day', '08052026');
    await ines.getByRole('button', { name: /^Why 5 days/ }).click();
    await shoot(ines, 'asking', null, 'Why 5 days');
    await shoot(ines, 'request', `/requests/${request}`, 'changed it and sent it again');
    const marit = await at('marit');
    const columns = 'columns=what,asker,asked&shown=experience,screened,interview-day,from';
    await shoot(marit, 'requests', `/requests?whose=held&workflow=application&${columns}`, 'Could begin on');
    await shoot(ines, 'balances', '/balances', 'Plan: Standard');
    await shoot(tobias, 'planner', '/planner', 'Reports to Observatory lead');
    await shoot(wren, 'workflows', '/workflows', 'Compensation time');
    await shoot(wren, 'sheet-lanes', '/workflows/new-colleague', 'Nothing found');
    await shoot(wren, 'leave-rules', '/house/leave', 'It leaves as many here as are needed');
    await shoot(wren, 'everybody', '/balances/everyone?only=lapsing&sort=lapsing&down=yes', 'days left');
    await wren.goto(`${base}/workflows/shared-space?section=Rehearse`);
    await wren.getByRole('combobox', { name: 'Who asks' }).fill('Ines Okoro');
    await wren.getByRole('option', { name: 'Ines Okoro' }).click();
    await wren.getByRole('textbox', { name: 'Title' }).fill('Gauge renewal');
    await wren.getByRole('combobox', { name: 'Kind of space' }).click();
    await wren.getByRole('option', { name: 'Project' }).click();
    await wren.getByRole('button', { name: 'Begin the rehearsal' }).click();
    await wren.getByRole('button', { name: 'A day later' }).click();
    await shoot(wren, 'rehearsal', null, 'You are Tobias Fennimore, step 2');
    await wren.goto(`${base}/people/mira-kell`);
    await wren.getByRole('button', { name: 'Change the record' }).click();
    await wren.getByRole('combobox', { name: 'Work pattern' }).click();
    await wren.getByRole('option', { name: /three/i }).click();
    await typeDay(wren, 'From', '01042026');
    await wren.getByRole('button', { name: 'See what follows' }).click();
    await wren.getByRole('textbox', { name: 'Why' }).fill('She studies on two days.');
    await shoot(wren, 'person', null, 'Work pattern from Wed 1 April 2026');
    await wren.goto(`${base}/requests/plans`);
    await wren
      .getByRole('link', { name: /Oda Brekke/ })
      .first()
      .click();
    await shoot(wren, 'plan', null, 'It would be ready');
    await shoot(wren, 'wishes', '/wishes/1', 'Soren Mabey');
    await wren.goto(`${base}/people/lines`);
    await wren.getByRole('button', { name: /^Observatory lead: / }).click();
    await shoot(wren, 'lines', null, 'Observatory lead');
    await shoot(wren, 'mailroom', '/mailroom', 'Sent back');
  } finally {
    await browser.close();
    await stack.stop();
    rmSync(folder, { recursive: true, force: true });
  }
});
