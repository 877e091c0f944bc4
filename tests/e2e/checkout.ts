import type { Page } from '@playwright/test';

/** From the cart to the payment, as Odile Farrant. */
export async function checkOut(page: Page): Promise<void> {
  await page.getByRole('link', { name: 'Go to checkout' }).click();
  await page.getByLabel('Your name').fill('Odile Farrant');
  await page.getByLabel('E-mail').fill('odile@farrant.example');
  await page.getByRole('button', { name: 'Go on' }).click();
  await page.getByLabel('Street and number').fill('Quarry Lane 4');
  await page.getByLabel('Town').fill('Aldmoor');
  await page.getByLabel('Country').selectOption('IE');
  await page.getByRole('button', { name: 'Go on' }).click();
  await page.getByLabel('Card number').waitFor();
}
