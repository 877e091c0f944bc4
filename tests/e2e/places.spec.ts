import { buyOne } from './apiShopper';
import { Desk } from './desk';
import { expect, test } from './fixtures';

// A world of its own: a destination is paused here, and a maker silent.
test.use({ shop: 'Places', expected: [/422 \(Unprocessable/] });

test('a maker is made, its code matched, a line given to the workbench, and what is stuck is seen, handed over and settled', async ({
  page,
  world,
  signIn,
  accessible,
}) => {
  await signIn();
  const desk = new Desk(page);

  await test.step('a way out is made in the shop', async () => {
    await page.getByRole('link', { name: 'The shop' }).click();
    await page.getByRole('button', { name: 'make a connection' }).click();
    const form = page.locator('form.shop-form');
    await form.getByLabel('Name').fill('Ferrow Works');
    await form.getByLabel('Key').fill('ferrow');
    await form.getByLabel('Address').fill('jobs.ferrow');
    await form.getByRole('button', { name: 'Make the connection' }).click();
    await expect(page.getByText('“jobs.ferrow” is no address of a system.')).toBeVisible();
    await form.getByLabel('Address').fill(`${world.standInAddress}/makers/ferrow`);
    const made = page.getByRole('button', { name: 'Reach Ferrow Works' });
    await desk.bring(form.getByRole('button', { name: 'Make the connection' }), made);
    await desk.bring(made, page.getByText(/^It answers \(200/));
    await page.getByRole('button', { name: 'Give Ferrow Works a secret' }).click();
    await page.getByLabel('The secret of Ferrow Works').fill('s3cret-and-long');
    await desk.bring(page.getByRole('button', { name: 'Give it' }), page.getByText(/^given /));
    await expect(page.getByText('gave the connection “Ferrow Works” a secret')).toBeVisible();
    await expect(page.getByText('s3cret')).toHaveCount(0);
    await accessible('the shop');
  });

  await test.step('a maker outside and a workbench in the house', async () => {
    await page.goto(`${world.address}/console/fields`);
    await desk.add({ label: 'Words on the label', of: ['Zinc label, stamped, large'] });
    await page.getByRole('link', { name: 'destinations' }).click();
    await page.getByRole('button', { name: 'systems: maker' }).click();
    await page.getByLabel('Name', { exact: true }).fill('Ferrow Works');
    await page.getByRole('button', { name: 'Add it to the draft' }).click();
    const maker = page.getByRole('region', { name: 'The destination ferrow_works' });
    await expect(maker.getByText('Choose the connection by which it is reached.')).toBeVisible();
    await desk.choose(maker, 'by the connection …', '“Ferrow Works”');
    await expect(maker.getByText('Choose the connection by which it is reached.')).toBeHidden();
    await desk.chooseIn(maker.getByRole('combobox', { name: 'Add a field to Ferrow Works' }), 'Words on the label');
    await maker.getByLabel('Our item code').fill('LA-ZINC-L');
    await maker.getByLabel('Their code').fill('FW 118');
    await maker.getByRole('button', { name: 'match', exact: true }).click();
    await expect(maker.getByRole('textbox', { name: 'The code there for LA-ZINC-L' })).toHaveValue('FW 118');
    await expect(page.getByText('"code": "FW 118"')).toBeVisible();
    await accessible('a maker');
    await page.getByRole('button', { name: 'systems: workbench' }).click();
    await page.getByLabel('Name', { exact: true }).fill('Stamping bench');
    await page.getByRole('button', { name: 'Add it to the draft' }).click();
    const bench = page.getByRole('region', { name: 'The destination stamping_bench' });
    await desk.choose(bench, 'gets …', 'only lines given to it by hand');
    await desk.chooseIn(bench.getByRole('combobox', { name: 'Add a field to Stamping bench' }), 'Words on the label');
    await expect(bench.getByText('1 field goes there')).toBeVisible();
    await desk.publish('Two makers');
  });

  const order = await test.step('a line goes to the maker, and another is given to the bench', async () => {
    await world.dial('makers/ferrow', { down: true });
    const number = await buyOne(world, 'LA-ZINC-L', { words_on_the_label: 'Für Zoë 🌿' });
    await page.goto(`${world.address}/console/deliveries`);
    const row = page.getByRole('row', { name: /Ferrow Works/ });
    await expect(row.getByText(/not taking since/)).toBeVisible();
    await accessible('the deliveries, one of them stuck');
    await page.goto(`${world.address}/console/orders/${number}`);
    await desk.chooseIn(page.getByRole('combobox', { name: /^Who makes/ }), 'Stamping bench');
    const bench = page.getByRole('region', { name: 'Stamping bench' });
    await expect(bench.getByText('Für Zoë 🌿')).toBeVisible();
    await expect(page.getByText('given by Imre Halloway')).toBeVisible();
    await expect(page.getByRole('button', { name: /Words on the label.*Stamping bench.*shown/ })).toBeVisible();
    await accessible('an order with a line at the bench');
    await world.dial('makers/ferrow', {});
    return number;
  });

  await test.step('it is found again by what stands on it', async () => {
    await page.getByRole('link', { name: 'Orders' }).click();
    await page.getByRole('searchbox', { name: 'Find orders' }).fill('zoë');
    await expect(page.getByRole('link', { name: String(order) })).toBeVisible();
    await page.getByRole('searchbox', { name: 'Find orders' }).fill('ab');
    await expect(page.getByText('3 or more characters')).toBeVisible();
    await page.getByRole('searchbox', { name: 'Find orders' }).fill('nothing like it');
    await expect(page.getByText('No order has that.')).toBeVisible();
    await accessible('orders that are looked for');
  });

  await test.step('what is refused is handed over and settled, and what is paused waits', async () => {
    await world.dial('mail', { refusedRate: 1 });
    const number = await buyOne(world, 'LA-ZINC-L', { words_on_the_label: 'Ada' });
    const other = await buyOne(world, 'LA-ZINC-L', { words_on_the_label: 'Bo' });
    await page.getByRole('link', { name: 'Deliveries' }).click();
    const row = page.getByRole('row', { name: new RegExp(`${number}.*To the shopper`) });
    // Without loading the page anew.
    await expect(row.getByText('The mail server refused it')).toBeVisible();

    // From there its evidence is one click away, and back the list stands as it was.
    await row.getByRole('link', { name: String(number) }).click();
    await expect(page.getByRole('region', { name: /^Evidence/ })).toContainText('The mail server refused it');
    await page.goBack();
    await row.getByRole('button', { name: 'hand over' }).click();
    await desk.chooseIn(page.getByRole('combobox', { name: 'To whom' }), 'Imre Halloway');
    await page.getByLabel('what is to be done').fill('ask for another address');
    await page.getByRole('button', { name: 'Hand it over' }).click();
    await expect(row.getByText('Imre Halloway: “ask for another address”')).toBeVisible();
    await row.getByRole('button', { name: 'settle' }).click();
    await page.getByLabel('Why nothing more is done about it').fill('told by telephone');
    await page.getByRole('button', { name: 'Settle it by hand' }).click();
    await expect(row).toHaveCount(0);
    const third = await buyOne(world, 'LA-ZINC-L', { words_on_the_label: 'Cy' });
    await expect(page.getByRole('row', { name: new RegExp(`${third}.*To the shopper`) })).toBeVisible();
    await world.dial('mail', {});
    await page.getByRole('button', { name: 'Send again all that needs attention at To the shopper' }).click();
    for (const left of [other, third]) await expect(page.getByRole('row', { name: new RegExp(`${left}.*To the shopper`) })).toHaveCount(0);
    await page.getByRole('button', { name: 'Pause Ferrow Works' }).click();
    await page.getByLabel('Why nothing is sent to Ferrow Works for now').fill('stock count');
    await page.getByRole('button', { name: 'Pause it' }).click();
    await expect(page.getByText('“stock count”')).toBeVisible();
    await page.getByRole('button', { name: 'Resume Ferrow Works' }).click();
    await expect(page.getByText('“stock count”')).toBeHidden();
  });
});
