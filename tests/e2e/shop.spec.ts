import type { Page } from '@playwright/test';
import { checkOut, howMany } from './checkout';
import { expect, test } from './fixtures';

async function toPayment(page: Page, guest: string): Promise<void> {
  await page.goto('/products/WA-MAY');
  await page.getByLabel('Who is coming').fill(guest);
  await page.getByRole('button', { name: 'Put 1 in the cart' }).click();
  await checkOut(page);
}

test('a declined card is told, and another one works', async ({ page }) => {
  await toPayment(page, 'Declined first');
  await page.getByRole('button', { name: '9000 0000 0000 0027' }).click();
  await page.getByRole('button', { name: /^Order and pay/ }).click();
  await expect(page.getByText('The card was declined, and nothing was charged. Try another card.')).toBeVisible();
  await page.getByRole('button', { name: '9000 0000 0000 0019' }).click();
  await page.getByRole('button', { name: /^Order and pay/ }).click();
  await expect(page.getByRole('heading', { name: /^We have your order/ })).toBeVisible();
});

test('a provider that charges and falls silent, and a reload in between, give one order', async ({ page, world }) => {
  await toPayment(page, 'Silent');
  await page.getByRole('button', { name: '9000 0000 0000 0035' }).click();
  await page.getByRole('button', { name: /^Order and pay/ }).click();
  await expect(page.getByRole('button', { name: 'Ordering …' })).toBeVisible();
  await expect.poll(() => page.evaluate(() => sessionStorage.getItem('sexton-payment-cart'))).not.toBeNull();
  await page.reload();
  await expect(page.getByRole('heading', { name: /^We have your order/ })).toBeVisible();
  const orders = await world.query<{ count: string }>("select count(*) from answers where text = 'Silent'");
  expect(orders[0]!.count).toBe('1');
});

test('a double click on “Pay” is one order', async ({ page, world }) => {
  await toPayment(page, 'Twice');
  await page.getByRole('button', { name: '9000 0000 0000 0019' }).click();
  await page.getByRole('button', { name: /^Order and pay/ }).dblclick();
  await expect(page.getByRole('heading', { name: /^We have your order/ })).toBeVisible();
  expect((await world.query<{ count: string }>("select count(*) from answers where text = 'Twice'"))[0]!.count).toBe('1');
});

test('an answer is changed in the cart', async ({ page }) => {
  await page.goto('/products/WA-MAY');
  await page.getByLabel('Who is coming').fill('Before');
  await page.getByRole('button', { name: 'Put 1 in the cart' }).click();
  await page.getByRole('button', { name: 'Change' }).click();
  await page.getByLabel('Who is coming').fill('A name that is far too long for it');
  await page.getByRole('button', { name: 'Keep the change' }).click();
  await expect(page.getByText('“Who is coming” has room for 24 characters, and this has 34.')).toBeVisible();
  await page.getByLabel('Who is coming').fill('After');
  await howMany(page, 3);
  await page.getByRole('button', { name: 'Copy from the first to Seat 2 of 3' }).click();
  await page.getByRole('group', { name: 'Seat 3 of 3' }).getByLabel('Who is coming').fill('And another');
  await page.getByRole('button', { name: 'Keep the change' }).click();
  await expect(page.locator('[data-slot$="/guest_name"]')).toHaveText(['After', 'After', 'And another']);
  await expect(page.getByRole('heading', { name: '3 × Orchard walk, May morning' })).toBeVisible();
  await page.getByRole('button', { name: 'Take out' }).click();
  await expect(page.getByText('The cart is empty.')).toBeVisible();
});

test.describe('on a telephone', () => {
  test.use({ viewport: { width: 360, height: 740 } });

  test('nothing is wider than the screen', async ({ page, accessible }) => {
    for (const path of ['/', '/products/WA-MAY']) {
      await page.goto(path);
      await expect(page.locator('main img').first()).toBeVisible();
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(360);
    }
    await toPayment(page, 'On the telephone');
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(360);
    await accessible('payment at 360 px');
  });
});

test.describe('a lost connection', () => {
  test.use({ expected: [/ERR_FAILED|Failed to load|ERR_INTERNET/] });

  test('is told in a sentence, and nothing typed is lost', async ({ page }) => {
    await page.goto('/products/WA-MAY');
    await page.getByLabel('Who is coming').fill('Kept');
    await page.route('**/api/**', (route) => route.abort());
    await page.getByRole('button', { name: 'Put 1 in the cart' }).click();
    await expect(page.getByText('The connection is lost.')).toBeVisible();
    await expect(page.getByLabel('Who is coming')).toHaveValue('Kept');
    await page.unroute('**/api/**');
    await page.getByRole('button', { name: 'Put 1 in the cart' }).click();
    await expect(page.locator('[data-slot$="/guest_name"]')).toHaveText('Kept');
  });
});
