import { expect, type Page } from '@playwright/test';
import type { World } from './world';

interface Received {
  raw: string;
}

/** Opens the account of an address with the link out of its latest e-mail. */
export async function openAccount(page: Page, world: World, email: string): Promise<void> {
  await page.goto('/account');
  await page.getByLabel('E-mail').fill(email);
  await page.getByRole('button', { name: 'Send me the link' }).click();
  await expect(page.getByText(`A link is on its way to ${email}.`)).toBeVisible();
  const links = (await world.received<Received>('mail/messages'))
    .map((m) => Buffer.from(m.raw, 'base64').toString('utf8'))
    .filter((m) => m.includes(`To: ${email}`));
  await page.goto(new URL(/http:\S+\/account\/\S+/.exec(links.at(-1)!)![0]).pathname);
  await page.getByRole('button', { name: 'Open my account' }).click();
  await expect(page.getByText(new RegExp(`^${email}`))).toBeVisible();
}
