import { openAccount } from './account';
import { ApiManager } from './apiManager';
import { checkOut, payByCard } from './checkout';
import { Desk } from './desk';
import { expect, test } from './fixtures';

// A world of its own: it says where its numbers begin.
test.use({
  shop: 'Issued',
  settings: { SEXTON__STANDARDTAXPPM: '230000' },
  expected: [/Canvas2D: Multiple readback|status of 422/],
});

test('an invoice for a household and one under reverse charge: made, tried out, issued once, loaded by staff and by the shopper', async ({
  page,
  world,
  signIn,
  accessible,
}) => {
  await signIn();
  const desk = new Desk(page);
  const api = new ApiManager(page.request, world.address);
  const shown = page.getByRole('region', { name: 'What it gets' });

  await test.step('the shop says where it is and that it leaves the tax to organisations abroad', async () => {
    await page.goto('/console/shop');
    const kept = page.getByRole('region', { name: 'Sender and keep times' });
    const leaves = kept.getByRole('checkbox', { name: /^An organisation abroad/ });
    await leaves.click();
    await expect(kept.getByRole('alert')).toHaveText('An invoice under reverse charge bears the tax number of the shop: give it.');
    await expect(leaves).not.toBeChecked();
    for (const [label, text] of [
      ['Street and number of the shop', 'Orchard Lane 1'],
      ['Town of the shop', 'Aldmoor'],
      ['Tax number of the shop', 'IE0000264TA'],
    ] as const) {
      await kept.getByLabel(label).fill(text);
      await page.keyboard.press('Enter');
    }
    await expect(page.getByText('changed “tax number” from nothing to “IE0000264TA”.')).toBeVisible();
    await leaves.click();
    await expect(page.getByText('changed “reverse charge” from no to yes.')).toBeVisible();
    await expect(leaves).toBeChecked();
    const first = kept.getByLabel('Number of the first invoice');
    await first.fill('none');
    await first.press('Enter');
    await expect(kept.getByRole('alert')).toHaveText('Give a whole number from 1 to 999999999.');
    await expect(first).toHaveValue('none');
    await first.fill('3381');
    await first.press('Enter');
    await expect(page.getByText('said that invoices begin with number 3381.')).toBeVisible();
    await accessible('what invoices say of the shop');
  });

  await test.step('an invoice is made by hand, and a credit note beside it', async () => {
    await api.field('organisation', 'Organisation', 'line_text', 'order', [], { step: 'contact' });
    await api.field('vat', 'Tax number', 'tax_number', 'order', [], { step: 'contact', 'settings.registry': true });
    await page.goto('/console/fields?by=destinations');
    await page.getByRole('button', { name: 'papers: invoice', exact: true }).click();
    await page.getByLabel('Name', { exact: true }).fill('Invoice');
    await page.getByRole('button', { name: 'Add it to the draft' }).click();
    const invoice = page.getByRole('region', { name: 'The destination invoice' });
    await expect(invoice.getByText('Nobody is named on it.')).toBeVisible();
    for (const field of ['Your name', 'Organisation', 'Tax number', 'Delivery address'])
      await desk.chooseIn(invoice.getByRole('combobox', { name: 'Add a field to Invoice' }), field);
    for (const [add, setting, answer] of [
      ['a person', 'is made out to the answer to …', '“Your name”'],
      ['an organisation', 'or, where it was given, to that to …', '“Organisation”'],
      ['an address', 'at …', '“Delivery address”'],
      ['a tax number', 'with their tax number …', '“Tax number”'],
    ] as const) {
      await invoice.getByRole('button', { name: add, exact: true }).click();
      await desk.choose(invoice, setting, answer);
    }
    await expect(invoice.getByText('Nobody is named on it.')).toBeHidden();
    await expect(invoice.getByText('Leaves out', { exact: true })).toBeHidden();
    await desk.choose(shown, 'Product of the stand-in order', 'Zinc label, stamped, large');
    await expect(shown.getByRole('img', { name: 'Sheet 1 of 1' })).toBeVisible();
    await shown.getByRole('button', { name: 'Delivery address', exact: true }).click();
    await expect(shown.locator('.spot').first()).toBeVisible();
    await accessible('an invoice beside its paragraph');
    await api.destination('credit_note', 'credit_note', 'Credit note', { 'settings.person': 'name' }, ['name']);
    await page.goto('/console/fields/credit_note?by=destinations');
    await expect(page.getByText('when the invoice that takes its place is issued')).toBeVisible();
    await page.reload();
    await desk.publish('Invoices');
  });

  const papers = page.getByRole('region', { name: 'Papers' });
  async function buy(): Promise<string> {
    await page.goto('/products/LA-ZINC-L');
    await page.getByRole('button', { name: 'Put 1 in the cart' }).click();
    await page.getByRole('heading', { name: 'Cart' }).waitFor();
    await checkOut(page);
    return payByCard(page);
  }

  await test.step('a household: its invoice is listed with its number, opened as a sheet and taken as XML', async () => {
    const number = await buy();
    await page.goto(`/console/orders/${number}`);
    const link = papers.getByRole('link', { name: 'Open Invoice 3381', exact: true });
    await expect(link).toBeVisible();
    await expect(papers).toContainText('€ 17.00');
    const sheet = await page.request.get((await link.getAttribute('href'))!);
    expect((await sheet.body()).subarray(0, 5).toString()).toBe('%PDF-');
    const xml = await page.request.get((await papers.getByRole('link', { name: 'Invoice 3381 as XML' }).getAttribute('href'))!);
    expect(await xml.text()).toContain('>17.00</cbc:PayableAmount>');
    await expect(page.getByText('Invoice no.')).toBeVisible();
    await accessible('the invoice of an order');
  });

  await test.step('the invoices of the day are bound into one file, and opened', async () => {
    await page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: 'Papers', exact: true }).click();
    const row = page.getByRole('row', { name: /^Invoice / });
    await row.getByRole('button', { name: 'Bind 1 of Invoice' }).click();
    await expect(row.getByRole('status')).toHaveText('1 paper is bound.');
    await accessible('the papers of a day');
    const file = await page.request.get((await row.getByRole('link', { name: 'Open the file' }).getAttribute('href'))!);
    expect((await file.body()).subarray(0, 5).toString()).toBe('%PDF-');
    await page.getByLabel('printed on').fill('2026-01-02');
    await page.keyboard.press('Enter');
    await expect(row.getByRole('cell', { name: 'none' }).first()).toBeVisible();
    await expect(page.getByRole('link', { name: 'Open the file' })).toBeHidden();
  });

  await test.step('an organisation abroad is shown, and charged, what stands without tax', async () => {
    await page.goto('/products/LA-ZINC-L');
    await page.getByRole('button', { name: 'Put 1 in the cart' }).click();
    await page.getByRole('heading', { name: 'Cart' }).waitFor();
    await page.getByRole('button', { name: 'Go on' }).click();
    await page.getByLabel('Your name').fill('Hanne Heck');
    await page.getByLabel('E-mail').fill('hanne@heckenbau.example');
    await page.getByLabel('Organisation').fill('Heckenbau');
    await page.getByLabel('Tax number').fill('DE 271 828 180');
    await page.getByRole('button', { name: 'Go on' }).click();
    await page.getByLabel('Street and number').fill('Quarry Lane 4');
    await page.getByLabel('Town').fill('Aldmoor');
    await page.getByLabel('Country').selectOption('DE');
    await page.getByLabel('Postcode').fill('28195');
    await page.getByRole('button', { name: 'Go on' }).click();
    await expect(page.getByText('No tax is charged: you owe it yourself (reverse charge).')).toBeVisible();
    await expect(page.getByRole('button', { name: 'Order and pay € 13.82' })).toBeVisible();
    const number = await payByCard(page);
    await page.goto(`/console/orders/${number}`);
    const xml = await page.request.get((await papers.getByRole('link', { name: 'Invoice 3382 as XML' }).getAttribute('href'))!);
    const text = await xml.text();
    expect(text).toContain('>AE</cbc:ID>');
    expect(text).toContain('>Heckenbau</cbc:RegistrationName>');
    await openAccount(page, world, 'hanne@heckenbau.example');
    await page.getByRole('link', { name: new RegExp(number) }).click();
    const own = page.getByRole('link', { name: 'Invoice 3382' });
    await expect(own).toBeVisible();
    const file = await page.request.get((await own.getAttribute('href'))!);
    expect((await file.body()).subarray(0, 5).toString()).toBe('%PDF-');
    await accessible('an order with its invoice in the account');
  });
});
