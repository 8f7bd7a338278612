/** People at their browsers: signing in by card, typing dates, deciding. */
import { type Browser, type BrowserContext, expect, type Locator, type Page } from '@playwright/test';

/** A browser of one person's own, in which they chose their card. */
export async function personAt(browser: Browser, name: string, path = '/desk'): Promise<Page> {
  const context = await browser.newContext();
  const { cards } = (await (await context.request.get('/api/session')).json()) as {
    cards: { id: string; name: string }[];
  };
  const card = cards.find(one => one.name === name);
  if (!card) throw new Error(`the demo has no card for ${name}`);
  return signedIn(context, { card: card.id }, path);
}

/** The same for someone without a card, by password. */
export const personBy = async (browser: Browser, mail: string, path = '/desk'): Promise<Page> =>
  signedIn(await browser.newContext(), { mail: `${mail}@selkie.example`, password: 'herring-fair' }, path);

/** Signs in without the page for it, which has tests of its own. */
async function signedIn(context: BrowserContext, by: object, path: string): Promise<Page> {
  const answer = await context.request.post('/api/session', { headers: { 'X-North-Pebble': '1' }, data: by });
  expect(answer.status()).toBe(201);
  const page = await context.newPage();
  await page.goto(path);
  await expect(page.getByRole('button', { name: /: your menu$/ })).toBeVisible();
  return page;
}

/** Types a day as `09022026` into a date field. */
export async function typeDay(page: Page, label: string, digits: string): Promise<void> {
  const field = page.getByRole('group', { name: label });
  await field.getByRole('spinbutton', { name: 'Day' }).click();
  await page.keyboard.type(digits);
}

export async function askForLeave(page: Page, from: string, to: string): Promise<void> {
  await page.goto('/ask/annual-leave');
  await typeDay(page, 'First day', from);
  await typeDay(page, 'Last day', to);
}

export async function send(page: Page): Promise<string> {
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  await page.waitForURL(/\/requests\/R-\d+$/);
  return page.url().split('/').at(-1) ?? '';
}

/** Answers the open item of the desk at once, without waiting for the seconds of undo. */
export async function sendNow(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Send now' }).click();
  await expect(page.getByRole('button', { name: 'Send now' })).toBeHidden();
}

/** Opens the request on the desk of whoever has it, once they have it. */
export async function onDeskOf(page: Page, request: string): Promise<void> {
  await expect(async () => {
    const desk = (await (await page.request.get('/api/desk')).json()) as { items: { request: string }[] };
    expect(JSON.stringify(desk)).toContain(`"${request}"`);
  }).toPass();
  await page.goto(`/desk?item=${request}`);
}

/** Walks to a control as somebody without a mouse does, from where the focus is: by Tab, or by an arrow in a list. */
export async function reach(page: Page, control: Locator, key = 'Tab'): Promise<void> {
  await expect(control).toBeVisible();
  const way = () =>
    control.evaluate(element => {
      const from = document.activeElement;
      if (!from || from === element) return from === element ? 'here' : 'on';
      return from.compareDocumentPosition(element) & Node.DOCUMENT_POSITION_PRECEDING ? 'back' : 'on';
    });
  for (let steps = 0; steps < 400; steps += 1) {
    const next = await way();
    if (next === 'here') return;
    await page.keyboard.press(key === 'Tab' && next === 'back' ? 'Shift+Tab' : key);
  }
  throw new Error(`${key} never comes to ${control}`);
}

/** Walks to a control and presses a key on it. */
export async function pressOn(page: Page, control: Locator, key = 'Enter'): Promise<void> {
  await reach(page, control);
  await page.keyboard.press(key);
}

/** Walks to a field and writes into it in place of what stood there. */
export async function typeInto(page: Page, field: Locator, text: string): Promise<void> {
  await reach(page, field);
  await page.keyboard.press('Control+a');
  await page.keyboard.type(text);
}
