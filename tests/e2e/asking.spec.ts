import type { Page } from '@playwright/test';
import { openAccount } from './account';
import { howMany, orderNumber, payByCard, toAldmoor } from './checkout';
import { Desk } from './desk';
import { expect, test } from './fixtures';
import type { World } from './world';

// It publishes fields that every walk must answer from then on.
test.use({ shop: 'a shop of its own' });

test('the walk: seats, a card, who is buying, and site details for tall trees', async ({ page, world, signIn, accessible }) => {
  await signIn();
  const desk = new Desk(page);

  await test.step('per seat of a walk', async () => {
    const badge = await desk.add({ label: 'Badge name', level: 'each one of a line', of: ['all Orchard walks'] });
    await desk.paragraph(badge).getByLabel('at most … characters').fill('24');
    await desk.choose(desk.paragraph(badge), 'When an answer must be given', 'always');
    const pace = await desk.add({ label: 'Pace', type: 'one of', level: 'each one of a line', of: ['all Orchard walks'] });
    await desk.paste(pace, ['Stroller', 'Steady', 'Brisk']);
    await desk.choose(desk.paragraph(pace), 'When an answer must be given', 'always');
    const language = await desk.add({ label: 'Guide’s language', type: 'one of', level: 'each one of a line', of: ['all Orchard walks'] });
    await desk.paste(language, ['English', 'Gaeilge', 'Deutsch']);
    const terms = await desk.add({
      label: 'The ground is uneven, and I wear firm shoes',
      type: 'yes or no',
      level: 'each one of a line',
      of: ['all Orchard walks'],
    });
    await desk.choose(desk.paragraph(terms), 'When an answer must be given', 'always');
    await desk.paragraph(terms).getByRole('button', { name: 'that only yes will do' }).click();
    await expect(desk.paragraph(terms).getByText('only yes lets the order go on')).toBeVisible();
    await expect(desk.preview.getByRole('group', { name: 'Seat 2 of 2' })).toBeVisible();
    await accessible('a field per seat');
  });

  await test.step('a card in the parcel, with an opening question', async () => {
    const card = await desk.add({ kind: 'A new section', label: 'Card in the parcel', level: 'every order' });
    await desk.paragraph(card).getByLabel('Opening question').fill('Add a card?');
    // Nothing stands behind the question yet, so it is not asked.
    await expect(desk.preview.getByText('Add a card?')).toHaveCount(0);
    await desk.add({ label: 'Message', type: 'a longer text', section: 'Card in the parcel' });
    await expect(desk.preview.getByRole('radiogroup', { name: /Add a card/ })).toBeVisible();
    await expect(desk.preview.getByText('not asked: “Add a card?” is not answered yet')).toBeVisible();
    await desk.preview.getByLabel('Yes').check();
    await expect(desk.preview.getByLabel('Message')).toBeVisible();
    await page.getByRole('button', { name: 'Card in the parcel', exact: true }).click();
    await accessible('a section');

    // The answer to the opening question goes to a place under a condition, like any other.
    const section = desk.paragraph(card);
    const toOffice = section.getByRole('switch', { name: 'the back office' });
    if ((await toOffice.getAttribute('aria-checked')) === 'false') await toOffice.click();
    await expect(toOffice).toHaveAttribute('aria-checked', 'true');
    await desk.choose(section, 'Goes to one of them under a condition', 'the back office');
    await section.getByText('to the back office only when').locator('..').getByRole('button', { name: 'add a test' }).click();
    await desk.choose(section, 'What is tested', 'Message');
    await desk.choose(section, 'How it is compared', 'was given');
    await expect(section.getByText('to the back office only when “Message” was given')).toBeVisible();
    await section.getByRole('button', { name: 'take it all away' }).click();
    await expect(section.getByText('to the back office only when')).toHaveCount(0);
  });

  await test.step('who is buying', async () => {
    const buyer = await desk.add({ label: 'Who is buying?', type: 'one of', level: 'every order' });
    await desk.paste(buyer, ['A household', 'An organisation']);
    await desk.choose(desk.paragraph(buyer), 'At which step', 'contact');
    const part = await desk.add({ kind: 'A new section', label: 'The organisation', level: 'every order' });
    await desk.choose(desk.paragraph(part), 'At which step', 'contact');
    await desk.choose(desk.paragraph(part), 'When it is asked', 'when …');
    await desk.paragraph(part).getByRole('button', { name: 'add a test' }).click();
    await desk.choose(desk.paragraph(part), 'What is tested', 'Who is buying?');
    await desk.choose(desk.paragraph(part), 'What it is compared with', 'An organisation');
    await expect(desk.paragraph(part).getByText('“Who is buying?” is “An organisation”')).toBeVisible();
    const name = await desk.add({ label: 'Name of the organisation', section: 'The organisation' });
    await desk.choose(desk.paragraph(name), 'When an answer must be given', 'always');
    await expect(desk.preview.getByText('not asked: “Who is buying?” is not answered yet')).toBeVisible();
  });

  await test.step('site details, tried with two carts', async () => {
    const access = await desk.add({ label: 'Access width', type: 'a number', of: ['all Trees'] });
    const field = desk.paragraph(access);
    await field.getByRole('button', { name: 'a unit', exact: true }).click();
    await field.getByLabel('in …', { exact: true }).fill('cm');
    await desk.choose(field, 'When an answer must be given', 'always');
    await desk.choose(field, 'When it is asked', 'when …');
    await field.getByRole('button', { name: 'add a test' }).click();
    await desk.choose(field, 'What is tested', 'height');
    await desk.choose(field, 'How it is compared', 'is over');
    await field.getByLabel('What it is compared with').fill('3');
    await expect(field.getByText('the height is over 3 m')).toBeVisible();
    await field.getByRole('button', { name: 'add a test' }).click();
    await desk.choose(field, 'What is tested', 'shopper group', 1);
    await desk.choose(field, 'How it is compared', 'is not', 1);
    await desk.choose(field, 'What it is compared with', 'Trade', 1);
    await expect(field.getByText('the height is over 3 m and the shopper group is not trade')).toBeVisible();

    await desk.preview.getByRole('button', { name: 'second cart' }).click();
    for (const cart of [0, 1]) await desk.standIn('Hornbeam, 3.5 m', cart);
    await expect(desk.preview.getByLabel('Access width')).toHaveCount(1);
    await expect(desk.preview.getByText('not asked: the shopper group is trade')).toBeVisible();
    await expect(field.getByText('it is 3.5 m')).toBeVisible();
    await accessible('a condition and two carts');
  });

  await test.step('publish', () => desk.publish('Seats, cards, organisations and sites'));

  let first = '';
  await test.step('a household buys by the cart', async () => {
    await page.goto('/products/WA-MAY');
    await howMany(page, 2);
    const seat = (n: number) => page.getByRole('group', { name: `Seat ${n} of 2` });
    await seat(1).getByLabel('Who is coming').fill('Odile');
    await seat(1).getByLabel('Badge name').fill('Zoë 🌿');
    await seat(1).getByLabel('Steady').check();
    await seat(1).getByLabel('Yes').check();
    await page.getByRole('button', { name: 'Copy from the first to Seat 2 of 2' }).click();
    await seat(2).getByLabel('Badge name').fill('Grandfather');
    await seat(2).getByLabel('Stroller').check();
    await seat(2).getByLabel('No', { exact: true }).check();
    await page.getByRole('button', { name: 'Put 2 in the cart' }).click();
    await expect(page.getByText('We can take your order only if you agree to')).toBeVisible();
    await seat(2).getByLabel('Yes').check();
    await accessible('two seats');
    await page.getByRole('button', { name: 'Put 2 in the cart' }).click();
    await expect(page.getByRole('heading', { name: 'Cart' })).toBeVisible();
    await page.goto('/products/TR-HORNBEAM');
    await page.getByLabel('Access width').fill('140');
    await page.getByRole('button', { name: 'Put 1 in the cart' }).click();
    await expect(page.getByRole('heading', { name: 'Cart' })).toBeVisible();

    await page.getByRole('radiogroup', { name: 'Add a card?' }).getByLabel('Yes').check();
    await page.getByLabel('Message').fill('Grow well.\nYours, O.');
    await accessible('the cart with its questions');
    await page.getByRole('button', { name: 'Go on' }).click();
    await page.getByLabel('A household').check();
    await expect(page.getByLabel('Name of the organisation')).toBeHidden();
    await page.getByLabel('Your name').fill('Odile Farrant');
    await page.getByLabel('E-mail').fill('odile@farrant.example');
    await page.getByRole('button', { name: 'Go on' }).click();
    await toAldmoor(page);
    await page.getByRole('button', { name: 'Go on' }).click();
    first = await payByCard(page);
    await expect(page.getByText('Grow well.\nYours, O.')).toBeVisible();
  });

  let second = '';
  await test.step('trade buys at once', async () => {
    await openAccount(page, world, 'bram@hedgerow-works.example');
    await accessible('the account');
    await page.goto('/products/TR-HORNBEAM');
    await expect(page.getByRole('radiogroup', { name: 'Would you take another variety instead?' })).toBeVisible();
    await expect(page.getByLabel('Access width')).toBeHidden();
    await page.getByRole('button', { name: 'buy it at once' }).click();
    await page.getByRole('radiogroup', { name: 'Add a card?' }).getByLabel('No', { exact: true }).check();
    await page.getByLabel('An organisation').check();
    await page.getByLabel('Your name').fill('Bram Oakley');
    await page.getByLabel('E-mail').fill('bram@hedgerow-works.example');
    await page.getByRole('button', { name: 'Go on to payment' }).click();
    await expect(page.getByText('Please fill in “Name of the organisation”.')).toBeVisible();
    await expect(page.getByLabel('Name of the organisation')).toBeFocused();
    await page.getByLabel('Name of the organisation').fill('Hedgerow Works');
    await toAldmoor(page);
    await accessible('buying at once');
    await page.getByRole('button', { name: 'Go on to payment' }).click();
    await page.getByLabel('On account').check();
    await page.getByRole('button', { name: /^Order for/ }).click();
    second = await orderNumber(page);
    await page.goto('/account');
    await page.getByRole('link', { name: `Order ${second}` }).click();
    await expect(page.getByText('Hedgerow Works')).toBeVisible();
  });

  await test.step('every answer is read on the order, and what was not asked', async () => {
    await page.goto(`/console/orders/${first}`);
    const row = (name: string | RegExp, nth = 0) => page.getByRole('row', { name }).nth(nth);
    await expect(row(/^Badge name/).locator('[data-slot]')).toHaveText('Zoë 🌿');
    await expect(row(/^Badge name/, 1).locator('[data-slot]')).toHaveText('Grandfather');
    await expect(row(/^Guide’s language/)).toContainText('left empty');
    await expect(row(/^Access width/).locator('[data-slot]')).toHaveText('140 cm');
    await expect(row(/^Name of the organisation/)).toContainText('not asked: “Who is buying?” is “A household”');
    await accessible('an order with seats');
    await page.goto(`/console/orders/${second}`);
    await expect(row(/^Access width/)).toContainText('not asked: the shopper group is trade');
    await expect(row(/^Message/)).toContainText('not asked: “Add a card?” is answered with no');
    await expect(row(/^Name of the organisation/).locator('[data-slot]')).toHaveText('Hedgerow Works');
  });
});

