import { Desk } from './desk';
import { expect, test } from './fixtures';
import type { Page } from '@playwright/test';

// A world of its own: what others ask and publish meanwhile would change what a stand-in order has in it.
test.use({ shop: 'Messages' });

const choose = (page: Page, control: string, option: string) =>
  new Desk(page).chooseIn(page.getByRole('combobox', { name: control }), option);

test('a message to staff is made, tried out beside its paragraph, told in words and taken out again', async ({
  page,
  signIn,
  accessible,
}) => {
  await signIn();
  await page.goto('/console/fields?by=destinations');
  await page.getByRole('button', { name: 'messages: to staff' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Tree yard');
  await expect(page.getByLabel('Key', { exact: true })).toHaveValue('tree_yard');
  await page.keyboard.press('Enter');
  const yard = page.getByRole('region', { name: 'The destination tree_yard' });
  await expect(yard.getByText('Say to whom it goes.')).toBeVisible();

  await yard.getByLabel('to …').fill('yard@marrowby.example');
  await page.keyboard.press('Enter');
  await expect(yard.getByText('Say to whom it goes.')).toBeHidden();
  await choose(page, 'When Tree yard gets it', 'when its lines are prepared');
  await choose(page, 'What Tree yard gets', 'lines of which');
  await yard.getByRole('button', { name: 'add a test' }).click();
  await expect(yard.getByRole('combobox', { name: 'What Tree yard gets' })).toHaveText('lines of which');
  await yard.getByRole('button', { name: 'take it all away' }).click();
  await expect(yard.getByText('every line')).toBeVisible();
  await choose(page, 'Add a field to Tree yard', 'Planting year');
  await choose(page, 'Add a field to Tree yard', 'Typeface');
  await expect(yard.getByRole('listitem')).toHaveText([/^Planting year/, /^Typeface/]);

  // In another language, too, which says something by itself.
  await expect(yard.getByLabel(/its subject.*, in German/)).toHaveValue('Bestellung {number}');
  await yard.getByLabel(/its subject.*, in German/).fill('Auftrag {number}');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Saved.')).toBeVisible();
  await page.reload();
  await expect(yard.getByLabel(/its subject.*, in German/)).toHaveValue('Auftrag {number}');
  await expect(yard.getByLabel('its subject is “…”', { exact: true })).toHaveValue('Order {number}');

  // The order there is set by a button, and by the keyboard.
  await yard.getByRole('button', { name: 'Typeface further up' }).focus();
  await page.keyboard.press('Enter');
  await expect(yard.getByRole('listitem')).toHaveText([/^Typeface/, /^Planting year/]);

  // The very message, and each answer marked in it.
  const shown = page.getByRole('region', { name: 'What it gets' });
  await expect(shown.getByRole('listitem').first()).toContainText('Typeface');
  await expect(page.frameLocator('iframe').getByText('Typeface')).toBeVisible();
  await shown.getByRole('button', { name: 'plain' }).click();
  await shown.getByRole('button', { name: 'Typeface' }).click();
  await expect(shown.locator('mark')).toContainText('1. Typeface');
  await shown.getByRole('button', { name: 'Planting year' }).click();
  await expect(shown.locator('mark')).toContainText('2. Planting year');
  await accessible('what a destination gets');

  await page.getByRole('link', { name: /^Versions/ }).click();
  await expect(page.getByText(/gets it .*when its lines are prepared/i).first()).toBeVisible();

  // Everything is undone one by one, and nothing is left of it.
  await page.goto('/console/fields/tree_yard?by=destinations');
  await yard.getByRole('button', { name: 'Leave Typeface off' }).click();
  await yard.getByRole('button', { name: 'Leave Planting year off' }).click();
  await expect(yard.getByText('Nothing goes there yet.')).toBeVisible();
  await expect(shown.getByText('No answer goes there.')).toBeVisible();

  // What is shown is asked for anew after each change; of what is being taken out nothing is.
  await choose(page, 'Add a field to Tree yard', 'Typeface');
  await yard.getByRole('button', { name: 'Leave Typeface off' }).click();
  await expect(yard.getByText('Nothing goes there yet.')).toBeVisible();
  await page.route('**/draft/items/tree_yard', async (route) => {
    const response = await route.fetch();
    await new Promise((resolve) => setTimeout(resolve, 1000));
    await route.fulfill({ response });
  });
  await yard.getByRole('button', { name: 'take it out' }).click();
  await expect(page.getByRole('table', { name: 'Destinations' }).getByRole('row', { name: /Tree yard/ })).toHaveCount(0);
});

test('what a destination gets, and in which order, is changed faster than it is saved, and nothing is lost', async ({ page, signIn }) => {
  await signIn();
  const desk = new Desk(page);
  await page.goto('/console/fields?by=destinations');
  await page.getByRole('button', { name: 'messages: to staff' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Slow yard');
  await page.getByRole('button', { name: 'Add it to the draft' }).click();
  const yard = page.getByRole('region', { name: 'The destination slow_yard' });
  for (const field of ['Planting year', 'Typeface']) await choose(page, 'Add a field to Slow yard', field);
  await page.route('**/draft/items/**', async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 600));
    await route.continue();
  });
  await desk.choose(yard, 'What Slow yard gets', 'lines of which');
  await yard.getByRole('button', { name: 'add a test' }).click();
  await desk.choose(yard, 'What is tested', 'height');
  await desk.choose(yard, 'How it is compared', 'is over');
  await yard.getByLabel('What it is compared with').fill('3');
  await yard.getByRole('button', { name: 'Typeface further up' }).click();
  await expect(yard.getByText('the height is over 3 m')).toBeVisible();
  await expect(yard.getByRole('listitem')).toHaveText([/^Typeface/, /^Planting year/]);
  for (const field of ['Planting year', 'Typeface']) await yard.getByRole('button', { name: `Leave ${field} off` }).click();
  await expect(yard.getByText('Nothing goes there yet.')).toBeVisible();

  // What is not saved yet is not called so, and whoever leaves is asked.
  let arrive = () => undefined as void;
  const held = new Promise<void>((resolve) => (arrive = resolve));
  await page.unroute('**/draft/items/**');
  await page.route('**/draft/items/**', async (route) => {
    await held;
    await route.continue();
  });
  const heading = yard.getByLabel('it is headed “…”', { exact: true });
  await heading.fill('Still on its way');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Saved.')).toBeHidden();
  const asked = page.waitForEvent('dialog');
  void page.evaluate(() => location.reload()).catch(() => undefined);
  const dialog = await asked;
  expect(dialog.type()).toBe('beforeunload');
  await dialog.dismiss();
  arrive();
  await expect(page.getByText('Saved.')).toBeVisible();
  const shown = page.waitForResponse(/slow_yard\/preview$/);
  await page.reload();
  await expect(heading).toHaveValue('Still on its way');
  await shown;
  await yard.getByRole('button', { name: 'take it out' }).click();
  await expect(page.getByRole('table', { name: 'Destinations' }).getByRole('row', { name: /Slow yard/ })).toHaveCount(0);
});

test('what is too long is shortened there, shown with both texts and marked on the map', async ({ page, signIn }) => {
  await signIn();
  await page.goto('/console/fields/back_office?by=destinations');
  const office = page.getByRole('region', { name: 'The destination back_office' });
  await office.getByLabel('takes … characters about a line or one of it').fill('10');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Saved.')).toBeVisible();
  await choose(page, 'What Back office does with what does not fit', 'is shortened, with a mark');
  await choose(page, 'Of which order it is shown', 'a stand-in order with the longest answers');
  await choose(page, 'Product of the stand-in order', 'Orchard walk, May morning');
  const shown = page.getByRole('region', { name: 'What it gets' });
  await expect(shown.getByText(/^fitted: x{9}…$/).first()).toBeVisible();
  await page.getByRole('link', { name: 'where it goes', exact: true }).click();
  const mark = page.getByRole('switch', { name: 'Who is coming goes to: Back office' });
  await expect(mark).toHaveAttribute('title', 'Back office: goes there; over 10 characters shortened');

  await page.goto('/console/fields/back_office?by=destinations');
  await choose(page, 'What Back office does with what does not fit', 'is refused before publishing');
  await office.getByLabel('takes … characters about a line or one of it').fill('60');
  await page.keyboard.press('Enter');
  await expect(mark).toHaveCount(0);
});

test('families of columns are folded and opened, and a column opens what it is', async ({ page, signIn, accessible }) => {
  await signIn();
  await page.goto('/console/fields');
  const map = page.getByRole('grid', { name: 'Fields against steps and destinations' });
  await map.getByRole('button', { name: 'Pages' }).click();
  await expect(map.getByRole('columnheader', { name: 'Confirmation' })).toHaveCount(0);
  await expect(map.getByRole('button', { name: 'Who is coming goes to 4 of 4 here' })).toHaveText('4');
  await accessible('a folded family');

  // As it was left, after a reload; and by the keyboard from the field to the folded column.
  await page.reload();
  await expect(map.getByRole('button', { name: 'Pages' })).toHaveAttribute('aria-expanded', 'false');
  await map
    .getByRole('rowheader', { name: /^Who is coming/ })
    .getByRole('button')
    .focus();
  await page.keyboard.press('ArrowRight');
  await expect(map.getByRole('button', { name: 'Who is coming goes to 4 of 4 here' })).toBeFocused();
  await map.getByRole('button', { name: 'Pages' }).click();
  await expect(map.getByRole('columnheader', { name: 'Confirmation' })).toBeVisible();
  await map.getByRole('columnheader', { name: 'Back office' }).getByRole('button').click();
  await expect(page.getByRole('region', { name: 'The destination back_office' })).toBeVisible();
});
