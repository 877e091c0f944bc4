import { readFileSync } from 'node:fs';
import { parse } from 'csv-parse/sync';
import { ApiManager } from './apiManager';
import { stringify } from './csv';
import { expect, test } from './fixtures';

// The manager takes the products out, changes them as a spreadsheet does, looks at what would become of it, and puts it into the shop.
test.use({ shop: 'Goods' });

test('products go out and come in by a file, looked at first, and in several categories', async ({ page, world, signIn, accessible }) => {
  await signIn();
  const api = new ApiManager(page.request, world.address);
  const map = page.getByRole('grid', { name: 'Fields against products' });
  const brought = page.getByRole('region', { name: 'What was brought in' });
  const bring = (name: string, text: string | Buffer) =>
    page
      .getByLabel('bring a file in')
      .setInputFiles({ name, mimeType: name.endsWith('json') ? 'application/json' : 'text/csv', buffer: Buffer.from(text) });

  await test.step('what goes out is CSV that others read, and JSON', async () => {
    await page.goto('/console/fields?by=products');
    const [csv] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'take them out as CSV' }).click()]);
    const rows = parse(readFileSync(await csv.path()), { bom: true, columns: true }) as Record<string, string>[];
    const label = rows.find((r) => r.code === 'TR-QUINCE')!;
    expect(label).toMatchObject({
      'name.en': 'Quince ‘Marrowby Gold’, 2.5 m',
      price: '89.50',
      'attribute.height (m)': '2.5',
      ships: 'yes',
    });
    expect(rows.filter((r) => r.code === 'LA-SLATE').map((r) => r.variant)).toHaveLength(3);
    const [json] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'as JSON' }).click()]);
    const list = JSON.parse(readFileSync(await json.path(), 'utf8')) as { format: string; products: { code: string }[] };
    expect(list.format).toBe('sexton-products/1');
    expect(list.products.map((p) => p.code)).toEqual([...new Set(rows.map((r) => r.code))]);
    await bring('again.json', JSON.stringify(list));
    await expect(brought.getByText('It says what the shop has.')).toBeVisible();
    await brought.getByRole('button', { name: 'Leave it' }).click();
    await expect(page.getByLabel('bring a file in')).toBeFocused();
  });

  await test.step('what is wrong is told by row and column, and nothing is changed', async () => {
    await bring(
      'wrong.csv',
      stringify([
        ['code', 'price', 'picture', 'categories'],
        ['TR-CRAB', '€ 62', 'nowhere.svg', 'Trees'],
        ['TR-NEW', '1', '', ''],
      ]),
    );
    await expect(brought.getByText('4 things keep it from being taken.')).toBeVisible();
    await expect(brought.getByRole('row', { name: /^2 price/ })).toContainText('cannot be read. Write it as 12.50, without a sign.');
    await expect(brought.getByRole('row', { name: /^2 picture/ })).toContainText('There is no picture “nowhere.svg”.');
    await expect(brought.getByRole('row', { name: /^3 categories/ })).toBeVisible();
    await expect(brought.getByRole('button', { name: /into the shop/ })).toHaveCount(0);
    await accessible('what is wrong with a file');
  });

  await test.step('what it would change is shown, is still there for who comes back, and is put in', async () => {
    // With semicolons and a decimal comma, as spreadsheets of other countries write it.
    await bring(
      'prices.csv',
      'code;name.en;categories;price\r\nTR-CRAB;Crab apple;"Trees; Presents";62,00\r\nTR-MEDLAR;Medlar;Trees;71,5\r\n',
    );
    await expect(brought.getByText('1 is new, 1 is changed')).toBeVisible();
    await expect(brought.getByRole('row', { name: /TR-CRAB price/ })).toContainText('64.00');
    await page.goto('/console/wording');
    await page.goto('/console/fields?by=products');
    await expect(brought.getByRole('row', { name: /TR-CRAB categories/ })).toContainText('Trees; Presents');
    await accessible('what a file changes');
    await brought.getByRole('button', { name: 'Put all 2 into the shop' }).click();
    await expect(page.getByText('Products were put in: 1 is new, 1 is changed')).toBeVisible();
    await expect(brought).toHaveCount(0);
  });

  await test.step('what is left while its state is asked for is left', async () => {
    const states = '**/products/imports/*';
    await page.route(states, async (route) => {
      if (route.request().method() === 'GET') await new Promise((resolve) => setTimeout(resolve, 3_000));
      await route.continue();
    });
    const asked = page.waitForRequest((r) => /imports\/[0-9a-f-]{36}$/.test(r.url()) && r.method() === 'GET');
    await bring('left.csv', 'code,price\r\nTR-CRAB,1.00\r\n');
    await asked;
    await brought.getByRole('button', { name: 'Leave it' }).click();
    await expect(brought).toHaveCount(0);
    await page.unrouteAll({ behavior: 'wait' });
    await page.reload();
    await expect(map).toBeVisible();
    expect((await page.request.get('/api/console/v1/products/imports')).status()).toBe(204);
  });

  await test.step('a product stands under each of its categories, and asks what either asks', async () => {
    await expect(map.getByRole('columnheader', { name: 'Crab apple' })).toHaveCount(2);
    await expect(map.getByRole('columnheader', { name: 'Medlar' })).toHaveCount(1);
    await map.getByRole('button', { name: 'all of Presents' }).click();
    await page.getByLabel('Label', { exact: true }).fill('For whom is it');
    await page.getByRole('button', { name: 'Add it to the draft' }).click();
    const given = map.getByRole('row', { name: /For whom is it/ });
    await expect(given.getByRole('switch', { name: /Crab apple, asked/ })).toHaveCount(2);
    await expect(given.getByRole('switch', { name: /Medlar, not asked/ })).toHaveCount(1);
    await api.publish('Presents');
    await page.goto('/products/TR-CRAB');
    await expect(page.getByLabel('For whom is it')).toBeVisible();
    await page.goto('/');
    await expect(page.getByRole('link', { name: /Crab apple/ })).toHaveCount(2);

    // One of its products left out: the category is listed product by product.
    await page.goto('/console/fields?by=products');
    await given
      .getByRole('switch', { name: /Crab apple, asked/ })
      .first()
      .click();
    await expect(given.getByRole('switch', { name: /Crab apple, not asked/ })).toHaveCount(2);
    await expect(given.getByRole('switch', { name: /Slate label.*, asked/ })).toHaveCount(2);
  });
});

