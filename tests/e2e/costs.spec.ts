import { createHash } from 'node:crypto';
import type { Page } from '@playwright/test';
import { openAccount } from './account';
import { checkOut, howMany, orderNumber, payByCard } from './checkout';
import { Desk } from './desk';
import { photograph } from './drawn';
import { expect, test } from './fixtures';

// What answers cost and what they use up: defined by hand, bought by two shoppers, read on the order and in the back office.
test.use({ shop: 'Costs', expected: [/422 \(Unprocessable Entity\)/] });

interface Sale {
  sale: {
    shop_number: number;
    total_minor: number;
    notes: { key: string; text: string }[];
    lines: {
      attachments: { files: { name: string; sha256: string }[] }[];
      item: string;
      quantity: number;
      sum_minor: number;
      charges: { label: string; sum_minor: number }[];
      components: { item: string; quantity: number }[];
    }[];
  };
}

const row = (page: Page, label: string) => page.locator('.sum dt').filter({ hasText: label }).locator('+ dd');

async function putIn(page: Page, quantity: number): Promise<void> {
  await page.getByRole('button', { name: `Put ${quantity} in the cart` }).click();
  await expect(page.getByRole('heading', { name: 'Cart' })).toBeVisible();
}

test('prices by the letter, worked out, answered and counted, and what leaves the shelf', async ({ page, world, signIn, accessible }) => {
  await signIn();
  const desk = new Desk(page);

  await test.step('a stamped label by the letter, with another amount for trade', async () => {
    const words = await desk.add({ label: 'Words on the label', of: ['Zinc label, stamped, large'] });
    const field = desk.paragraph(words);
    await desk.bring(field.getByRole('button', { name: 'add a price' }), field.getByLabel('What price 1 is taken times', { exact: true }));
    await desk.choose(field, 'What price 1 is taken times', 'a letter');
    await field.getByLabel('Amount', { exact: true }).fill('0,2x');
    await expect(field.getByText('“0,2x” is no amount. Give one such as 1.20.')).toBeVisible();
    await field.getByLabel('Amount', { exact: true }).fill('0,20');
    await expect(field.getByText('is no amount')).toBeHidden();
    await field.getByLabel('How many are included in price 1').fill('12');
    await field.getByRole('button', { name: 'another amount for some' }).click();
    await desk.choose(field, 'Shopper group of another amount of price 1', 'trade');
    await field.getByLabel('Amount for another, 1').fill('0.10');
    await expect(page.getByText('Saved.')).toBeVisible();
    await desk.preview.getByLabel('Words on the label').fill('Grandmother’s quince');
    await expect(desk.preview.getByText('+ €\u00a00.20 a letter over 12')).toBeVisible();
    await expect(desk.preview.locator('.entry-adds')).toHaveText('+ €\u00a01.20');
    await expect(row(page, 'Words on the label')).toHaveText('€\u00a01.20');
    await accessible('a price by the letter');
    await desk.add({ label: 'Picture of the site', type: 'a picture', of: ['Zinc label, stamped, large'] });
  });

  await test.step('the typeface stands in the item code', async () => {
    await page.getByRole('button', { name: /^Typeface/ }).click();
    const field = desk.paragraph('typeface');
    await field.getByRole('button', { name: 'more of Roman' }).click();
    await field.getByLabel('Code of the choice').fill('RO');
    await expect(page.getByText('Saved.')).toBeVisible();
    await field.getByRole('button', { name: 'make it part of the item code' }).click();
    await expect(field.getByText(/would both be LA-ZINC-L/)).toBeVisible();
    await field.getByLabel('What stands for an empty part of this part').fill('NO');
    for (const [choice, code] of [
      ['Clarendon', 'CL'],
      ['Plain', 'PL'],
    ] as const) {
      await field.getByRole('button', { name: `more of ${choice}` }).click();
      await field.getByLabel('Code of the choice').fill(code);
      await expect(field.getByLabel('Code of the choice')).toHaveValue(code);
    }
    await expect(field.getByText(/would both be/)).toBeHidden();
    await desk.preview.getByLabel('Roman').check();
    await expect(desk.preview.getByText('LA-ZINC-L.RO', { exact: true })).toBeVisible();
    // The parts are moved, and moved back.
    await field.getByRole('button', { name: 'the rules of the shop' }).click();
    const order = field.getByRole('list', { name: 'Order of the parts of the shop' });
    await order.getByRole('button', { name: 'Move forward: “Typeface”' }).click();
    await expect(desk.preview.getByText('RO.LA-ZINC-L', { exact: true })).toBeVisible();
    await order.getByRole('button', { name: 'Move back: “Typeface”' }).click();
    await expect(desk.preview.getByText('LA-ZINC-L.RO', { exact: true })).toBeVisible();
  });

  await test.step('plants worked out, and a tie for each', async () => {
    const plants = await desk.add({ label: 'Plants in all', type: 'an answer worked out', of: ['Beech hedging, a metre'] });
    const field = desk.paragraph(plants);
    await expect(field.getByText('It works nothing out yet. Say what it begins with.')).toBeVisible();
    await field.getByRole('button', { name: 'begin with an answer' }).click();
    await desk.choose(field, 'Fact of row 1', 'quantity');
    await field.getByRole('button', { name: 'add a row' }).click();
    await desk.choose(field, 'Shape of row 2', 'an answer or a fact');
    await desk.choose(field, 'Fact of row 2', 'plants a metre');
    await expect(desk.preview.locator('output')).toHaveText('5');
    await field.getByRole('button', { name: 'add a component' }).click();
    await desk.choose(field, 'Component 1', 'Tree tie, soft');
    await desk.choose(field, 'How often component 1 is used', 'once a line');
    await field.getByRole('button', { name: 'whatever the number' }).click();
    await expect(field.getByRole('button', { name: 'times the number answered' })).toBeVisible();
    await expect(field.getByLabel('How many there are of AC-TIE')).toHaveValue('240');
    await field.getByLabel('How many there are of AC-TIE').fill('40');
    await expect
      .poll(async () => (await world.query<{ on_hand: string }>(`select on_hand from stock where item = 'AC-TIE'`))[0]!.on_hand)
      .toBe('40');
    await accessible('an answer worked out, with a component');
  });

  await test.step('a credit of one’s own amount, and a box of twelve', async () => {
    const credit = await desk.add({ label: 'How much', type: 'an amount of money', of: ['Planting credit'] });
    await desk.choose(desk.paragraph(credit), 'When an answer must be given', 'always');
    await desk.paragraph(credit).getByRole('button', { name: 'add a price' }).click();
    await desk.choose(desk.paragraph(credit), 'What price 1 is taken times', 'as answered');
    await desk.choose(desk.paragraph(credit), 'What price 1 does', 'as the price of one');
    await desk.add({ label: 'A word for whoever gets it', type: 'a longer text', of: ['Planting credit'] });
    const box = await desk.add({ label: 'Which bulbs', type: 'how many of each', of: ['Box of mixed bulbs'] });
    await desk.paste(box, ['Tulip', 'Crocus', 'Allium', 'Narcissus', 'Squill']);
    await desk.choose(desk.paragraph(box), 'When an answer must be given', 'always');
    // All five kinds together are longer than a note of the back office: it is said before anything is published.
    await desk.paragraph(box).getByRole('button', { name: 'Leave off the back office' }).click();
    for (const limit of ['a least number in all', 'a greatest number in all'])
      await desk.paragraph(box).getByRole('button', { name: limit }).click();
    await desk.paragraph(box).getByLabel('at least … in all').fill('12');
    await desk.paragraph(box).getByLabel('at most … in all').fill('12');
    await expect(page.getByText('Saved.')).toBeVisible();
    await desk.paragraph(box).getByRole('button', { name: 'add a price' }).click();
    await desk.paragraph(box).getByLabel('Amount', { exact: true }).fill('0.55');
    await desk.paragraph(box).getByRole('button', { name: 'add a price' }).click();
    await desk.paragraph(box).getByLabel('Amount', { exact: true }).nth(1).fill('0.30');
    await desk.paragraph(box).getByLabel('How many picks are included').fill('2');
    await desk.preview.getByLabel('Tulip').fill('7');
    await desk.preview.getByLabel('Crocus').fill('5');
    await expect(row(page, 'Which bulbs: Tulip')).toHaveText('€\u00a03.85');
    await expect(row(page, 'Which bulbs: Crocus')).toHaveText('€\u00a00.90');
    const light = await desk.add({ label: 'Light at the site', of: ['Box of mixed bulbs'] });
    await desk.paragraph(light).getByRole('button', { name: 'that the page’s script gives it' }).click();
    await expect(desk.paragraph(light).getByText('given by a script of the page, not by hand')).toBeVisible();
  });

  await test.step('an organisation’s tax number, looked up', async () => {
    const number = await desk.add({ label: 'Tax number', type: 'a tax number', level: 'every order' });
    const field = desk.paragraph(number);
    await field.getByRole('button', { name: 'that the registry is asked' }).click();
    await expect(page.getByText('Saved.')).toBeVisible();
    await desk.preview.getByLabel('Tax number').fill('IE0000355N');
    await desk.preview.getByLabel('Tax number').blur();
    await expect(
      desk.preview.getByText('The registry does not know this tax number. Compare it with the certificate that it stands on.'),
    ).toBeVisible();
    await field.getByRole('button', { name: 'what follows when the registry does not know it' }).click();
    await desk.choose(field, 'one that the registry does not know is …', 'taken, and staff are told');
    await expect(desk.preview.getByText('The registry does not know this tax number.')).toBeHidden();
    await desk.publish('What answers cost');
  });

  await test.step('bought by a household, with a coupon', async () => {
    await page.goto('/products/LA-ZINC-L');
    await page.getByLabel('Words on the label').fill('Grandmother’s quince');
    await page.getByLabel('Roman').check();
    await howMany(page, 2);
    await page
      .getByRole('group', { name: 'Picture of the site' })
      .locator('input[type=file]')
      .setInputFiles(await photograph(page, 'south border.jpg', 1600, 1200));
    await expect(page.getByRole('button', { name: 'Take out south border.jpg' })).toBeVisible();
    await expect(row(page, 'Words on the label')).toHaveText('€\u00a02.40');
    await putIn(page, 2);
    await page.goto('/products/HE-BEECH');
    await howMany(page, 6);
    await expect(page.locator('output')).toHaveText('30');
    await putIn(page, 6);
    // Until it is answered it has no price, and never the catalogue's.
    await page.goto('/');
    await expect(page.getByRole('link', { name: /Planting credit/ }).first()).toContainText('by “How much”');
    await page.goto('/products/CR-PLANT');
    await expect(row(page, 'Planting credit')).toHaveText('by “How much”');
    await expect(row(page, 'Total so far')).toHaveText('€\u00a00.00');
    await expect(page.locator('main')).not.toContainText('25.00');
    await page.getByLabel('How much').fill('40');
    await page.getByLabel('A word for whoever gets it').fill('For your new garden.\nOdile');
    await expect(row(page, 'Planting credit')).toHaveText('€\u00a040.00');
    await expect(page.getByText('€\u00a040.00 each')).toBeVisible();
    await putIn(page, 1);
    await page.goto('/products/BU-BOX');
    await page.getByLabel('Tulip').fill('7');
    await page.getByLabel('Crocus').fill('5');
    await page.evaluate(() =>
      window.dispatchEvent(new CustomEvent('sexton-answer', { detail: { field: 'light_at_the_site', value: 'full sun ' } })),
    );
    await expect(page.locator('output')).toHaveText('full sun');
    await putIn(page, 1);
    await page.getByLabel('Coupon').fill('nothing');
    await page.getByRole('button', { name: 'Use it' }).click();
    await expect(page.getByText('The code “nothing” is not valid, or has run out.')).toBeVisible();
    await page.getByLabel('Coupon').fill('friend5');
    await page.getByRole('button', { name: 'Use it' }).click();
    // 34.00 + 2.40 + 5.00, 69.00, 40.00, 6.00 + 3.85 + 0.90, less 5.00
    await expect(row(page, 'Total')).toHaveText('€\u00a0156.15');
    await accessible('a cart with prices and a coupon');
    await checkOut(page);
    const number = Number(await payByCard(page));
    await expect(row(page, 'Total')).toHaveText('€\u00a0156.15');

    await expect.poll(async () => (await world.received<Sale>('back-office/sales')).some((s) => s.sale.shop_number === number)).toBe(true);
    const { sale } = (await world.received<Sale>('back-office/sales')).find((s) => s.sale.shop_number === number)!;
    expect(sale.total_minor).toBe(15_615);
    expect(sale.lines.map((l) => `${l.item} ${l.sum_minor + l.charges.reduce((s, c) => s + c.sum_minor, 0)}`)).toEqual([
      'LA-ZINC-L.RO 4140',
      'HE-BEECH 6900',
      'CR-PLANT 4000',
      'BU-BOX 1075',
    ]);
    // The picture opens there, and is the one that was handed in.
    const [picture] = sale.lines[0]!.attachments[0]!.files;
    const opened = await (await page.request.get(`${world.standInAddress}/back-office/files/${picture!.sha256}/${picture!.name}`)).body();
    expect(createHash('sha256').update(opened).digest('hex')).toBe(picture!.sha256);
    expect(
      await page.evaluate(
        async (bytes) => (await createImageBitmap(new Blob([Uint8Array.from(atob(bytes), (c) => c.charCodeAt(0))]))).width,
        opened.toString('base64'),
      ),
    ).toBe(1600);
    expect(sale.lines[1]!.components.map((c) => `${c.item} ${c.quantity}`)).toEqual(['AC-TIE 30']);
    expect((await world.query<{ on_hand: string; held: string }>(`select on_hand, held from stock where item = 'AC-TIE'`))[0]).toEqual({
      on_hand: '10',
      held: '0',
    });

    await page.goto(`/console/orders/${number}`);
    await page.getByRole('button', { name: 'how it adds up' }).click();
    await expect(page.getByRole('row', { name: /^Typeface: Roman 2 €\s2\.50/ })).toBeVisible();
    await accessible('an order and how it adds up');
  });

  await test.step('bought by trade, at their amount; and told what is left', async () => {
    await openAccount(page, world, 'bram@hedgerow-works.example');
    await page.goto('/products/LA-ZINC-L');
    await page.getByLabel('Words on the label').fill('Grandmother’s quince');
    await expect(row(page, 'Words on the label')).toHaveText('€\u00a00.60');
    await page.goto('/products/HE-BEECH');
    await howMany(page, 3);
    await page.getByRole('button', { name: 'Put 3 in the cart' }).click();
    await expect(page.getByText('Only 10 are left of “Tree tie, soft”. Choose fewer.')).toBeVisible();
    await howMany(page, 2);
    await putIn(page, 2);
    await page.getByLabel('Tax number').fill('ie 0000355 n');
    await page.getByRole('button', { name: 'Go on' }).click();
    await page.getByLabel('Your name').fill('Bram Osei');
    await page.getByLabel('E-mail').fill('bram@hedgerow-works.example');
    await page.getByRole('button', { name: 'Go on' }).click();
    // Suggested while typing, and never forced: chosen, it fills the other lines.
    await page.getByLabel('Country').selectOption('IE');
    await page.getByLabel('Street and number').fill('quarry h');
    await expect(page.locator('datalist option')).toHaveCount(1);
    await page.getByLabel('Street and number').fill('Quarry Hill 11, X98 C3D4 Ballyfarrant');
    await expect(page.getByLabel('Town')).toHaveValue('Ballyfarrant');
    await expect(page.getByLabel('Street and number')).toHaveValue('Quarry Hill 11');
    await page.getByLabel('Collect from the shop').check();
    await page.getByRole('button', { name: 'Go on' }).click();
    await page.getByLabel('Card number').waitFor();
    await page.getByRole('button', { name: '9000 0000 0000 0019' }).click();
    await page.getByRole('button', { name: /^Order and pay/ }).click();
    const number = Number(await orderNumber(page));
    expect((await world.query<{ on_hand: string }>(`select on_hand from stock where item = 'AC-TIE'`))[0]!.on_hand).toBe('0');
    await expect.poll(async () => (await world.received<Sale>('back-office/sales')).some((s) => s.sale.shop_number === number)).toBe(true);
    const { sale } = (await world.received<Sale>('back-office/sales')).find((s) => s.sale.shop_number === number)!;
    expect(sale.notes.map((n) => `${n.key}: ${n.text}`)).toContain('tax_number: IE0000355N');
    await page.goto(`/console/orders/${number}`);
    await expect(page.getByRole('row', { name: /^Tax number IE0000355N\s+the registry does not know it/ })).toBeVisible();
  });
});
