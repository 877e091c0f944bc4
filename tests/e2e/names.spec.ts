import { expect, test } from './fixtures';

test('the names of a destination are set beside its fields and told before publishing', async ({ page, signIn, accessible }) => {
  await signIn();
  await page.getByRole('link', { name: 'destinations', exact: true }).click();
  const list = page.getByRole('table', { name: 'Destinations' });
  await expect(list.getByRole('row', { name: /^Back office/ })).toContainText('confirmed');
  await accessible('the destinations');
  await page.getByLabel('Find').fill('shopper');
  await expect(list.getByRole('row', { name: /^Back office/ })).toBeHidden();
  await page.getByLabel('Find').fill('');
  await list.getByRole('button', { name: 'Back office' }).click();
  const office = page.getByRole('region', { name: 'The destination back_office' });

  // By the keyboard: the name of the field, then a word for one of its answers.
  await office.getByLabel('What Typeface is called there').fill('FACE');
  await page.keyboard.press('Enter');
  await office.getByRole('button', { name: 'Words for the answers to Typeface' }).click();
  await office.getByLabel('What Roman of Typeface is called there').fill('RO');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Saved.')).toBeVisible();
  await accessible('a destination');
  await page.reload();
  await expect(office.getByLabel('What Typeface is called there')).toHaveValue('FACE');
  await expect(office.getByLabel('What Roman of Typeface is called there')).toHaveValue('RO');

  await page.getByRole('link', { name: /^Versions/ }).click();
  const told = page.getByRole('main');
  await expect(told.getByText('Where answers go')).toBeVisible();
  await expect(told.getByText('Calls “Typeface” “FACE”; for “Roman” of “Typeface” says “RO”.')).toBeVisible();

  // One answer is left off there, comes back, and everything is undone one by one.
  await page.goto('/console/fields/back_office?by=destinations');
  await office.getByRole('button', { name: 'Leave Typeface off' }).click();
  await expect(office.getByLabel('What Typeface is called there')).toBeHidden();
  await office.getByRole('combobox', { name: 'Add a field to Back office' }).click();
  await page.getByRole('option', { name: 'Typeface' }).click();
  await expect(office.getByLabel('What Typeface is called there')).toHaveValue('FACE');
  await office.getByRole('heading').click();
  for (let i = 0; i < 4; i++) {
    const undone = page.waitForResponse(/draft\/undo/);
    await page.keyboard.press('Control+z');
    expect((await undone).status()).toBe(200);
    await expect(page.getByText(/^Undone/)).toBeVisible();
  }
  await expect(office.getByLabel('What Typeface is called there')).toHaveValue('');
});

test('a page calls everything as the shopper reads it', async ({ page, signIn }) => {
  await signIn();
  await page.goto('/console/fields/confirmation?by=destinations');
  const confirmation = page.getByRole('region', { name: 'The destination confirmation' });
  await expect(confirmation.getByRole('button', { name: 'Leave Typeface off' })).toBeVisible();
  await expect(confirmation.getByLabel(/is called there/)).toHaveCount(0);
});
