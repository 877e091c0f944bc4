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
  for (const [i, name] of ['Ada', 'Bede', 'Cuthbert'].entries())
    await page
      .getByRole('group', { name: `Seat ${i + 1} of 3` })
      .getByLabel('Who is coming')
      .fill(name);
  await howMany(page, 2);
  const which = page.getByRole('group', { name: 'Which one do you take out?' });
  await expect(which).toBeVisible();
  await which.getByLabel(/Bede/).check();
  await expect(which.getByLabel(/Ada/)).toBeDisabled();
  await which.getByRole('button', { name: 'Take it out' }).click();
  await expect(page.getByRole('group', { name: 'Seat 2 of 2' }).getByLabel('Who is coming')).toHaveValue('Cuthbert');
  await page.getByRole('button', { name: 'Put 2 in the cart' }).click();
  await expect(page.locator('[data-slot$="/guest_name"]')).toHaveText(['Ada', 'Cuthbert']);
});

test('a number is settled by Enter or by leaving, and no reply takes a digit back', async ({ page }) => {
  await page.goto('/products/WA-OCTOBER');
  const many = page.getByLabel('How many', { exact: true });
  await expect(page.getByLabel('Who is coming')).toBeVisible();
  // Replies are slow: one comes between two digits.
  await page.route('**/evaluate', async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 400));
    await route.continue();
  });
  await page.getByLabel('Who is coming').fill('Ada');
  await many.focus();
  await page.keyboard.press('Control+A');
  await page.keyboard.press('1');
  await page.waitForTimeout(900);
  await page.keyboard.press('2');
  await expect(many).toHaveValue('12');
  await expect(page.getByRole('group', { name: /^Seat/ })).toHaveCount(1);
  await page.keyboard.press('Tab');
  await expect(page.getByRole('row', { name: /^Seat \d+ of 12/ })).toHaveCount(12);

  // The last seat first, and then the first: each stays where it is.
  const seat = (n: number) => page.getByLabel(`Who is coming, Seat ${n} of 12`);
  await seat(12).pressSequentially('Twelfth', { delay: 60 });
  await seat(3).pressSequentially('Third', { delay: 60 });
  await expect(seat(3)).toBeFocused();
  await page.waitForTimeout(900);
  await expect(seat(12)).toHaveValue('Twelfth');
  await expect(seat(3)).toHaveValue('Third');
  await expect(seat(1)).toHaveValue('Ada');

  // Fewer: no digit is swallowed, names stand there, and the focus comes back.
  await many.focus();
  await page.keyboard.press('Control+A');
  await page.keyboard.type('11');
  await page.keyboard.press('Enter');
  const which = page.getByRole('group', { name: 'Which one do you take out?' });
  await expect(which.getByText('Seat 12 of 12')).toBeVisible();
  await expect(which.getByText('Twelfth')).toBeVisible();
  await which.getByLabel(/Seat 5 of 12/).check();
  await which.getByRole('button', { name: 'Take it out' }).click();
  await expect(many).toBeFocused();
  await expect(page.getByLabel('Who is coming, Seat 11 of 11')).toHaveValue('Twelfth');
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

test('a step holds only what was typed at it, and a change that was begun survives a reload', async ({ page }) => {
  await page.goto('/products/WA-MAY');
  await howMany(page, 2);
  const seat = (n: number, of: number) => page.getByRole('group', { name: `Seat ${n} of ${of}` }).getByLabel('Who is coming');
  await seat(1, 2).fill('Ada');
  await seat(2, 2).fill('Bede');
  await page.getByRole('button', { name: 'Put 2 in the cart' }).click();
  await page.getByRole('button', { name: 'Go on' }).click();
  await page.getByLabel('Your name').fill('Odile Farrant');
  await expect(page.getByText(/^Total €/)).toBeVisible();

  // Back in the cart one goes and the other is corrected, with a reload in between.
  await page.getByRole('link', { name: 'Cart', exact: true }).click();
  await page.getByRole('button', { name: 'Change' }).click();
  await seat(2, 2).fill('Beda');
  await page.waitForTimeout(500);
  await page.reload();
  await expect(seat(2, 2)).toHaveValue('Beda');
  await howMany(page, 1);
  const which = page.getByRole('group', { name: 'Which one do you take out?' });
  await which.getByLabel(/Ada/).check();
  await which.getByRole('button', { name: 'Take it out' }).click();
  await page.getByRole('button', { name: 'Keep the change' }).click();
  await expect(page.locator('[data-slot$="/guest_name"]')).toHaveText(['Beda']);

  // Contact still has its own, and takes nothing back.
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(page.getByLabel('Your name')).toHaveValue('Odile Farrant');
  await page.getByLabel('E-mail').fill('odile@farrant.example');
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(page.getByLabel('Card number')).toBeVisible();
  await page.getByRole('link', { name: 'Cart', exact: true }).click();
  await expect(page.locator('[data-slot$="/guest_name"]')).toHaveText(['Beda']);
});
