import { expect, test } from './fixtures';

test('the map is worked from the keyboard', async ({ page, signIn }) => {
  await signIn();
  const map = page.getByRole('grid');
  await expect(map).toBeVisible();
  const mark = (field: string, place: string) => map.getByRole('switch', { name: `${field} goes to: ${place}` });

  await page.getByRole('button', { name: /^Would you take another/ }).focus();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('button', { name: /^Which one/ })).toBeFocused();
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowRight');
  await expect(mark('Which one?', 'To the shopper')).toBeFocused();
  await page.keyboard.press('Space');
  await expect(mark('Which one?', 'To the shopper')).toHaveAttribute('aria-checked', 'true');
  await expect(mark('Which one?', 'To the shopper')).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'The field substitute' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(mark('Which one?', 'To the shopper')).toHaveAttribute('aria-checked', 'false');
  await expect(page.getByText(/^Undone: substitute/)).toBeVisible();

  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeHidden();

  await page.keyboard.press('/');
  await page.keyboard.type('coming');
  await expect(map.getByRole('rowheader', { name: /Telephone/ })).toBeHidden();
  await page.keyboard.press('Escape');
  // Single characters act only while the map has the focus, and not at all once they are switched off.
  await page.getByRole('link', { name: 'products', exact: true }).focus();
  await page.keyboard.press('+');
  await page.keyboard.press('?');
  await expect(page.getByRole('form', { name: 'A new field' })).toBeHidden();
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeHidden();
  await page.getByRole('button', { name: /keys$/ }).click();
  await page.getByLabel('Let them act').uncheck();
  await page.keyboard.press('Escape');
  await page.reload();
  await page.getByRole('button', { name: /^Would you take another/ }).focus();
  await page.keyboard.press('+');
  await page.keyboard.press('/');
  await expect(page.getByRole('button', { name: /^Would you take another/ })).toBeFocused();
  await page.getByRole('button', { name: /keys$/ }).click();
  await page.getByLabel('Let them act').check();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Would you take another/ }).focus();
  await page.keyboard.press('+');
  await expect(page.getByRole('form', { name: 'A new field' }).getByLabel('Label')).toBeFocused();
});

test('wherever the arrows go, what has the focus stands clear of the names of rows and columns, and what is opened comes into sight', async ({
  page,
  signIn,
}) => {
  await signIn();
  await page.setViewportSize({ width: 1280, height: 560 });
  // WCAG 2.2, 2.4.11: what has the focus is not hidden.
  const isClear = () =>
    page.evaluate(() => {
      const [cell, head] = [document.activeElement!, document.activeElement!.closest('table')!.tHead!];
      const [box, name] = [cell.getBoundingClientRect(), cell.closest('tr')!.querySelector('th')!];
      const within = cell.closest('.scroll')!.getBoundingClientRect();
      return (
        box.top >= head.getBoundingClientRect().bottom - 1 &&
        box.bottom <= within.bottom + 1 &&
        (name.contains(cell) || box.right > name.getBoundingClientRect().right)
      );
    });
  for (const face of ['', '?by=products']) {
    await page.goto(`/console/fields/payment_method${face}`);
    const row = page.getByRole('row').filter({ has: page.getByRole('button', { name: /^How you pay/ }) });
    await expect(row).toBeInViewport();
    await row.getByRole('button', { name: /^How you pay/ }).focus();
    const seen = new Set<string>();
    for (const [key, times] of [
      ['ArrowRight', 12],
      ['ArrowUp', 20],
      ['ArrowLeft', 13],
      ['ArrowDown', 20],
    ] as const)
      for (let i = 0; i < times; i++) {
        await page.keyboard.press(key);
        seen.add(await page.evaluate(() => document.activeElement!.getAttribute('title') ?? document.activeElement!.textContent));
        expect(await isClear(), `${face} ${key} ${i}`).toBe(true);
      }
    expect(seen.size).toBeGreaterThan(20);
  }
});

test('a list that a letter opened is left without taking what it stands on', async ({ page, signIn }) => {
  await signIn();
  await page.goto('/console/fields/guest_name');
  const given = page.getByRole('combobox', { name: 'When an answer must be given' });
  const before = await given.textContent();
  await given.focus();
  await page.keyboard.press(before === 'never' ? 'a' : 'n');
  await expect(page.getByRole('option', { name: 'never' })).toBeVisible();
  await page.keyboard.press('Tab');
  await expect(page.getByRole('option')).toHaveCount(0);
  await page.reload();
  await expect(given).toHaveText(before!);
});

