import { Desk } from './desk';
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
  await expect(told.getByText(/calls “Typeface” “FACE”[\s\S]*; for “Roman” of “Typeface” says “RO”/i)).toBeVisible();

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

test('an answer stands with the order as a value, and the lines of one product leave otherwise', async ({ page, signIn, accessible }) => {
  await signIn();
  await page.goto('/console/fields/back_office?by=destinations');
  const office = page.getByRole('region', { name: 'The destination back_office' });
  const desk = new Desk(page);
  await office.getByRole('button', { name: 'How Typeface stands there' }).click();
  await desk.choose(office, 'As what Typeface stands there', 'a value of that name');
  await desk.choose(office, 'With what Typeface stands there', 'the order');
  await desk.choose(office, 'A product or field whose lines leave otherwise for Back office', /^Zinc label, stamped, small$/);
  await desk.choose(office, 'How Zinc label, stamped, small leaves for Back office', 'as the lines of its components');
  await expect(page.getByText('Saved.')).toBeVisible();
  await accessible('how lines leave');
  await page.reload();
  await expect(office.getByLabel('With what Typeface stands there')).toHaveText('the order');
  await page.getByRole('link', { name: /^Versions/ }).click();
  await expect(page.getByRole('main')).toContainText(/lines of “Zinc label, stamped, small” leave for it\s+as their components/);
  await expect(page.getByRole('main')).toContainText(/writes “Typeface” as a line of text\s+a value under its name/);
  await expect(page.getByRole('main')).toContainText(/writes “Typeface” with what it is about\s+the order/);
  await page.goto('/console/fields/back_office?by=destinations');
  await office.getByRole('button', { name: 'Zinc label, stamped, small leaves as the others' }).click();
  await desk.choose(office, 'As what Typeface stands there', 'a line of text');
  await desk.choose(office, 'With what Typeface stands there', 'its line');
  await page.getByRole('link', { name: /^Versions/ }).click();
  await expect(page.getByRole('main')).not.toContainText('Typeface” as');
});

test('a page calls everything as the shopper reads it', async ({ page, signIn }) => {
  await signIn();
  await page.goto('/console/fields/confirmation?by=destinations');
  const confirmation = page.getByRole('region', { name: 'The destination confirmation' });
  await expect(confirmation.getByRole('button', { name: 'Leave Typeface off' })).toBeVisible();
  await expect(confirmation.getByLabel(/is called there/)).toHaveCount(0);
});
