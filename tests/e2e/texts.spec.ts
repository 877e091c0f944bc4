import { readFileSync } from 'node:fs';
import { parse } from 'csv-parse/sync';
import { ApiManager } from './apiManager';
import { stringify } from './csv';
import { Desk } from './desk';
import { expect, test } from './fixtures';

// The manager looks at all texts in both languages: finds what is missing, says it, takes the table out and brings it in again.
test.use({ shop: 'Texts', expected: [/Failed to load resource: the server responded with a status of (409|422)/] });

test('what is missing is found and said, in the table and by a file', async ({ page, world, signIn, accessible }) => {
  await signIn();
  const desk = new Desk(page);
  const api = new ApiManager(page.request, world.address);
  const row = (key: string) => page.getByRole('row').filter({ hasText: key });

  await test.step('the shop speaks German from now on, and lacks something', async () => {
    await page.goto('/console/shop');
    await page.getByRole('checkbox', { name: 'Deutsch' }).check();
    await expect(page.getByText('changed “languages”').first()).toBeVisible();
    await page.getByRole('checkbox', { name: 'English' }).uncheck();
    await page.getByRole('checkbox', { name: 'Deutsch' }).click();
    await expect(page.getByText('Give one or more of the languages en, de, each once.')).toBeVisible();
    await expect(page.getByRole('checkbox', { name: 'Deutsch' })).toBeChecked();
    await page.getByRole('checkbox', { name: 'English' }).check();
    await page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: 'Wording' }).click();
    await expect(page.getByText(/English: nothing missing · Deutsch: \d+ missing/)).toBeVisible();
    await desk.chooseIn(page.getByRole('combobox', { name: 'Which texts' }), 'only what is missing');
    await expect(row('field.guest_name.label')).toBeVisible();
    await expect(row('shop.go_on')).toHaveCount(0);
    await accessible('what is missing');
  });

  await test.step('one is said in its place, by keys alone', async () => {
    await row('field.guest_name.label')
      .getByRole('button', { name: /Deutsch/ })
      .focus();
    await page.keyboard.press('Enter');
    await page.keyboard.type('Wer kommt');
    await page.keyboard.press('Escape');
    await expect(row('field.guest_name.label').getByRole('button', { name: /Deutsch: nothing/ })).toBeFocused();
    await page.keyboard.press('Enter');
    await page.keyboard.type('Wer kommt');
    await page.keyboard.press('Control+Enter');
    await expect(row('field.guest_name.label')).toHaveCount(0);
  });

  await test.step('a sentence is said otherwise, and as shipped again', async () => {
    await desk.chooseIn(page.getByRole('combobox', { name: 'Which texts' }), 'everything');
    await page.getByRole('searchbox', { name: 'Find' }).fill('shop.order_and_pay');
    await row('shop.order_and_pay')
      .getByRole('button', { name: /English/ })
      .click();
    await page.getByRole('textbox', { name: /shop.order_and_pay, English/ }).fill('Pay {0} and {1}');
    await page.keyboard.press('Control+Enter');
    await expect(row('shop.order_and_pay').getByRole('alert')).toHaveText(
      'Nothing is filled in for {1} here. Take it out, or use one of: {0}.',
    );
    await row('shop.order_and_pay')
      .getByRole('button', { name: /English/ })
      .click();
    await page.getByRole('textbox', { name: /shop.order_and_pay, English/ }).fill('Buy for {0}');
    await page.keyboard.press('Control+Enter');
    await expect(row('shop.order_and_pay').getByRole('button', { name: 'as shipped' })).toBeVisible();
    await page.goto('/console/versions');
    await expect(page.getByText('shop.order_and_pay (en)')).toBeVisible();
    await page.getByRole('link', { name: 'Sentences' }).click();
    await page.getByRole('searchbox', { name: 'Find' }).fill('Buy for');
    await row('shop.order_and_pay').getByRole('button', { name: 'as shipped' }).click();
    await page.getByRole('searchbox', { name: 'Find' }).fill('shop.order_and_pay');
    await expect(row('shop.order_and_pay').getByRole('button', { name: /English: Order and pay/ })).toBeVisible();
  });

  await test.step('the table goes out, and comes in changed', async () => {
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Take it out as CSV' }).click()]);
    // Read by another program (csv-parse): RFC 4180, with a byte order mark.
    const rows = parse(readFileSync(await download.path()), { bom: true }) as string[][];
    const at = rows.findIndex(([key]) => key === 'field.safe_place.label');
    expect(rows[0]).toEqual(['key', 'where', 'en', 'de']);
    expect(rows[at]!.slice(2)).toEqual(['A safe place, if nobody is in', '']);

    rows[at]![3] = 'Ein sicherer Platz';
    const wrong = rows.with(at, [...rows[at]!.slice(0, 3), 'x'.repeat(121)]);
    await page.getByLabel('Bring one in').setInputFiles({ name: 'wrong.csv', mimeType: 'text/csv', buffer: Buffer.from(stringify(wrong)) });
    await expect(page.getByText('One thing keeps it from being taken.')).toBeVisible();
    await expect(page.getByRole('region', { name: 'What was brought in' }).getByRole('row').nth(1)).toContainText(
      `${at + 1}deShorten it to 120 characters.`,
    );
    await accessible('a table with an error');
    await page.getByLabel('Bring one in').setInputFiles({ name: 'german.csv', mimeType: 'text/csv', buffer: Buffer.from(stringify(rows)) });
    await expect(page.getByText('One text becomes another.')).toBeVisible();

    // Somebody was quicker with the same: what is shown is no longer what comes of it.
    await api.bringTexts(
      stringify([
        ['key', 'de'],
        ['field.gate_code.label', 'Torcode'],
      ]),
    );
    await page.getByRole('button', { name: 'Put it into the draft' }).click();
    await expect(page.getByText('The draft was changed since this was shown. Look at the difference again.')).toBeVisible();
    await expect(page.getByText('2 texts become another.')).toBeVisible();
    await page.getByRole('button', { name: 'Put all 2 into the draft' }).click();
    await expect(page.getByRole('region', { name: 'What was brought in' })).toHaveCount(0);
    await page.getByRole('searchbox', { name: 'Find' }).fill('safe_place.label');
    await expect(row('field.safe_place.label').getByRole('button', { name: /Deutsch: Ein sicherer Platz/ })).toBeVisible();
  });

  await test.step('the preview shows it in German', async () => {
    await page.goto('/console/fields/guest_name');
    await desk.preview.getByRole('button', { name: 'change it' }).click();
    await desk.choose(desk.preview, 'Language of the stand-in cart', 'Deutsch');
    await expect(desk.preview.getByLabel('Wer kommt').first()).toBeVisible();
    await expect(desk.preview.getByRole('group', { name: /Platz 1 von/ })).toBeVisible();
    await page.goto('/console/fields/shopper_email?by=destinations');
    const sent = page.frameLocator('iframe');
    await desk.choose(page.getByRole('region', { name: 'What it gets' }), 'Language of the stand-in order', 'English');
    await expect(sent.getByText('We have your order')).toBeVisible();
    await desk.choose(page.getByRole('region', { name: 'What it gets' }), 'Language of the stand-in order', 'Deutsch');
    await expect(sent.getByText('Wir haben Ihre Bestellung')).toBeVisible();
  });
});
