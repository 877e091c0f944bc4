import { checkOut, payByCard } from './checkout';
import { Desk } from './desk';
import { expect, test } from './fixtures';

// Kinds of answer beyond text, number and choice: defined by hand, answered in the shop, read on the order.
test.use({ shop: 'Kinds', expected: [/422 .*born_on/] });

test('each further kind of answer is defined, asked, checked, and read back', async ({ page, signIn, accessible }) => {
  await signIn();
  const desk = new Desk(page);
  const of = ['Zinc label, stamped, large'];

  await test.step('defined', async () => {
    const credit = await desk.add({ label: 'Planting credit', type: 'an amount of money', of });
    await desk.paragraph(credit).getByRole('button', { name: 'a least amount' }).click();
    await desk.paragraph(credit).getByLabel('at least …').fill('10');
    await desk.paragraph(credit).getByRole('button', { name: 'that it is sensitive' }).click();
    await expect(desk.paragraph(credit).getByText('covered on the order page')).toBeVisible();
    const box = await desk.add({ label: 'A box of bulbs', type: 'how many of each', of });
    await expect(desk.paragraph(box).getByText('It offers nothing. Add choices.')).toBeVisible();
    await desk.paste(box, ['Tulip', 'Crocus', 'Allium']);
    await desk.paragraph(box).getByRole('button', { name: 'a greatest number in all' }).click();
    await desk.paragraph(box).getByLabel('at most … in all').fill('12');
    const visit = await desk.add({ label: 'When may we come', type: 'a time slot', of });
    await desk.paste(visit, ['09:00–12:00', '17:00–20:00']);
    await expect(desk.preview.getByLabel('Time')).toBeVisible();
    // Single days are picked from a calendar, and the shopper's own knows them.
    await desk.paragraph(visit).getByRole('button', { name: 'days left out', exact: true }).click();
    const left = desk.paragraph(visit).getByRole('group', { name: 'not on the days …' });
    await left.getByRole('button', { name: 'pick them' }).click();
    await left
      .getByRole('button', { name: /^15 \w+$/ })
      .last()
      .click();
    await expect(left.getByRole('button', { name: /^Take out 15 \w+ 20\d\d$/ })).toBeVisible();
    await accessible('days picked from a calendar');
    await desk.preview.getByRole('button', { name: 'Calendar for When may we come' }).click();
    const shown = desk.preview.getByRole('group', { name: 'Calendar for When may we come' });
    await shown.getByRole('button', { name: 'The month after' }).click();
    await expect(shown.getByRole('button', { name: /^15 \w+$/ })).toHaveAttribute('aria-disabled', 'true');
    await page.keyboard.press('Escape');
    const terms = await desk.add({ label: 'On site', type: 'agreed to', of });
    await desk.paragraph(terms).getByLabel('the text …').fill('The ground is uneven.\nWear boots.');
    await desk.choose(desk.paragraph(terms), 'When an answer must be given', 'always');
    await expect(desk.preview.getByText('Wear boots.')).toBeVisible();
    await accessible('a text to agree to');
    const words = await desk.add({ label: 'Before you order', type: 'words only', of });
    await expect(desk.paragraph(words).getByText('It says nothing yet. Write the words.')).toBeVisible();
    await desk.paragraph(words).getByLabel('reads …').fill('We stamp on Thursdays.');
    await expect(desk.paragraph(words).getByText('Goes to')).toBeHidden();
    const born = await desk.add({ label: 'Born on', type: 'a date', of });
    await desk.paragraph(born).getByRole('button', { name: 'a latest day' }).click();
    const latest = desk.paragraph(born).getByLabel('not after …');
    await latest.fill('18 years before tomorrow');
    await latest.press('Enter');
    await expect(page.getByText('Give a day as 2027-03-31, or a number of days or years before or after today.')).toBeVisible();
    await expect(latest).toHaveValue('18 years before tomorrow');
    await latest.fill('18 years before today');
    await latest.press('Enter');
    await expect(page.getByText('Saved.')).toBeVisible();
    await expect(latest).toHaveValue('18 years before today');
    await desk.add({ label: 'Grown in', type: 'a country', of });
    await desk.add({ label: 'A page about the tree', type: 'a web address', of });
    const tax = await desk.add({ label: 'Tax number', type: 'a tax number', of });
    await desk.paragraph(tax).getByRole('button', { name: 'some countries only' }).click();
    await desk.pick(desk.paragraph(tax), 'only of …', ['Germany', 'Ireland']);
    await expect(page.getByText('Saved.')).toBeVisible();
    expect(
      await page.evaluate(() => document.documentElement.scrollHeight - window.innerHeight),
      'the page itself does not scroll',
    ).toBeLessThanOrEqual(0);
    await desk.publish('Further kinds of answer');
  });

  await test.step('asked and checked', async () => {
    await page.goto('/products/LA-ZINC-L');
    await expect(page.getByText('We stamp on Thursdays.')).toBeVisible();
    await page.getByLabel('Planting credit').fill('5');
    await page.getByLabel('Tulip').fill('7');
    await page.getByLabel('Crocus').fill('6');
    await expect(page.getByText('13 of 12')).toBeVisible();
    await page.getByLabel('Day').fill('2027-03-31');
    await page.getByLabel('Born on').fill('2020-02-29');
    await page.getByLabel('Grown in').selectOption({ label: 'Japan' });
    await page.getByLabel('A page about the tree').fill('farrant.example/quince');
    await page.getByLabel('Tax number').fill('IE 0000264 TB');
    await page.getByRole('button', { name: 'Put 1 in the cart' }).click();
    await expect(page.getByText('“Planting credit” is at least €\u00a010.00.')).toBeVisible();
    await expect(page.getByText('“A box of bulbs” comes to at most 12 in all, and you chose 13.')).toBeVisible();
    await expect(page.getByText('Choose a day and a time for “When may we come”.')).toBeVisible();
    await expect(page.getByText('Please read “On site” and agree to it.')).toBeVisible();
    await expect(page.getByText('its digits do not fit together')).toBeVisible();
    const year = new Date().getFullYear() - 18;
    await expect(page.getByText(new RegExp(`“Born on” can be \\d+ \\p{L}+ ${year} at the latest\\.`, 'u'))).toBeVisible();
    await accessible('what is wrong with further kinds');
    await page.getByLabel('Planting credit').fill('25,50');
    await page.getByLabel('Crocus').fill('5');
    await page.getByLabel('Born on').fill('1996-02-29');
    await page.getByLabel('Time').selectOption({ label: '17:00–20:00' });
    await page.getByLabel('I agree').check();
    await page.getByLabel('Tax number').fill('IE 0000264 TA');
    await page.reload();
    await expect(page.getByLabel('I agree')).toBeChecked();
    await page.getByRole('button', { name: 'Put 1 in the cart' }).click();
    await expect(page.getByRole('heading', { name: 'Cart' })).toBeVisible();
    await expect(page.getByText('7 × Tulip')).toBeVisible();
  });

  await test.step('read on the order, what was agreed to word for word', async () => {
    await checkOut(page);
    const number = await payByCard(page);
    await page.goto(`/console/orders/${number}`);
    const answer = (name: string) => page.getByRole('row', { name: new RegExp(`^${name}`) }).locator('[data-slot]');
    await expect(answer('Planting credit')).toBeHidden();
    await page.getByRole('button', { name: 'covered; show Planting credit' }).click();
    await expect(answer('Planting credit')).toHaveText('€\u00a025.50');
    await expect(answer('A box of bulbs')).toHaveText('7 × Tulip\n5 × Crocus');
    await expect(answer('When may we come')).toHaveText('31 March 2027, 17:00–20:00');
    await expect(answer('Grown in')).toHaveText('Japan');
    await expect(answer('A page about the tree')).toHaveText('https://farrant.example/quince');
    await expect(answer('Tax number')).toHaveText('IE0000264TA');
    await expect(answer('On site')).toHaveText('Agreed');
    await expect(page.getByText('Before you order')).toBeHidden();
    await page.getByText('word for word').click();
    await expect(page.getByText('The ground is uneven.\nWear boots.')).toBeVisible();
    await accessible('an order with what was agreed to');
  });
});