test('the products face says what each product asks, and is worked by hand', async ({ page, signIn, accessible }) => {
  await signIn();
  await page.goto('/console/fields/planting_day?by=products');
  const map = page.getByRole('grid', { name: 'Fields against products' });
  const mark = (product: string) => map.getByRole('switch', { name: new RegExp(`^When you mean to plant it: ${product},`) });
  await expect(mark('all of Trees')).toHaveAttribute('aria-checked', 'true');
  await accessible('the products face');
  await mark('Hornbeam, 3.5 m').click();
  await expect(mark('Hornbeam, 3.5 m')).toHaveAttribute('aria-checked', 'false');
  await expect(mark('all of Trees')).toHaveAttribute('aria-checked', 'false');
  await expect(mark('Quince ‘Marrowby Gold’, 2.5 m')).toHaveAttribute('aria-checked', 'true');
  await mark('all of Trees').focus();
  await page.keyboard.press('Space');
  await expect(mark('Hornbeam, 3.5 m')).toHaveAttribute('aria-checked', 'true');
  await page.keyboard.press('ArrowRight');
  await expect(mark('Quince ‘Marrowby Gold’, 2.5 m')).toBeFocused();
  await page.getByLabel('Find', { exact: true }).fill('hornbeam');
  await expect(map.getByRole('columnheader', { name: /Beech/ })).toBeHidden();
  await page.getByLabel('Find', { exact: true }).fill('');
  await map.getByRole('button', { name: 'Slate label, to write on' }).first().click();
  await page.getByRole('region', { name: 'The product LA-SLATE' }).getByRole('button', { name: 'add a new field to it' }).click();
  await expect(page.getByRole('form', { name: 'A new field' })).toContainText('Slate label, to write on');
});