test.describe('pictures', () => {
  test.use({ expected: [/422.*pictures/] });

  test('a picture is chosen, shown where it is asked, given a word, and taken away', async ({ page, signIn, accessible }) => {
    await signIn();
    await page.goto('/console/fields/typeface');
    await page.getByRole('button', { name: /picture, staff/ }).click();
    const picture = page.getByRole('group', { name: 'Picture', exact: true });
    await picture.locator('input[type=file]').setInputFiles({ name: 'cow.svg', mimeType: 'image/svg+xml', buffer: Buffer.from('<svg/>') });
    await expect(picture.getByRole('alert')).toHaveText('That is no picture that can be shown. Choose a PNG, a JPEG or a WebP.');
    // By paste, as from a drawing program.
    await picture.getByRole('button').first().focus();
    await page.evaluate(async () => {
      const drawn = document.createElement('canvas');
      const blob = await new Promise<Blob>((done) => drawn.toBlob((b) => done(b!), 'image/png'));
      const data = new DataTransfer();
      data.items.add(new File([blob], 'pasted.png', { type: 'image/png' }));
      document.activeElement!.dispatchEvent(new ClipboardEvent('paste', { bubbles: true, cancelable: true, clipboardData: data }));
    });
    await picture.getByLabel('What the picture shows').fill('Three letters');
    await page.keyboard.press('Enter');
    const shown = page.getByRole('region', { name: 'What the shopper sees' }).getByRole('img', { name: 'Three letters' });
    await expect(shown).toBeVisible();
    expect(await shown.evaluate((img) => (img as HTMLImageElement).naturalWidth)).toBe(300);
    await accessible('a picture');
    await picture.getByRole('button', { name: 'take it away' }).click();
    await expect(shown).toBeHidden();
  });
});

test('what keeps a version back is mended at its clause', async ({ page, signIn }) => {
  await signIn();
  // What stands below the paragraph comes late, and takes room from it.
  await page.route('**/draft/preview*', async (route) => {
    await new Promise((done) => setTimeout(done, 1500));
    await route.continue();
  });
  await page.goto('/console/fields/guest_name');
  const longest = page.getByLabel('at most … characters');
  const before = await longest.inputValue();
  await longest.fill('120');
  await longest.press('Enter');
  await expect(page.getByText(/takes 60|only 60|60 characters/).first()).toBeVisible();
  await page.goto('/console/versions');
  const shown = page.waitForResponse(/draft\/preview/);
  await page.getByRole('link', { name: 'Mend it' }).first().click();
  const note = page.locator('.note').filter({ hasText: '60' });
  await expect(note).toBeInViewport();
  await expect(page.locator('dd').filter({ has: note }).locator(':focus')).toHaveCount(1);
  await expect(page).not.toHaveURL(/mend/);
  await shown;
  await expect(page.getByText('Shown to a cart')).toBeVisible();
  await expect(note).toBeInViewport();
  await longest.fill(before);
  await longest.press('Enter');
  await expect(note).toHaveCount(0);
});

test.describe('what is typed and refused', () => {
  test.use({ expected: [/422/] });

  test('is told beside the control, and stays', async ({ page, signIn, accessible }) => {
    await signIn();
    await page.goto('/console/fields/guest_name');
    const longest = page.getByLabel('at most … characters');
    await longest.fill('900');
    await longest.press('Enter');
    await expect(page.getByText('Give a whole number from 1 to 500.')).toBeVisible();
    await expect(longest).toHaveValue('900');
    await accessible('a refused setting');
    await longest.fill('24');
    await longest.press('Enter');
    await expect(page.getByText('Give a whole number from 1 to 500.')).toBeHidden();
  });
});

test('support sees orders and no fields', async ({ page, signIn }) => {
  await signIn('tamsin@marrowby.example');
  await expect(page.getByRole('link', { name: 'Orders' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Fields' })).toBeHidden();
  await expect(page).toHaveURL(/\/console\/orders/);
});

test('every place of the console holds at 768 px and at twice the size', async ({ page, signIn }) => {
  await signIn();
  const places = await page
    .getByRole('navigation', { name: 'Places' })
    .getByRole('link')
    .evaluateAll((all) => all.map((a) => a.getAttribute('href')!));
  expect(places).toContain('/console/versions');
  for (const place of [...places, '/console/fields?by=products', '/console/fields?by=destinations'])
    // The reference at 200 % is 640 px; the figures that may stand beside each place take the rest.
    for (const [width, height] of [
      [768, 800],
      [480, 400],
    ] as const) {
      await page.setViewportSize({ width, height });
      await page.goto(place);
      await expect(page.locator('h1')).toBeVisible();
      await page.waitForLoadState('networkidle');
      expect(await page.evaluate(() => document.documentElement.scrollWidth), `${place} at ${width}`).toBeLessThanOrEqual(width);
      // What is worked on has a window's height for itself, if need be by scrolling.
      const room = await page.evaluate(() => Math.max(0, ...[...document.querySelectorAll('.plate, .scroll')].map((e) => e.clientHeight)));
      expect(room, `${place} at ${width}`).toBeGreaterThan(150);
    }
});
