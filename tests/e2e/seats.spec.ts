import { parse } from 'csv-parse/sync';
import type { Page } from '@playwright/test';
import { cellsOf } from '../../web/entry/table/block';
import { ApiManager } from './apiManager';
import { howMany } from './checkout';
import { paste } from './clipboard';
import { expect, test } from './fixtures';

// A field is put in and published, which other files need not answer.
test.use({ shop: 'Thirty seats', expected: [/422 .*cart\/lines\//] });

const WALK = ['WA-MAY', 'WA-OCTOBER'];

test('thirty seats are pasted, mended, copied and dropped, and twenty-eight stay what they were', async ({
  page,
  world,
  signIn,
  accessible,
}) => {
  await signIn();
  const api = new ApiManager(page.request, world.address);
  await api.field('mail', 'Their e-mail', 'email', 'unit', WALK);
  await api.field('pace', 'Pace', 'one_of', 'unit', WALK, {
    required: true,
    'settings.choices': ['Stroller', 'Steady', 'Brisk'].map((en) => ({ key: en.toLowerCase(), label: { en } })),
  });
  const brisk = { when: { of: 'answer.pace', is: 'brisk' } };
  await api.field('boots', 'Size of boots', 'number', 'unit', WALK, { ...brisk, 'settings.least': 30, 'settings.most': 50, most_each: 40 });
  await api.field('born', 'Born on', 'date', 'unit', WALK, { 'settings.latest': { years_from_today: -18 } });
  await api.field('diet', 'What you do not eat', 'long_text', 'unit', WALK);
  await api.publish('Boots for the brisk');

  await page.goto('/products/WA-MAY');
  const cell = (label: string, seat: number, of = 30) => page.getByLabel(`${label}, Seat ${seat} of ${of}`, { exact: true });
  await expect(page.getByText('at most 40')).toBeVisible();
  await howMany(page, 30);

  await test.step('a block with two that are wrong', async () => {
    const rows = Array.from({ length: 30 }, (_, i) => [`Guest ${i + 1}`, `guest${i + 1}@example.org`, i % 2 ? 'Steady' : 'brisk']);
    rows[6]![1] = 'guest7 at example';
    rows[20]![2] = 'Galloping';
    await cell('Who is coming', 1).focus();
    await paste(page, rows.map((row) => row.join('\t')).join('\r\n') + '\r\n');
    await expect(page.getByText('90 pasted.')).toBeVisible();
    await expect(cell('Their e-mail', 7)).toHaveAccessibleDescription(/not an e-mail address/);
    await expect(cell('Their e-mail', 7)).toHaveValue('guest7 at example');
    await expect(cell('Pace', 21)).toHaveAccessibleDescription(/Choose from the list/);
    await expect(cell('Pace', 21).locator('option:checked')).toHaveText('Galloping');
    await expect(page.locator('.entry-many [aria-invalid]')).toHaveCount(2);
    await expect(page.getByText('2 answers need mending.')).toBeVisible();
    await page.getByRole('button', { name: 'Go to the first' }).click();
    await expect(cell('Their e-mail', 7)).toBeFocused();
    await accessible('thirty seats');
  });

  await test.step('what is not asked of a seat says why', async () => {
    await expect(page.locator('td.out')).toHaveCount(16);
    await expect(page.getByRole('row', { name: /^Seat 2 of 30/ }).locator('td.out')).toHaveText('Not asked, as “Pace” is Steady.');
  });

  await test.step('mended by keys alone', async () => {
    await cell('Their e-mail', 7).focus();
    await page.keyboard.press('ControlOrMeta+a');
    await page.keyboard.type('guest7@example.org');
    await page.keyboard.press('Enter');
    await expect(cell('Their e-mail', 8)).toBeFocused();
    await page.keyboard.press('Shift+Enter');
    await page.keyboard.press('ArrowRight');
    await expect(cell('Pace', 7)).toBeFocused();
    for (let i = 7; i < 21; i++) await page.keyboard.press('ArrowDown');
    await expect(cell('Pace', 21)).toBeFocused();
    await page.keyboard.type('Str');
    await expect(cell('Pace', 21)).toHaveValue('stroller');
    await expect(page.locator('.entry-many [aria-invalid]')).toHaveCount(0);
    // A hole is passed like any cell, and says its reason where what is at hand is told.
    await page.keyboard.press('ArrowRight');
    await expect(page.getByText('Size of boots, Seat 21 of 30: Not asked, as “Pace” is Stroller.')).toBeVisible();
  });

  await test.step('one answer is copied to those that have none, and taken back', async () => {
    await cell('Size of boots', 3).fill('44');
    await cell('Size of boots', 1).fill('38');
    await page.keyboard.press('ControlOrMeta+d');
    await expect(page.getByText('Copied to 28.')).toBeVisible();
    await expect(cell('Size of boots', 3)).toHaveValue('44');
    await expect(cell('Size of boots', 5)).toHaveValue('38');
    await cell('Size of boots', 5).fill('39');
    await page.getByRole('button', { name: 'Undo this' }).click();
    await expect(cell('Size of boots', 7)).toHaveValue('');
    // What was typed since is not taken back.
    await expect(cell('Size of boots', 5)).toHaveValue('39');
    await cell('Born on', 2).fill('29.2.2000');
    await page.getByRole('button', { name: 'Copy this to all' }).click();
    await expect(page.getByText('Copied to 29.')).toBeVisible();
    await expect(cell('Born on', 30)).toHaveValue('29.2.2000');
    await cell('Born on', 30).fill('1 January 2020');
    await cell('Born on', 29).focus();
    await expect(cell('Born on', 30)).toHaveAccessibleDescription(/“Born on” can be \d+ \w+ \d{4} at the latest\./);
    await cell('Born on', 30).fill('1 January 2000');
  });

  await test.step('a long text opens under its row', async () => {
    await page
      .getByRole('row', { name: /^Seat 4 of 30/ })
      .getByRole('button', { name: 'What you do not eat' })
      .click();
    await page.locator('.under textarea').fill('Nuts.\nAnd eggs.');
    await page.keyboard.press('Escape');
    await expect(cell('Who is coming', 4)).toBeVisible();
    await expect(page.locator('.under')).toHaveCount(0);
    await expect(page.getByRole('row', { name: /^Seat 4 of 30/ }).getByRole('button', { name: 'What you do not eat' })).toContainText(
      'Nuts.',
    );
  });

  await test.step('two are taken out by name', async () => {
    const many = page.getByLabel('How many', { exact: true });
    // Nobody is asked while a number is typed.
    await many.fill('2');
    await expect(page.getByText(/do you take out/)).toBeHidden();
    await many.fill('28');
    await page.keyboard.press('Enter');
    const which = page.getByRole('group', { name: 'Which 2 do you take out?' });
    await which.getByLabel(/Guest 3,/).check();
    await which.getByLabel(/Guest 17,/).check();
    await which.getByRole('button', { name: 'Take them out' }).click();
    await expect(cell('Who is coming', 3, 28)).toHaveValue('Guest 4');
    const names = await page.getByLabel(/^Who is coming, Seat/).evaluateAll((all) => all.map((e) => (e as HTMLInputElement).value));
    expect(names).toEqual(Array.from({ length: 30 }, (_, i) => `Guest ${i + 1}`).filter((n) => n !== 'Guest 3' && n !== 'Guest 17'));
  });

  await page.reload();
  await expect(cell('Who is coming', 28, 28)).toHaveValue('Guest 30');
  await page.getByRole('button', { name: 'Put 28 in the cart' }).click();
  await expect(page.getByRole('heading', { name: 'Cart' })).toBeVisible();
  await expect(page.locator('[data-slot$="/guest_name"]')).toHaveCount(28);
  await expect(page.locator('[data-slot$="/boots"]')).toHaveText(['38', '39']);
  await expect(page.locator('[data-slot$="/born"]').first()).toHaveText('29 February 2000');
});

test('two windows change one line of the cart, and neither takes away what the other typed', async ({ page: first, context }) => {
  await first.goto('/products/WA-MAY');
  await howMany(first, 3);
  const name = (of: Page, seat: number, all: number) =>
    of.getByRole('group', { name: `Seat ${seat} of ${all}` }).getByLabel('Who is coming');
  for (const seat of [3, 1, 2]) {
    await name(first, seat, 3).fill(`Guest ${seat}`);
    await first
      .getByRole('group', { name: `Seat ${seat} of 3` })
      .getByRole('radio', { name: 'Steady' })
      .check();
  }
  await first.getByRole('button', { name: 'Put 3 in the cart' }).click();
  await expect(first.locator('[data-slot$="/guest_name"]')).toHaveText(['Guest 1', 'Guest 2', 'Guest 3']);
  const second = await context.newPage();
  await second.goto('/cart');
  for (const window of [first, second]) await window.getByRole('button', { name: /^Change Orchard walk/ }).click();

  await name(first, 1, 3).fill('Una');
  await first.getByRole('button', { name: 'Keep the change' }).click();
  await expect(first.locator('[data-slot$="/guest_name"]')).toHaveText(['Una', 'Guest 2', 'Guest 3']);
  await name(second, 3, 3).fill('Tom');
  await second.getByRole('button', { name: 'Keep the change' }).click();
  await expect(second.locator('[data-slot$="/guest_name"]')).toHaveText(['Una', 'Guest 2', 'Tom']);

  // One takes two out, of which the other knows nothing and takes out one.
  await second.getByRole('button', { name: /^Change Orchard walk/ }).click();
  await name(second, 3, 3).fill('Tom Rush');
  await first.reload();
  await first.getByRole('button', { name: /^Change Orchard walk/ }).click();
  await howMany(first, 4);
  await name(first, 4, 4).fill('Ash');
  await first.getByRole('group', { name: 'Seat 4 of 4' }).getByRole('radio', { name: 'Steady' }).check();
  await first.getByRole('button', { name: 'Keep the change' }).click();
  await expect(first.locator('[data-slot$="/guest_name"]')).toHaveText(['Una', 'Guest 2', 'Tom', 'Ash']);
  await takeOut(second, 2, /Guest 2/);
  await second.getByRole('button', { name: 'Keep the change' }).click();
  await expect(second.getByText('Say which of them go.')).toBeVisible();
  await expect(name(second, 3, 4)).toHaveValue('Tom Rush');
  await takeOut(second, 3, /Guest 2/);
  await second.getByRole('button', { name: 'Keep the change' }).click();
  await expect(second.locator('[data-slot$="/guest_name"]')).toHaveText(['Una', 'Tom Rush', 'Ash']);

  // One takes the line out while the other writes in it: that is told, and what was written stands there until it is left.
  await first.getByRole('button', { name: /^Change Orchard walk/ }).click();
  await name(first, 4, 4).fill('Ash Rowan');
  await second.getByRole('button', { name: /^Take out Orchard walk/ }).click();
  await expect(second.getByText('The cart is empty.')).toBeVisible();
  await first.getByRole('button', { name: 'Keep the change' }).click();
  await expect(first.getByText('That is no longer in the cart. Reload the page.')).toBeVisible();
  await expect(name(first, 4, 4)).toHaveValue('Ash Rowan');
  await first.getByRole('button', { name: 'Leave it as it was' }).click();
  await first.getByRole('button', { name: /^Take out Orchard walk/ }).click();
  await expect(first.getByText('The cart is empty.')).toBeVisible();
});

async function takeOut(page: Page, left: number, who: RegExp): Promise<void> {
  await howMany(page, left);
  await page
    .getByRole('group', { name: /do you take out/ })
    .getByLabel(who)
    .check();
  await page.getByRole('button', { name: /^Take (it|them) out/ }).click();
}

test('more than a product takes is told before anything is typed', async ({ page, expected: _ }) => {
  await page.goto('/products/WA-OCTOBER');
  await howMany(page, 41);
  await expect(page.getByText(/^At most 40 of this can be ordered at once/)).toBeVisible();
});

test('on a telephone each seat is asked by itself, folds when it is done, and is found again when something is wrong', async ({
  page,
  accessible,
}) => {
  await page.setViewportSize({ width: 360, height: 740 });
  await page.goto('/products/WA-MAY');
  await howMany(page, 7);
  await expect(page.getByRole('group', { name: 'Seat 1 of 7' })).toBeVisible();
  await page.getByLabel('Who is coming').fill('Una');
  await page.getByRole('button', { name: 'Next: Seat 2 of 7' }).click();
  await expect(page.getByLabel('Who is coming')).toBeFocused();
  await expect(page.getByRole('button', { name: /^Seat 1 of 7 Una needs something/ })).toBeVisible();
  await accessible('one seat of seven');
  await page.getByRole('button', { name: 'Put 7 in the cart' }).click();
  await expect(page.getByRole('group', { name: 'Seat 1 of 7' }).getByRole('radio', { name: 'Steady' })).toBeVisible();
  await expect(page.getByRole('group', { name: 'Seat 1 of 7' })).toContainText('Please fill in “Pace”.');
});

test('a day is picked from a calendar that knows which can be', async ({ page, accessible }) => {
  await page.goto('/products/TR-QUINCE');
  await page.getByRole('button', { name: 'Calendar for When you mean to plant it' }).click();
  const calendar = page.getByRole('group', { name: 'Calendar for When you mean to plant it' });
  const day = calendar.getByRole('button', { name: /^\d+ \w+$/ });
  await expect(day.first()).toBeVisible();
  const shown = await day.evaluateAll((all) =>
    all.map((e) => ({ name: e.getAttribute('aria-label')!, open: e.getAttribute('aria-disabled') !== 'true' })),
  );
  const years = await calendar.getByLabel('Year').evaluateAll((all) => all.map((e) => (e as HTMLSelectElement).value));
  const weekday = (name: string) => new Date(`${name} ${years[0] || new Date().getFullYear()} 12:00 UTC`).getUTCDay();
  // Sundays are left out.
  expect(shown.filter((d) => weekday(d.name) === 0).map((d) => d.open)).not.toContain(true);
  expect(shown.filter((d) => weekday(d.name) === 1).map((d) => d.open)).toContain(true);
  await accessible('a calendar');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(calendar).toBeHidden();
  await expect(page.getByLabel('When you mean to plant it')).toHaveValue(/^\d{1,2} \w+ 20\d\d$/);
  await expect(page.getByLabel('When you mean to plant it')).toBeFocused();
});

test.describe('a block from the clipboard', () => {
  // RFC 4180, 2.5 to 2.7; as spreadsheets put cells on the clipboard: common practice.
  for (const [what, text, cells] of [
    [
      'tabs and CRLF',
      'a\tb\r\nc\td\r\n',
      [
        ['a', 'b'],
        ['c', 'd'],
      ],
    ],
    [
      'a line end within a cell',
      '"a\nb"\tc\r\nd\te',
      [
        ['a\nb', 'c'],
        ['d', 'e'],
      ],
    ],
    ['quotation marks doubled within', '"say ""so""\n"\tb', [['say "so"\n', 'b']]],
    [
      'a quotation mark that is only that',
      '"hello" she said\tb\nc\td',
      [
        ['"hello" she said', 'b'],
        ['c', 'd'],
      ],
    ],
    ['inches', '5" pot\tb', [['5" pot', 'b']]],
    ['empty cells', 'a\t\tc\n\t\t', [['a', '', 'c']]],
    ['one column of names', 'Ash, Una\nRush, Tom', [['Ash, Una'], ['Rush, Tom']]],
    [
      'values separated by commas',
      'a,b,c\n"d, e",f,g\n',
      [
        ['a', 'b', 'c'],
        ['d, e', 'f', 'g'],
      ],
    ],
    [
      'values separated by semicolons',
      'a;b;c\nd;e;1,5',
      [
        ['a', 'b', 'c'],
        ['d', 'e', '1,5'],
      ],
    ],
    ['one cell', 'just this', [['just this']]],
  ] as const)
    test(what, () => expect(cellsOf(text)).toEqual(cells));

  test('reads what another program reads of quoted blocks', () => {
    const parts = ['a', 'b c', '"', '""', 'x\ny', 'x\r\ny', ',', ';', 'é', '', ' pad ', '😀'];
    let seed = 7;
    const next = (below: number) => (seed = (seed * 48271) % 2147483647) % below;
    for (let round = 0; round < 2000; round++) {
      const width = 3 + next(3);
      const rows = Array.from({ length: 2 + next(4) }, () =>
        Array.from({ length: width }, () => Array.from({ length: 1 + next(3) }, () => parts[next(parts.length)]).join('')),
      );
      const text = rows.map((row) => row.map((cell) => `"${cell.replaceAll('"', '""')}"`).join('\t')).join('\r\n');
      expect(cellsOf(text)).toEqual(parse(text, { delimiter: '\t', relax_column_count: true }));
    }
  });
});
