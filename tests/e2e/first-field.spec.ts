import type { Locator, Page } from '@playwright/test';
import { expect, test } from './fixtures';

/** Counts clicks and keys, but not what is typed as text. */
class Hand {
  count = 0;

  constructor(private readonly page: Page) {}

  async click(control: Locator): Promise<void> {
    this.count++;
    await control.click();
  }

  async press(key: string): Promise<void> {
    this.count++;
    await this.page.keyboard.press(key);
  }

  /** Types where the focus is. */
  type = (text: string): Promise<void> => this.page.keyboard.type(text);
}

const MOST = 20;

test('a newcomer’s first field takes few clicks: a required list of five, for one category, priced by choice, kept off the account', async ({
  page,
  signIn,
}) => {
  await signIn();
  const hand = new Hand(page);
  const form = page.getByRole('form', { name: 'A new field' });
  const option = (name: string | RegExp) => page.getByRole('option', { name }).first();

  await hand.click(page.getByRole('button', { name: 'Add a field', exact: true }));
  await expect(form.getByLabel('Label')).toBeFocused();
  await hand.type('Ribbon');
  await hand.click(form.getByLabel('Kind of answer'));
  await hand.type('one of');
  await hand.click(option(/^one of/));
  await hand.click(form.getByLabel('When an answer must be given'));
  await hand.click(option('always'));
  await hand.click(form.getByLabel('Choices, one a line'));
  await hand.type('Red\nGreen\nBlue\nStraw\nJute');
  await hand.click(form.locator('.p-multiselect').filter({ has: page.getByLabel('Products', { exact: true }) }));
  await hand.click(option('all Bulbs'));
  await hand.press('Escape');
  await hand.click(form.getByRole('button', { name: 'Add it to the draft' }));

  const field = page.getByRole('region', { name: 'The field ribbon' });
  for (const [i, amount] of ['1.00', '1.20', '1.50', '2.00', '2.50'].entries()) {
    await hand.click(field.getByRole('button', { name: 'add a price' }));
    await expect(field.getByLabel(/^Amount/)).toHaveCount(i + 1);
    await expect(field.getByLabel(/^Amount/).nth(i)).toBeFocused();
    await hand.type(amount);
  }
  const account = page.getByRole('grid').getByRole('switch', { name: 'Ribbon goes to: Account' });
  await hand.click(account);
  await expect(account).toHaveAttribute('aria-checked', 'false');

  // It is all there: asked where it should be, required, with what each costs.
  await expect(field.getByLabel(/^Amount/).nth(4)).toHaveValue(/2\.50/);
  await page.reload();
  await expect(field.getByLabel('Choice 5')).toHaveValue('Jute');
  await expect(field.getByLabel('When an answer must be given')).toHaveText('always');
  await expect(page.getByRole('region', { name: 'What the shopper sees' }).getByText('+ € 2.50')).toBeVisible();
  console.log(`clicks and keys of a first field: ${hand.count}`);
  expect(hand.count).toBeLessThanOrEqual(MOST);
});