test('a condition that is changed faster than it is saved loses nothing', async ({ page, signIn }) => {
  await signIn();
  const desk = new Desk(page);
  const key = await desk.add({ label: 'Crane wanted', of: ['all Trees'] });
  await page.route('**/draft/items/**', async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 600));
    await route.continue();
  });
  const field = desk.paragraph(key);
  await desk.choose(field, 'When it is asked', 'when …');
  await field.getByRole('button', { name: 'add a test' }).click();
  await desk.choose(field, 'What is tested', 'height');
  await desk.choose(field, 'How it is compared', 'is over');
  await field.getByLabel('What it is compared with').fill('3');
  await field.getByRole('button', { name: 'add a test' }).click();
  await desk.choose(field, 'What is tested', 'shopper group', 1);
  await desk.choose(field, 'What it is compared with', 'Trade', 1);
  await expect(field.getByText('the height is over 3 m and the shopper group is trade')).toBeVisible();
});

test('a live field is switched off at once, and on again', async ({ page, signIn }) => {
  await signIn();
  await page.goto('/console/fields/potting_up');
  const desk = new Desk(page);
  await desk.paragraph('potting_up').getByRole('button', { name: 'switch off for the shop now' }).click();
  // What follows is said before anything is done, and nothing is done by looking.
  const follows = desk.paragraph('potting_up').getByRole('group', { name: 'switch it off' });
  await expect(follows).toContainText('without the rest of this draft');
  await page.keyboard.press('Escape');
  await expect(follows).toBeHidden();
  await desk.paragraph('potting_up').getByRole('button', { name: 'retire it' }).click();
  await expect(desk.paragraph('potting_up')).toContainText('asked of nobody, for good');
  await desk.paragraph('potting_up').getByRole('group', { name: 'retire it' }).getByRole('button', { name: 'leave it as it is' }).click();
  await expect(desk.paragraph('potting_up').getByRole('link', { name: 'see it in the shop' })).toHaveAttribute('href', /^\/products\/TR-/);
  await desk.paragraph('potting_up').getByRole('button', { name: 'switch off for the shop now' }).click();
  await follows.getByRole('button', { name: 'switch it off' }).click();
  await expect(page.getByText('The shop no longer asks it.')).toBeVisible();
  await page.goto('/products/TR-QUINCE');
  await expect(page.getByLabel('When you mean to plant it')).toBeVisible();
  await expect(page.getByText('Potted up a size larger?')).toBeHidden();
  await page.goto('/console/fields/potting_up');
  await desk.paragraph('potting_up').getByRole('button', { name: 'switch on for the shop now' }).click();
  await expect(page.getByText('The shop asks it again.')).toBeVisible();
});

