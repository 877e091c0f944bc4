import type { Page } from '@playwright/test';

/** Says how many, and settles it. */
export async function howMany(page: Page, count: number): Promise<void> {
  await page.getByLabel('How many', { exact: true }).fill(String(count));
  await page.keyboard.press('Enter');
}

/** From the cart to the payment, as Odile Farrant; where something is sent, to Aldmoor. */
export async function checkOut(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Go on' }).click();
  await page.getByLabel('Your name').fill('Odile Farrant');
  await page.getByLabel('E-mail').fill('odile@farrant.example');
  await page.getByRole('button', { name: 'Go on' }).click();
  await page.getByLabel('Street and number').or(page.getByLabel('Card number')).waitFor();
  if (await page.getByLabel('Street and number').isVisible()) {
    await toAldmoor(page);
    await page.getByRole('button', { name: 'Go on' }).click();
  }
  await page.getByLabel('Card number').waitFor();
}

/** Fills in an address. */
export async function toAldmoor(page: Page): Promise<void> {
  await page.getByLabel('Street and number').fill('Quarry Lane 4');
  await page.getByLabel('Town').fill('Aldmoor');
  await page.getByLabel('Country').selectOption('IE');
}

/** Pays with the card that is accepted, and gives the number of the order. */
export async function payByCard(page: Page): Promise<string> {
  await page.getByRole('button', { name: '9000 0000 0000 0019' }).click();
  await page.getByRole('button', { name: /^Order and pay/ }).click();
  return orderNumber(page);
}

/** The number on the page that thanks for the order. */
export async function orderNumber(page: Page): Promise<string> {
  const thanks = page.getByRole('heading', { name: /^We have your order \d+$/ });
  await thanks.waitFor();
  return /\d+$/.exec(await thanks.innerText())![0];
}
