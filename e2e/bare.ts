/** A house without the demo, as a process of its own. */
import { spawn } from 'node:child_process';
import { createInterface } from 'node:readline';
import { expect, type Page } from '@playwright/test';
import { typeDay } from './people.ts';

export type Mail = { to: string; subject: string; text: string };

export async function startBare(folder: string) {
  const child = spawn(process.execPath, ['scripts/machine/bare.mjs', folder], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const lines = createInterface({ input: child.stdout })[Symbol.asyncIterator]();
  const next = async <T>() => JSON.parse((await lines.next()).value as string) as T;
  const where = await next<{ address: string; setup: string; mails: string; database: string }>();
  return {
    ...where,
    letters: async () => (await (await fetch(where.mails)).json()) as Mail[],
    /** @returns the exit code of the server, and after how many milliseconds it ended */
    stop: async () => {
      child.kill('SIGTERM');
      return next<{ code: number | null; took: number }>();
    },
  };
}

/** The workflow of the starter for leave, published. */
export async function publishLeave(page: Page, address: string): Promise<void> {
  await page.goto(`${address}/workflows`);
  await page.getByRole('button', { name: 'Begin from Leave', exact: true }).click();
  await page.waitForURL(/\/workflows\/.+/);
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('textbox').fill('To begin with.');
  await dialog.getByRole('button', { name: /^Publish/ }).click();
  await expect(page.getByText(/version 1 is live/i).first()).toBeVisible();
}

/** The first letter that is so, once it has come. */
export async function letterWhere(
  house: { letters: () => Promise<Mail[]> },
  isIt: (mail: Mail) => boolean,
): Promise<Mail> {
  let letter: Mail | undefined;
  await expect(async () => {
    letter = (await house.letters()).find(isIt);
    expect(letter).toBeTruthy();
  }).toPass();
  return letter as Mail;
}

/** Where the link of a letter leads. */
export const linkOf = (letter: Mail): string => /http:\S+\/link#\S+/.exec(letter.text)?.[0] ?? '';

/** Whoever was invited chooses a password, and is in. */
export async function goIn(page: Page, password: string): Promise<void> {
  await page.getByLabel('Password').fill(password);
  await page.getByRole('button', { name: 'Go on' }).click();
  await page.waitForURL(/\/desk$/);
}

/** @param days of March of next year, with two digits each */
export async function askUnpaid(page: Page, address: string, days: { from: string; to: string }): Promise<void> {
  await page.goto(`${address}/ask/leave`);
  const year = new Date().getFullYear() + 1;
  await typeDay(page, 'First day', `${days.from}03${year}`);
  await typeDay(page, 'Last day', `${days.to}03${year}`);
  await page.getByRole('combobox', { name: 'Kind' }).click();
  await page.getByRole('option', { name: 'Unpaid leave' }).click();
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  await page.waitForURL(/\/requests\/R-\d+$/);
}

/** Whoever decides approves what lies on their desk, and whoever asked sees it booked. */
export async function approved(page: Page, address: string, asker: Page): Promise<void> {
  await page.goto(`${address}/desk`);
  await page
    .getByRole('complementary', { name: 'The selected request' })
    .getByRole('button', { name: /^Approve/ })
    .click();
  await page.getByRole('button', { name: 'Send now' }).click();
  await expect(async () => {
    await asker.reload();
    await expect(asker.getByText('Booked').first()).toBeVisible({ timeout: 2000 });
  }).toPass();
}