test('a change, a field and the whole draft are put back to what the shop has', async ({ page, signIn, accessible }) => {
  await signIn();
  const desk = new Desk(page);
  await page.goto('/console/fields/potting_up');
  await desk.paragraph('potting_up').getByLabel('Label').fill('A size larger?');
  await page.keyboard.press('Enter');
  await desk.paragraph('potting_up').getByRole('button', { name: 'put it back as the shop has it' }).click();
  await expect(desk.paragraph('potting_up').getByLabel('Label')).toHaveValue('Potted up a size larger?');
  for (const key of ['potting_up', 'substitutes', 'substitute']) {
    await page.goto(`/console/fields/${key}`);
    await desk.paragraph(key).getByLabel('Help').fill('Put back in a moment.');
    await page.keyboard.press('Enter');
    await expect(page.getByText('Saved.')).toBeVisible();
  }
  await page.goto('/console/fields/substitute');
  await desk.paragraph('substitute').getByLabel('Example in the empty control').fill('Yes, a pear');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Saved.')).toBeVisible();
  await page.getByRole('link', { name: /^Versions/ }).click();
  await accessible('what can be put back');
  await page.getByRole('button', { name: /^put back “.*Yes, a pear/ }).click();
  await expect(page.getByText(/That of “.*” is as the shop has it/)).toBeVisible();
  await expect(page.getByText('Yes, a pear')).toHaveCount(0);
  await expect(page.getByText('“Put back in a moment.”')).toHaveCount(3);
  await page.getByRole('button', { name: 'put back “Potted up a size larger?”' }).click();
  await expect(page.getByText('“Potted up a size larger?” is as the shop has it.')).toBeVisible();
  await page.getByRole('button', { name: 'put the whole draft back' }).click();
  await page.getByRole('button', { name: 'put it back', exact: true }).click();
  await expect(page.getByText('The draft says the same as the version that is in force.')).toBeVisible();
});
