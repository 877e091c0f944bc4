import { ApiManager } from './apiManager';
import { orderNumber } from './checkout';
import { Desk } from './desk';
import { expect, test } from './fixtures';

// What the shop does with its own questions: moved, folded, left out, asked in parts, and with a field of its own between the parts of an address.
test.use({ shop: 'Own questions' });

interface Sale {
  sale: { shop_number: number; customer: { name: string }; ship_to: string; bill_to: string };
}

test('the shop’s own questions are asked as it likes, and the invoice goes where it is told', async ({
  page,
  world,
  signIn,
  accessible,
}) => {
  await signIn();
  const desk = new Desk(page);
  const api = new ApiManager(page.request, world.address);

  await test.step('a name in parts, a telephone at the delivery, and what payment needs is said by name', async () => {
    await page.goto('/console/fields/name');
    await desk.choose(desk.paragraph('name'), 'asked …', 'as given and family name');
    await expect(desk.preview.getByLabel('Given name')).toBeVisible();
    await page.goto('/console/fields/telephone');
    await desk.choose(desk.paragraph('telephone'), 'At which step', 'delivery');
    await page.goto('/console/fields/payment_method');
    const paying = desk.paragraph('payment_method');
    await desk.choose(paying, 'At which step', 'delivery');
    await expect(paying.getByText('Payment needs “How you pay”: the order is paid there. Ask it at payment.')).toBeVisible();
    await expect(paying.getByRole('button', { name: /Take out/ })).toHaveCount(0);
    await accessible('a question of the shop’s own that stands where it cannot');
    await desk.choose(paying, 'At which step', 'payment');
    await expect(paying.getByText('Payment needs “How you pay”')).toBeHidden();
    await paying.getByLabel('Choice 1').fill('With a card');
    await page.keyboard.press('Tab');
    await expect(page.getByText('Saved.')).toBeVisible();
  });

  await test.step('a field between the parts of the address', async () => {
    await api.field('floor', 'Floor', 'line_text', 'order', [], { step: 'delivery' });
    await page.goto('/console/fields/floor');
    await desk.choose(desk.paragraph('floor'), 'Between the parts of an address', 'after the street of “Delivery address”');
    await expect(page.getByText('Saved.')).toBeVisible();
    // The whole step in its order, for a cart of two lines, and why something on it is not asked.
    await desk.choose(desk.preview, 'How much of the form is shown', 'the whole step');
    await expect(desk.preview.getByLabel('Street and number')).toBeVisible();
    await expect(desk.preview.getByLabel('Floor')).toBeVisible();
    await desk.preview.getByLabel('Collect from the shop').check();
    const left = desk.preview.getByRole('list', { name: 'Not asked' });
    await expect(left).toContainText(/Delivery address,.*: “How it reaches you” is “Collect from the shop”/);
    await desk.preview.getByRole('button', { name: 'change it' }).click();
    await desk.choose(desk.preview, 'Product in the stand-in cart', 'Orchard walk, May morning');
    await expect(left).toContainText('How it reaches you');
    await desk.preview.getByRole('button', { name: 'add a line' }).click();
    await expect(left).not.toContainText('How it reaches you,');
    await accessible('the whole step');
    await desk.preview.getByRole('button', { name: 'Take line 1 out' }).click();
    await desk.choose(desk.preview, 'How much of the form is shown', 'this field');
  });

  await test.step('an organisation’s questions, folded with the shop’s own address', async () => {
    await page.getByRole('button', { name: 'add a section' }).click();
    const form = page.getByRole('form', { name: 'A new section' });
    await form.getByLabel('Label').fill('Organisation');
    await desk.choose(form, 'How often it is asked', 'every order');
    await form.getByRole('button', { name: 'Add it to the draft' }).click();
    const section = desk.paragraph('organisation');
    await desk.choose(section, 'At which step', 'payment');
    await section.getByLabel('Opening question').fill('We buy for an organisation');
    await page.keyboard.press('Tab');
    await expect(page.getByText('Saved.')).toBeVisible();
    await api.field('organisation_name', 'Its name', 'line_text', 'order', []);
    await api.change('organisation_name', { section: 'organisation', required: true });
    await page.goto('/console/fields/invoice_address');
    const address = desk.paragraph('invoice_address');
    await desk.choose(address, 'In which section', '“Organisation”');
    await address.getByRole('button', { name: 'take it all away' }).click();
    await expect(address.getByLabel('When it is asked')).toBeVisible();
    await api.change('invoice_to', { switched_off: true });
    // No order can do without an e-mail address, and this section is not always asked.
    await page.goto('/console/fields/email');
    await desk.choose(desk.paragraph('email'), 'In which section', '“Organisation”');
    await expect(page.getByText(/No order can do without “E-mail”/).first()).toBeVisible();
    await desk.choose(desk.paragraph('email'), 'In which section', 'no section');
    await expect(page.getByText(/No order can do without “E-mail”/)).toHaveCount(0);
    await page.reload();
    await desk.publish('Own questions');
  });

  await test.step('bought by an organisation, the last question first', async () => {
    await page.goto('/products/TR-QUINCE');
    await page.getByRole('button', { name: /^Put 1 in the cart/ }).click();
    await page.getByRole('button', { name: 'Go on' }).click();
    await page.getByLabel('Family name').fill('Farrant');
    await page.getByLabel('E-mail').fill('odile@farrant.example');
    await expect(page.getByLabel('Telephone')).toHaveCount(0);
    await page.getByRole('button', { name: 'Go on' }).click();
    await expect(page.getByText('Please fill in “Given name”.')).toBeVisible();
    await expect(page.getByLabel('Given name')).toBeFocused();
    await page.getByLabel('Given name').fill('Odile');
    await accessible('a name in parts');
    await page.getByRole('button', { name: 'Go on' }).click();
    // The floor stands after the street: by the keyboard, too.
    await page.getByLabel('Street and number').fill('Quarry Lane 4');
    await page.getByLabel('Street and number').press('Tab');
    await page.keyboard.type('3');
    await expect(page.getByLabel('Floor')).toHaveValue('3');
    await page.getByLabel('Country').selectOption('IE');
    await page.getByLabel('Town').fill('Aldmoor');
    await expect(page.getByLabel('Floor')).toHaveValue('3');
    await accessible('a field within an address');
    await page.getByRole('button', { name: 'Go on' }).click();
    await expect(page.getByLabel('Street and number')).toHaveCount(0);
    await page.getByRole('radio', { name: 'Yes' }).check();
    await page.getByLabel('Its name').fill('Farrant & Daughters');
    await page.getByLabel('Country').selectOption('DE');
    await page.getByLabel('Street and number').fill('Am Wall 1');
    // A household after all is asked for no second address; what was typed is there again for an organisation.
    await page.getByRole('radio', { name: 'No', exact: true }).check();
    await expect(page.getByLabel('Street and number')).toHaveCount(0);
    await page.getByRole('radio', { name: 'Yes' }).check();
    await expect(page.getByLabel('Street and number')).toHaveValue('Am Wall 1');
    await page.getByLabel('Postcode').fill('28195');
    await page.getByLabel('Town').fill('Bremen');
    await accessible('an invoice address');
    await expect(page.getByRole('radio', { name: 'With a card' })).toBeChecked();
    await page.getByRole('button', { name: '9000 0000 0000 0019' }).click();
    await page.getByRole('button', { name: /^Order and pay/ }).click();
    const number = Number(await orderNumber(page));
    await expect(page.getByText('Am Wall 1', { exact: false })).toBeVisible();
    await expect.poll(async () => (await world.received<Sale>('back-office/sales')).some((s) => s.sale.shop_number === number)).toBe(true);
    const { sale } = (await world.received<Sale>('back-office/sales')).find((s) => s.sale.shop_number === number)!;
    expect(sale.customer.name).toBe('Odile Farrant');
    expect(sale.ship_to).toBe('Quarry Lane 4\nAldmoor\nIreland');
    expect(sale.bill_to).toBe('Am Wall 1\n28195 Bremen\nGermany');
  });
});

