import { join } from 'node:path';
import { checkOut } from './checkout';
import { expect, test } from './fixtures';
import { root } from './world';

// The pictures of docs/screenshots, one for each main view, from demo data. Run with ./sexton shots.
test.use({ expected: [/Blocked script execution in 'about:srcdoc'/] });

test('pictures', async ({ page, signIn }) => {
  test.setTimeout(180_000);
  const shot = async (name: string) => {
    // What has the focus shows a ring; the pictures are of the views at rest.
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await page.waitForTimeout(400);
    await page.screenshot({ path: join(root, 'docs/screenshots', `${name}.png`) });
  };

  await signIn();
  await page.getByRole('button', { name: 'Add a field', exact: true }).click();
  const form = page.getByRole('form', { name: 'A new field' });
  await form.getByLabel('Label').fill('Words on the label');
  await expect(form.getByLabel('Key')).toHaveValue('words_on_the_label');
  await form.locator('.p-multiselect').first().click();
  for (const product of ['Zinc label, stamped, large', 'Zinc label, stamped, small']) await page.getByRole('option', { name: product }).click();
  await page.keyboard.press('Escape');
  await form.getByRole('button', { name: 'Add it to the draft' }).click();
  const field = page.getByRole('region', { name: 'The field words_on_the_label' });
  await field.getByLabel('When an answer must be given').click();
  await page.getByRole('option', { name: 'always' }).click();
  await field.getByLabel('Help').fill('As you write it, so it is stamped.');
  await field.getByLabel('at most … characters').fill('80');
  await expect(field.getByText('the back office takes 60')).toBeVisible();
  await page.getByRole('region', { name: 'What the shopper sees' }).getByLabel('Words on the label').fill('Für Großmutter Zoë 🌿');
  await page.waitForTimeout(600);
  await shot('fields');
  await field.getByRole('button', { name: 'Allow 60' }).click();
  await expect(field.getByText('the back office takes 60')).toBeHidden();
  await field.getByLabel('at most … characters').fill('40');
  await expect(page.getByText('Saved.')).toBeVisible();
  await page.getByRole('link', { name: 'Versions' }).click();
  await page.getByLabel('What is this version for?').fill('Wording for the zinc labels');
  await expect(page.getByText('of every line of “Zinc label, stamped, large”')).toBeVisible();
  await shot('versions');
  await page.getByRole('button', { name: 'Publish version 2' }).click();
  await expect(page.getByText('Version 2 is live.')).toBeVisible();

  await page.goto('/products/LA-ZINC-L');
  await page.getByLabel('How many').fill('2');
  await page.getByLabel('Words on the label').fill('Für Großmutter Zoë 🌿');
  await page.waitForTimeout(500);
  await shot('product');
  await page.getByRole('button', { name: 'Put 2 in the cart' }).click();
  await expect(page.getByRole('heading', { name: 'Cart' })).toBeVisible();
  await page.goto('/products/WA-MAY');
  await page.getByLabel('Who is coming').fill('Zoë');
  await page.getByRole('button', { name: 'Put 1 in the cart' }).click();
  await expect(page.getByRole('heading', { name: 'Cart' })).toBeVisible();
  await shot('cart');
  await checkOut(page);
  await page.getByRole('button', { name: '9000 0000 0000 0019' }).click();
  await page.getByRole('button', { name: /^Pay/ }).click();
  await expect(page.getByRole('heading', { name: /^Thank you/ })).toBeVisible();
  await shot('confirmation');

  await page.goto('/console/orders');
  await expect(page.getByText('all arrived')).toBeVisible();
  await shot('orders');
  await page.getByRole('cell', { name: /^\d{5}$/ }).getByRole('link').click();
  const row = page.getByRole('row', { name: /Words on the label/ });
  await row.getByRole('button', { name: /To the shopper/ }).click();
  await expect(page.frameLocator('iframe').locator('[data-slot$="/words_on_the_label"]')).toBeVisible();
  await shot('order');
});
