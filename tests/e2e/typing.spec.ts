import { expect, test } from './fixtures';
import { howMany } from './checkout';

test('every keystroke survives a reload and the back button', async ({ page }) => {
  await page.goto('/products/TR-QUINCE');
  await page.getByRole('radiogroup', { name: 'Would you take another variety instead?' }).getByLabel('Yes').check();
  await page.getByLabel('Which one?').fill('Meech’s Prolific');
  await page.reload();
  await expect(page.getByLabel('Which one?')).toHaveValue('Meech’s Prolific');
  await page.getByRole('link', { name: 'Hedging' }).click();
  await expect(page.getByRole('heading', { name: 'Hedging' })).toBeVisible();
  await page.goBack();
  await expect(page.getByLabel('Which one?')).toHaveValue('Meech’s Prolific');
  await page.getByRole('button', { name: 'Put 1 in the cart' }).click();
  await expect(page.locator('[data-slot$="/substitute"]')).toHaveText('Meech’s Prolific');

  await page.getByRole('button', { name: 'Go on' }).click();
  await page.getByLabel('Your name').fill('Odile');
  await page.reload();
  await expect(page.getByLabel('Your name')).toHaveValue('Odile');

  // What was put into the cart is not typed again on the product's page.
  await page.goto('/products/TR-QUINCE');
  await expect(page.getByText('Would you take another variety instead?')).toBeVisible();
  await expect(page.getByLabel('Which one?')).toBeHidden();
});

test('what comes to be asked is announced, and the form is filled with the keyboard alone', async ({ page }) => {
  await page.goto('/products/TR-HORNBEAM');
  const yes = page.getByRole('radiogroup', { name: 'Would you take another variety instead?' }).getByLabel('Yes');
  await yes.focus();
  await page.keyboard.press('Space');
  await expect(page.getByRole('status').filter({ hasText: 'Now also asked: Which one?' })).toBeAttached();
  await page.getByLabel('Which one?').focus();
  await page.keyboard.type('Crab apple');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Cart' })).toBeVisible();
  await expect(page.locator('[data-slot$="/substitute"]')).toHaveText('Crab apple');
});

test('which seats go is asked when the number falls', async ({ page }) => {
  await page.goto('/products/WA-OCTOBER');
  await howMany(page, 3);
  for (const [i, name] of ['Ada', 'Bede', 'Cuthbert'].entries()) await page.getByRole('group', { name: `Seat ${i + 1} of 3` }).getByLabel('Who is coming').fill(name);
  await howMany(page, 2);
  const which = page.getByRole('group', { name: 'Which one goes?' });
  await expect(which).toBeVisible();
  await which.getByLabel(/Bede/).check();
  await expect(which.getByLabel(/Ada/)).toBeDisabled();
  await which.getByRole('button', { name: 'Take it out' }).click();
  await expect(page.getByRole('group', { name: 'Seat 2 of 2' }).getByLabel('Who is coming')).toHaveValue('Cuthbert');
  await page.getByRole('button', { name: 'Put 2 in the cart' }).click();
  await expect(page.locator('[data-slot$="/guest_name"]')).toHaveText(['Ada', 'Cuthbert']);
});

test.describe('on a telephone', () => {
  test.use({ viewport: { width: 360, height: 740 } });

  test('seats, choices and dates fit the screen', async ({ page, accessible }) => {
    await page.goto('/products/WA-MAY');
    await howMany(page, 2);
    await expect(page.getByRole('group', { name: 'Seat 2 of 2' })).toBeVisible();
    await accessible('seats at 360 px');
    for (const path of ['/products/LA-ZINC-L', '/products/TR-QUINCE', '/account']) {
      await page.goto(path);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      expect(await page.evaluate(() => document.documentElement.scrollWidth), path).toBeLessThanOrEqual(360);
    }
  });
});