test('a product asks what is put on it, and a set begins a field or five', async ({ page, signIn, accessible }) => {
  await signIn();
  const desk = new Desk(page);

  await test.step('a set for bookings, put on one walk', async () => {
    await page.goto('/console/fields');
    await page.getByRole('button', { name: 'Add a field', exact: true }).click();
    await page.getByRole('form').getByRole('button', { name: 'bookings' }).click();
    const form = page.getByRole('form', { name: 'The starter set bookings' });
    await expect(form.getByRole('listitem')).toHaveText([
      'Who is coming',
      'Their e-mail, for the ticket',
      'A telephone number for emergencies',
      'Anything we should know',
    ]);
    await desk.pick(form, 'Products', ['Orchard walk, May morning']);
    await accessible('a starter set');
    await form.getByRole('button', { name: 'Put it into the draft' }).click();
    await expect(page.getByText('“bookings” was added.')).toBeVisible();
    await expect(desk.paragraph('attendee_name')).toBeVisible();
  });

  await test.step('what the walk asks, in the shopper’s order; one taken off, another product’s put on', async () => {
    await page.getByRole('link', { name: 'products', exact: true }).click();
    await page.getByRole('button', { name: 'Orchard walk, May morning' }).click();
    const walk = page.getByRole('region', { name: 'The product WA-MAY' });
    await expect(walk.getByRole('listitem')).toHaveCount(5);
    await expect(desk.preview.getByText('Their e-mail, for the ticket').first()).toBeVisible();
    await walk.getByRole('button', { name: 'Take off: Anything we should know' }).click();
    await expect(walk.getByRole('listitem')).toHaveCount(4);
    await expect(desk.preview.getByText('Anything we should know')).toHaveCount(0);
    await accessible('a product');
    await page.getByRole('button', { name: 'Orchard walk, October picking' }).click();
    const evening = page.getByRole('region', { name: 'The product WA-OCTOBER' });
    await expect(evening.getByRole('listitem')).toHaveCount(1);
    await desk.choose(evening, 'Ask what another product asks', 'Orchard walk, May morning');
    await expect(evening.getByRole('listitem')).toHaveCount(4);
    await evening.getByRole('button', { name: 'Their e-mail, for the ticket', exact: true }).click();
    await expect(desk.paragraph('attendee_email')).toBeVisible();
  });
});