test('of a large catalogue the manager and the shopper have a part at hand, and find the rest', async ({
  page,
  world,
  signIn,
  accessible,
}) => {
  await signIn();
  const map = page.getByRole('grid', { name: 'Fields against products' });
  const rows = Array.from({ length: 600 }, (_, i) => [
    `MANY-${i}`,
    `Plant ${i}`,
    `Group ${i % 3}`,
    '5',
    i >= 590 && i < 599 ? 'scarce' : '',
  ]);
  const api = new ApiManager(page.request, world.address);
  await api.field('waits', 'How long you can wait', 'line_text', 'line', []);
  await api.change('waits', { asked_of: { all: false, tags: ['scarce'] } });

  await page.goto('/console/fields?by=products');
  await page.getByLabel('bring a file in').setInputFiles({
    name: 'many.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(stringify([['code', 'name.en', 'categories', 'price', 'tags'], ...rows])),
  });
  // However long the list is, what can be done about it is in sight.
  await expect(page.getByRole('button', { name: 'Put all 600 into the shop' })).toBeInViewport();
  await page.getByRole('button', { name: 'Put all 600 into the shop' }).click();
  await expect(page.getByText(/Of \d+ products, those are shown/)).toBeVisible();

  await test.step('a product is looked for and asked', async () => {
    await expect(map.getByRole('columnheader', { name: 'Plant 599' })).toHaveCount(0);
    await page.getByRole('searchbox', { name: 'Find' }).fill('plant 599');
    await map.getByRole('button', { name: 'Plant 599', exact: true }).click();
    await expect(page.getByRole('region', { name: 'The product MANY-599' })).toBeVisible();
    await expect(page.getByText('nothing is asked')).toBeVisible();
    await page.getByRole('searchbox', { name: 'Find' }).fill('');
    await accessible('a product of a large catalogue');
    await page.reload();
    await expect(page.getByRole('region', { name: 'The product MANY-599' })).toBeVisible();
  });

  await test.step('a tag by which something is asked stands beside the categories, opens, and is switched as a whole', async () => {
    const row = map.getByRole('row', { name: /How long you can wait/ });
    await expect(row.getByRole('switch', { checked: true })).toHaveAccessibleName('How long you can wait: tagged scarce, asked');
    await map.getByRole('button', { name: 'tagged scarce', exact: true, expanded: false }).click();
    await expect(row.getByRole('switch', { checked: true })).toHaveCount(4);
    await expect(map.getByRole('button', { name: /^Plant 59\d$/ })).toHaveText(['Plant 590', 'Plant 591', 'Plant 592']);
    await row.getByRole('switch', { name: /: Plant 591, asked/ }).click();
    await expect(page.getByRole('alert').filter({ hasText: 'of more products than can be listed' })).toBeVisible();
    await row.getByRole('switch', { name: /: tagged scarce, asked/ }).click();
    await expect(row.getByRole('switch', { checked: true })).toHaveCount(0);
    // No field says the tag any more, and it goes.
    await expect(map.getByRole('button', { name: 'tagged scarce', exact: true })).toHaveCount(0);
    await page.keyboard.press('ControlOrMeta+z');
    await expect(row.getByRole('switch', { checked: true })).toHaveCount(4);
    await accessible('a tag among the categories');
    await map.getByRole('button', { name: 'tagged scarce', exact: true, expanded: true }).first().click();
  });

  await test.step('a whole category is asked; one of it alone cannot be left out, and that is said', async () => {
    const row = map.getByRole('row', { name: /When you mean to plant it/ });
    await row.getByRole('switch', { name: /all of Group 2, not asked/ }).click();
    await expect(row.getByRole('switch', { name: /all of Group 2, asked/ })).toBeVisible();
    await page.getByRole('searchbox', { name: 'Find' }).fill('plant 599');
    await row.getByRole('switch', { name: /Plant 599, asked/ }).click();
    await expect(page.getByRole('alert').filter({ hasText: 'of more products than can be listed' })).toBeVisible();
    await page.getByRole('searchbox', { name: 'Find' }).fill('');
    await row.getByRole('switch', { name: /all of Group 2, asked/ }).click();
    await expect(row.getByRole('switch', { name: /all of Group 2, not asked/ })).toBeVisible();
  });

  await test.step('the shopper sees the first of each category, further ones, and any by its address', async () => {
    await page.goto('/');
    await expect(page.getByRole('link', { name: /^Plant / })).toHaveCount(24);
    await page.getByRole('button', { name: 'More of Group 1 (8 of 200)' }).click();
    await expect(page.getByRole('button', { name: 'More of Group 1 (68 of 200)' })).toBeVisible();
    await expect(page.getByRole('link', { name: /^Plant / })).toHaveCount(84);
    await accessible('a large catalogue');
    await page.goto('/products/MANY-598');
    await page.getByRole('button', { name: 'Put 1 in the cart' }).click();
    await expect(page.getByRole('heading', { name: '1 × Plant 598' })).toBeVisible();
    await page.goto('/cart');
    await expect(page.getByRole('heading', { name: '1 × Plant 598' })).toBeVisible();
  });
});

test('an empty register says what to do first', async ({ page, world, signIn, accessible }) => {
  await signIn();
  await new ApiManager(page.request, world.address).takeAllOut();
  const first = page.getByText('The shop asks only its own questions so far.');
  for (const face of ['', '?by=products']) {
    await page.goto(`/console/fields${face}`);
    await expect(first.getByRole('button')).toHaveText(['Add a field', /./, /./, /./, /./, /./]);
  }
  await accessible('an empty register');
  await first.getByRole('button', { name: 'bookings' }).click();
  await page.getByRole('form', { name: 'The starter set bookings' }).getByRole('button', { name: 'Leave it' }).click();
  await first.getByRole('button', { name: 'Add a field' }).click();
  await page.getByRole('form', { name: 'A new field' }).getByRole('button', { name: 'Leave it' }).click();
  await page.goto('/console/fields?by=destinations');
  await expect(first).toHaveCount(0);
});
