import { simpleParser } from 'mailparser';
import { expect, test } from './fixtures';
import { howMany } from './checkout';

const wording = 'Für Großmutter Zoë 🌿';

interface Received {
  raw: string;
}
interface Booked {
  sale: { shop_number: number; lines: { notes: { key: string; label: string; text: string }[] }[] };
}

// The frame with the message runs no script, and says so when the test looks into it.
test.use({ expected: [/Blocked script execution in 'about:srcdoc'/] });

test('one wording, from the manager’s desk to the back office', async ({ page, world, signIn, accessible }) => {
  let number = '';
  await page.goto('/console');
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible();
  await accessible('sign in');
  await signIn();

  await test.step('define', async () => {
    await page.getByRole('button', { name: 'Add a field', exact: true }).click();
    const form = page.getByRole('form', { name: 'A new field' });
    await form.getByLabel('Label').fill('Words on the label');
    await expect(form.getByLabel('Key')).toHaveValue('words_on_the_label');
    await accessible('new field');
    await form.locator('.p-multiselect').first().click();
    await page.getByRole('option', { name: 'Zinc label, stamped, large' }).click();
    await page.keyboard.press('Escape');
    await form.getByRole('button', { name: 'Add it to the draft' }).click();

    const field = page.getByRole('region', { name: 'The field words_on_the_label' });
    await field.getByLabel('at most … characters').fill('90');
    await expect(field.getByText('the back office takes 60')).toBeVisible();
    await accessible('the map with a problem');
    await field.getByLabel('at most … characters').fill('40');
    await expect(field.getByText('the back office takes 60')).toBeHidden();
    await field.getByLabel('When an answer must be given').click();
    await page.getByRole('option', { name: 'always' }).click();

    const preview = page.getByRole('region', { name: 'What the shopper sees' });
    await preview.getByLabel('Words on the label').fill(wording);
    await expect(preview.getByText('20 of 40')).toBeVisible();
    await field.getByLabel('Label', { exact: true }).fill('Words on the tag');
    await expect(preview.getByText('Words on the tag')).toBeVisible();
    await field.getByLabel('Label', { exact: true }).fill('Words on the label');
    await expect(preview.getByText('Words on the label')).toBeVisible();
  });

  await test.step('publish', async () => {
    await page.getByRole('link', { name: 'Versions' }).click();
    await expect(page.getByText('of every line of “Zinc label, stamped, large”')).toBeVisible();
    await accessible('versions');
    await page.getByLabel('What is this version for?').fill('Wording for the zinc labels');
    await page.getByRole('button', { name: /^Publish version \d+$/ }).click();
    await expect(page.getByText(/Version \d+ is in force\./)).toBeVisible();
  });

  await test.step('ask', async () => {
    await page.goto('/');
    await expect(page.getByRole('heading', { name: 'Hedging' })).toBeVisible();
    await accessible('catalogue');
    await page.getByRole('link', { name: 'Zinc label, stamped, large' }).click();
    await page.getByRole('button', { name: 'Put 1 in the cart' }).click();
    await expect(page.getByText('Please fill in “Words on the label”.')).toBeVisible();
    await expect(page.getByLabel('Words on the label')).toBeFocused();
    await accessible('product page with a problem');
    await page.getByLabel('Words on the label').fill(wording);
    await howMany(page, 2);
    await expect(page.getByText('€ 34.00').first()).toBeVisible();
    await page.getByRole('button', { name: 'Put 2 in the cart' }).click();
    await expect(page.getByRole('heading', { name: 'Cart' })).toBeVisible();
    await expect(page.locator('[data-slot$="/words_on_the_label"]')).toHaveText(wording);
    await accessible('cart');
    await page.getByRole('button', { name: 'Go on' }).click();

    await page.getByRole('button', { name: 'Go on' }).click();
    await expect(page.getByText('Please fill in “E-mail”.')).toBeVisible();
    await accessible('contact with problems');
    await page.getByLabel('Your name').fill('Odile Farrant');
    await page.getByLabel('E-mail').fill('odile@farrant.example');
    await page.getByLabel('Telephone').fill('020 912 3456');
    await page.getByRole('button', { name: 'Go on' }).click();
    await page.getByLabel('Street and number').fill('Quarry Lane 4');
    await page.getByLabel('Town').fill('Aldmoor');
    await page.getByLabel('Country').selectOption('IE');
    await accessible('delivery');
    await page.getByRole('button', { name: 'Go on' }).click();
    await page.getByRole('button', { name: '9000 0000 0000 0019' }).click();
    await accessible('payment');
    await page.getByRole('button', { name: 'Order and pay € 34.00' }).click();
    const thanks = page.getByRole('heading', { name: /^We have your order \d+$/ });
    await expect(thanks).toBeVisible();
    number = /\d+$/.exec(await thanks.innerText())![0];
    await expect(page.locator('[data-slot$="/words_on_the_label"]')).toHaveText(wording);
    await accessible('confirmation');
  });

  await test.step('arrive', async () => {
    await page.goto('/console/orders');
    await expect(page.getByRole('row', { name: number }).getByText('all arrived')).toBeVisible();
    await accessible('orders');
    await page.getByRole('link', { name: number }).click();
    const row = page.getByRole('row', { name: /Words on the label/ });
    await expect(row.locator('[data-slot]')).toHaveText(wording);
    await expect(row.locator('[data-sign="folded_sheet"]')).toHaveCount(4);
    await expect(row.locator('[data-sign="sealed_sheet"]')).toHaveCount(1);
    await expect(page.getByText(/all \d+ arrivals as expected/)).toBeVisible();

    const evidence = page.getByRole('region', { name: 'Evidence' });
    await row.getByRole('button', { name: /To the shopper/ }).click();
    await expect(evidence.getByText('Handed over')).toBeVisible();
    await expect(page.frameLocator('iframe').locator('[data-slot$="/words_on_the_label"]')).toHaveText(wording);
    // axe cannot look into a frame that runs no script: it looks at the other part.
    await evidence.getByRole('button', { name: 'plain' }).click();
    await expect(evidence.locator('mark')).toContainText(wording);
    await accessible('evidence of the e-mail');
    await row.getByRole('button', { name: /Back office/ }).click();
    await expect(evidence.getByText(/Taken as BO-\d+ and read back/)).toBeVisible();
    await expect(evidence.locator('mark').filter({ hasText: wording })).toHaveCount(1);
    for (const place of [/Cart line/, /Confirmation/, /Order page/]) {
      await row.getByRole('button', { name: place }).click();
      await expect(evidence.locator('dd').filter({ hasText: wording }).first()).toBeVisible();
      await expect(evidence.locator('.sign')).toHaveText('shown');
    }
  });

  await test.step('what the others received', async () => {
    const mails = await Promise.all(
      (await world.received<Received>('mail/messages')).map((m) => simpleParser(Buffer.from(m.raw, 'base64'))),
    );
    const [mail, ...others] = mails.filter((m) => m.subject?.includes(number));
    expect(others).toEqual([]);
    expect(mail!.text).toContain(`. Words on the label: ${wording}\n`);
    expect(mail!.html).toContain('data-slot="line/');
    const sale = (await world.received<Booked>('back-office/sales')).find((s) => s.sale.shop_number === Number(number));
    expect(sale!.sale.lines[0]!.notes).toContainEqual({ key: 'words_on_the_label', label: 'Words on the label', text: wording });
  });
});
