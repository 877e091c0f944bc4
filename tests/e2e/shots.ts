import { join } from 'node:path';
import { checkOut, howMany, payByCard } from './checkout';
import { ApiManager } from './apiManager';
import { buyOne } from './apiShopper';
import { paste } from './clipboard';
import { stringify } from './csv';
import { Desk } from './desk';
import { photograph } from './drawn';
import { expect, test } from './fixtures';
import { root } from './database';

// The pictures of docs/screenshots, one for each main view, from demo data. Run with ./sexton shots.
test.use({ expected: [/Blocked script execution in 'about:srcdoc'/] });

test('pictures', async ({ page, world, signIn }) => {
  test.setTimeout(300_000);
  const shot = async (name: string, from = 0) => {
    // What has the focus shows a ring; the pictures are of the views at rest.
    await page.evaluate((top) => {
      (document.activeElement as HTMLElement | null)?.blur();
      window.scrollTo(0, top);
    }, from);
    await page.waitForTimeout(400);
    await page.screenshot({ path: join(root, 'docs/screenshots', `${name}.png`) });
  };

  await signIn();
  const desk = new Desk(page);

  const words = await desk.add({ label: 'Words on the label', of: ['Zinc label, stamped, large', 'Zinc label, stamped, small'] });
  const field = desk.paragraph(words);
  await desk.choose(field, 'When an answer must be given', 'always');
  await field.getByLabel('Help').fill('As you write it, so it is stamped.');
  await field.getByLabel('at most … characters').fill('80');
  await expect(field.getByText('the back office takes 60')).toBeVisible();
  await desk.preview.getByLabel('Words on the label').fill('Für Großmutter Zoë 🌿');
  await field.getByText('the back office takes 60').scrollIntoViewIfNeeded();
  await shot('fields');
  await field.getByRole('button', { name: 'Allow 60' }).click();
  await expect(field.getByText('the back office takes 60')).toBeHidden();
  await field.getByLabel('at most … characters').fill('40');
  await field.getByRole('button', { name: 'add a price' }).click();
  await desk.choose(field, 'What price 1 is taken times', 'a letter');
  await field.getByLabel('Amount', { exact: true }).fill('0.20');
  await field.getByLabel('How many are included in price 1').fill('12');
  await field.getByRole('button', { name: 'add a band' }).click();
  await field.getByLabel('Amount of band 1').fill('0.15');
  await expect(desk.preview.getByText('12 included, then + €\u00a00.20 a letter, + €\u00a00.15 a letter over 22')).toBeVisible();
  await desk.preview.locator('.sum').scrollIntoViewIfNeeded();
  await field.getByRole('button', { name: 'add a component' }).scrollIntoViewIfNeeded();
  await shot('costs');

  const picture = await desk.add({ label: 'Picture of the site', type: 'a picture', of: ['Zinc label, stamped, large'] });
  await desk.paragraph(picture).getByRole('button', { name: 'a greatest number', exact: true }).click();
  await desk.paragraph(picture).getByLabel('at most … of them').fill('3');
  await desk.paragraph(picture).getByRole('button', { name: 'a least number of pixels' }).click();
  await desk.paragraph(picture).getByLabel('both sides of at least … pixels').fill('600');

  const pace = await desk.add({ label: 'Pace', type: 'one of', level: 'each one of a line', of: ['all Orchard walks'] });
  await desk.paste(pace, ['Stroller', 'Steady', 'Brisk']);
  await desk.choose(desk.paragraph(pace), 'When an answer must be given', 'always');

  const access = await desk.add({ label: 'Access width', type: 'a number', of: ['all Trees'] });
  const site = desk.paragraph(access);
  await site.getByRole('button', { name: 'a unit', exact: true }).click();
  await site.getByLabel('in …', { exact: true }).fill('cm');
  await desk.choose(site, 'When it is asked', 'when …');
  await site.getByRole('button', { name: 'add a test' }).click();
  await desk.choose(site, 'What is tested', 'height');
  await desk.choose(site, 'How it is compared', 'is over');
  await site.getByLabel('What it is compared with').fill('3');
  await site.getByRole('button', { name: 'add a test' }).click();
  await desk.choose(site, 'What is tested', 'shopper group', 1);
  await desk.choose(site, 'How it is compared', 'is not', 1);
  await desk.choose(site, 'What it is compared with', 'Trade', 1);
  await expect(site.getByText('the height is over 3 m and the shopper group is not trade')).toBeVisible();
  await desk.preview.getByRole('button', { name: 'second cart' }).click();
  for (const cart of [0, 1]) await desk.standIn('Hornbeam, 3.5 m', cart);
  await expect(desk.preview.getByText('not asked: the shopper group is trade')).toBeVisible();
  await shot('condition');
  await page.getByRole('link', { name: 'products', exact: true }).click();
  await expect(page.getByRole('columnheader', { name: 'Trees', exact: true })).toBeVisible();
  await shot('products');
  await page.getByRole('link', { name: 'destinations', exact: true }).click();
  const office = page.getByRole('region', { name: 'The destination back_office' });
  await office.getByLabel('What Pace is called there').fill('PACE');
  await page.keyboard.press('Enter');
  await office.getByRole('button', { name: 'Words for the answers to Pace' }).click();
  await office.getByLabel('What Brisk of Pace is called there').fill('B');
  await page.keyboard.press('Enter');
  await desk.choose(office, 'How the day of When you mean to plant it is written there', '27.11.2026');
  await office.getByLabel('What How you pay is called there').fill('PAYMENT');
  await page.keyboard.press('Enter');
  await office.getByRole('heading').scrollIntoViewIfNeeded();
  await shot('destinations');
  const settings = { gets: { of: 'tag', has_in_it: 'stamped' }, 'settings.large': 'words_on_the_label', 'settings.typeface': 'serif' };
  const api = new ApiManager(page.request, world.address);
  await api.destination('job_card', 'job_card', 'Job card', settings, ['words_on_the_label', 'typeface', 'planting_year']);
  await page.goto('/console/fields/job_card?by=destinations&beside=1');
  const sheets = page.getByRole('group', { name: 'The sheets, with the answer marked' });
  await expect(sheets.locator('.spot')).toBeVisible();
  await page.getByRole('button', { name: 'Words on the label', exact: true }).last().click();
  await expect(sheets.locator('canvas')).toBeVisible();
  await page.waitForTimeout(800);
  await shot('papers');
  const said = { 'settings.person': 'name', 'settings.address': 'delivery_address' };
  await api.destination('invoice', 'invoice', 'Invoice', said, ['name', 'delivery_address', 'words_on_the_label']);
  await page.goto('/console/fields/invoice?by=destinations&beside=1');
  await expect(sheets.locator('.spot')).toBeVisible();
  await page.getByText('is made out to').first().scrollIntoViewIfNeeded();
  await page.waitForTimeout(800);
  await shot('invoice');
  await api.destination(
    'ledger',
    'file_drop',
    'Bookkeeper',
    { 'settings.folder': 'orders', 'settings.each': 'day', 'settings.form': 'csv' },
    ['name', 'delivery_address', 'planting_year', 'typeface', 'access_width'],
  );
  await page.goto('/console/fields/ledger?by=destinations');
  await expect(page.getByText(/^row,order,placed_at,/)).toBeVisible();
  await page.getByText('file drop; a file').first().scrollIntoViewIfNeeded();
  await page.waitForTimeout(800);
  await shot('dropped');
  // What waits for the evening would not have arrived in the pictures after this one.
  await page.getByRole('button', { name: 'switch it off', exact: true }).click();
  await expect(page.getByRole('button', { name: 'switch it on', exact: true })).toBeVisible();

  await api.shop({ languages: ['en', 'de'] });
  await api.bringTexts(
    stringify([
      ['key', 'de'],
      ['field.guest_name.label', 'Wer kommt'],
      ['field.safe_place.label', 'Ein sicherer Platz, falls niemand da ist'],
      ['field.planting_year.label', 'Pflanzjahr'],
    ]),
  );
  await page.goto('/console/wording');
  await page.getByRole('searchbox', { name: 'Find' }).fill('pl');
  await expect(page.getByText('Ein sicherer Platz, falls niemand da ist')).toBeVisible();
  await shot('wording');

  await page.getByRole('link', { name: 'Versions' }).click();
  await page.getByLabel('What is this version for?').fill('Labels, walks and tall trees');
  await expect(page.getByText('of every line of “Zinc label, stamped, large”').first()).toBeVisible();
  await shot('versions');
  await page.getByRole('button', { name: 'Publish version 2' }).click();
  await expect(page.getByText('Version 2 is in force.')).toBeVisible();

  await page.goto('/products/LA-ZINC-L');
  await howMany(page, 2);
  await page.getByLabel('Words on the label').fill('Für Großmutter Zoë 🌿');
  await page.waitForTimeout(500);
  await shot('product');
  const pictures = page.getByRole('group', { name: 'Picture of the site' });
  await pictures
    .locator('input[type=file]')
    .setInputFiles([
      await photograph(page, 'south border.jpg', 1600, 1200),
      await photograph(page, 'the gate, from the lane.webp', 900, 1200, 'image/webp'),
    ]);
  await expect(pictures.getByRole('button', { name: /^Take out/ })).toHaveCount(2);
  await pictures.locator('input[type=file]').setInputFiles(await photograph(page, 'thumb.png', 320, 240, 'image/png'));
  await expect(page.getByText('“thumb.png” is too small')).toBeVisible();
  await shot('files', 600);
  await pictures.getByRole('button', { name: 'Take out thumb.png' }).click();
  await expect(page.getByText('“thumb.png” is too small')).toBeHidden();
  await page.getByRole('button', { name: 'Put 2 in the cart' }).click();
  await expect(page.getByRole('heading', { name: 'Cart' })).toBeVisible();
  await page.goto('/products/WA-OCTOBER');
  await howMany(page, 12);
  await page.getByLabel('Who is coming, Seat 1 of 12').focus();
  await paste(page, 'Una Ash\tBrisk\nTom Rush\tSteady\nAoife Byrne\tGalloping\nPiers Lark\tStroller\n');
  await page.getByLabel('Pace, Seat 2 of 12').focus();
  await expect(page.getByText('Choose from the list for “Pace”.')).toBeVisible();
  await page.getByText('A block from a spreadsheet').evaluate((line) => line.scrollIntoView());
  await shot('seats');

  await page.goto('/products/WA-MAY');
  await howMany(page, 2);
  const seat = (n: number) => page.getByRole('group', { name: `Seat ${n} of 2` });
  await seat(1).getByLabel('Who is coming').fill('Zoë');
  await seat(1).getByLabel('Steady').check();
  await page.getByRole('button', { name: 'Copy from the first to Seat 2 of 2' }).click();
  await seat(2).getByLabel('Who is coming').fill('Odile');
  await page.getByRole('button', { name: 'Put 2 in the cart' }).click();
  await expect(page.getByRole('heading', { name: 'Cart' })).toBeVisible();
  await shot('cart');
  await checkOut(page);
  await payByCard(page);
  await shot('confirmation');

  await page.goto('/console/orders');
  await expect(page.getByText('all arrived')).toBeVisible();
  await shot('orders');
  await page
    .getByRole('cell', { name: /^\d{5}$/ })
    .getByRole('link')
    .click();
  const row = page.getByRole('row', { name: /Words on the label/ });
  await row.getByRole('button', { name: /To the shopper/ }).click();
  await expect(page.frameLocator('iframe').locator('[data-slot$="/words_on_the_label"]')).toBeVisible();
  await shot('order');

  // Something is stuck, and somebody has it.
  await world.dial('mail', { refusedRate: 1 });
  await world.dial('makers/ferrow', { down: true });
  await page.getByRole('link', { name: 'The shop' }).click();
  await page.getByRole('button', { name: 'make a connection' }).click();
  const form = page.locator('form.shop-form');
  await form.getByLabel('Name').fill('Ferrow Works');
  await form.getByLabel('Key').fill('ferrow');
  await form.getByLabel('Address').fill(`${world.standInAddress}/makers/ferrow`);
  await form.getByRole('button', { name: 'Make the connection' }).click();
  await page.getByRole('button', { name: 'Give Ferrow Works a secret' }).click();
  await page.getByLabel('The secret of Ferrow Works').fill('a-secret-of-the-demo');
  await page.getByRole('button', { name: 'Give it' }).click();
  await expect(page.getByText(/^given /)).toBeVisible();
  await shot('shop');
  for (const words of ['Quince, Zoë 2026', 'The crooked medlar']) await buyOne(world, 'LA-ZINC-L', { words_on_the_label: words });
  await page.getByRole('link', { name: 'Deliveries' }).click();
  await expect(page.getByText('The mail server refused it').first()).toBeVisible();
  await page.getByRole('button', { name: 'hand over' }).first().click();
  await page.getByRole('combobox', { name: 'To whom' }).click();
  await page.getByRole('option', { name: 'Imre Halloway' }).click();
  await page.getByLabel('what is to be done').fill('ask for another address');
  await page.getByRole('button', { name: 'Hand it over' }).click();
  await expect(page.getByText('“ask for another address”')).toBeVisible();
  await shot('deliveries');
});
