import type { Page } from '@playwright/test';
import { ApiManager } from './apiManager';
import { howMany } from './checkout';
import { stringify } from './csv';
import { expect, test } from './fixtures';
import { saidBeside } from './said';

// What the shop says stands in one table, in two languages: the pages have no text beside it, and German ones have room.
test.use({ shop: 'Wording', expected: [/Failed to load resource: the server responded with a status of (404|409|422)/] });

test('no page and no form has a text in itself', () => {
  // Names of languages, of cells of a table that others write, and of what is thrown between programs.
  expect(saidBeside(['shop', 'entry', 'shared'])).toEqual({ 'shared/upload.ts': ['Not just now.'] });
});

test('a cart keeps its answers when the shop is switched, and what is typed stays', async ({ page, world }) => {
  const api = new ApiManager(page.request, world.address);
  await api.signIn();
  await api.shop({ languages: ['en', 'de'] });
  await page.goto('/products/WA-OCTOBER');
  await howMany(page, 2);
  await page.locator('input[id$="guest_name"]').first().fill('Zoë');
  await page.getByRole('button', { name: 'Deutsch' }).click();
  await expect(page.getByRole('heading', { name: 'Obstgartenrunde, Oktoberernte' })).toBeVisible();
  await expect(page.locator('input[id$="guest_name"]').first()).toHaveValue('Zoë');
  await page.getByRole('button', { name: 'English' }).click();
  await expect(page.getByRole('heading', { name: 'Orchard walk, October picking' })).toBeVisible();
  await expect(page.locator('input[id$="guest_name"]').first()).toHaveValue('Zoë');

  // A page that was loaded before another language was chosen in another window speaks its own to the end.
  const other = await page.context().newPage();
  await other.goto('/');
  await other.getByRole('button', { name: 'Deutsch' }).click();
  await expect(other.locator('html')).toHaveAttribute('lang', 'de');
  for (const seat of [0, 1]) await page.locator('input[id$="guest_name"]').nth(seat).fill('Zoë');
  await page.getByRole('button', { name: 'Put 2 in the cart' }).click();
  await expect(page.getByRole('heading', { name: '2 × Orchard walk, October picking' })).toBeVisible();
  await expect(page.getByText('Seat 2 of 2')).toBeVisible();
  await other.close();
});

/** What stands on a page for people: its texts, and what is read out or shown in their stead. */
const read = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const found: string[] = [];
    const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    while (texts.nextNode()) if (!texts.currentNode.parentElement!.closest('script, style')) found.push(texts.currentNode.textContent!);
    for (const name of ['aria-label', 'title', 'alt', 'placeholder'])
      found.push(...[...document.querySelectorAll(`[${name}]`)].map((e) => e.getAttribute(name)!));
    return found.filter((text) => text.trim());
  });

/** What sticks out of the page at its right. */
const wider = (page: Page): Promise<string[]> =>
  page.evaluate(() =>
    document.documentElement.scrollWidth <= innerWidth
      ? []
      : [...document.querySelectorAll('main *, header *')]
          .filter((e) => e.getBoundingClientRect().right > innerWidth + 1)
          .map((e) => `${e.tagName}.${e.className}: ${e.textContent?.trim().slice(0, 40)}`),
  );

/** A text with what stands in the table taken out: it is marked at both ends, also where one is filled into another. */
function beside(text: string): string {
  const without = text.replace(/⟦[^⟦⟧]*⟧/g, '');
  return without === text ? text : beside(without);
}

test('every text of every page is in the table, and German ones a third longer have room', async ({ page, world, accessible }) => {
  const api = new ApiManager(page.request, world.address);
  await api.signIn();
  await api.field('terms', 'The ground is uneven', 'agreed_to', 'unit', ['WA-MAY'], {
    'settings.terms': { en: 'I look where I tread.' },
    required: true,
  });
  await api.field('day', 'On which day', 'date', 'line', ['LA-ZINC-L'], { required: true });
  await api.field('words', 'Words', 'long_text', 'line', ['LA-ZINC-L'], {
    'settings.lines': 2,
    'settings.line_longest': 10,
    'settings.height': 2,
  });
  await api.field('sorts', 'Sorts', 'several_of', 'line', ['LA-ZINC-L'], {
    'settings.choices': ['one', 'two', 'three'].map((key) => ({ key, label: { en: `Sort ${key}` } })),
    'settings.most': 2,
  });
  await api.field('site', 'Site', 'picture', 'line', ['LA-ZINC-L'], {});
  await api.field('when', 'When', 'time_slot', 'order', [], {
    step: 'delivery',
    'settings.choices': [{ key: 'early', label: { en: 'Early' } }],
  });
  await api.shop({ languages: ['en', 'de'] });

  // Marked at both ends, and in German longer by a third.
  const longer = (text: string) => text + 'n'.repeat(Math.ceil([...text].length / 3));
  const rows = (await api.texts()).map(({ key, said, usual }) => {
    const english = said.en ?? usual.en ?? '';
    const german = said.de ?? usual.de ?? english;
    return [key, english && `⟦${english}⟧`, german && `⟦${german.includes('{') ? german : longer(german)}⟧`];
  });
  await api.bringTexts(stringify([['key', 'en', 'de'], ...rows]));
  await api.publish('Marked');

  const { products } = (await (await page.request.get('/api/shop/v1/catalogue', { headers: { 'accept-language': 'en' } })).json()) as {
    products: { name: string; description: string; categories: { key: string }[]; picture_words: string; variants: { name: string }[] }[];
  };
  const german = (await (await page.request.get('/api/shop/v1/catalogue', { headers: { 'accept-language': 'de' } })).json()) as {
    products: typeof products;
  };
  const data = [...products, ...german.products].flatMap((p) => [
    p.name,
    p.description,
    ...p.categories.map((c) => c.key),
    p.picture_words,
    ...p.variants.map((v) => v.name),
  ]);
  const other = [
    'Marrowby Gardens',
    'English',
    'Deutsch',
    'Seat',
    'Platz',
    'Label',
    'Schild',
    'Odile Farrant',
    'odile@farrant.example',
    'Quarry Lane 4',
    'Aldmoor',
    'Irland',
    'Ireland',
    'Ada',
  ];
  const known = [...new Set([...data, ...other])].filter(Boolean).toSorted((a, b) => b.length - a.length);
  const months =
    /\b(January|February|March|April|May|June|July|August|September|October|November|December|Januar|Februar|März|Mai|Juni|Juli|Oktober|Dezember|at|um|Uhr)\b/g;

  async function look(view: string): Promise<void> {
    await page.waitForLoadState('networkidle');
    for (const width of [1280, 360]) {
      await page.setViewportSize({ width, height: 800 });
      expect(await wider(page), `${view} at ${width}`).toEqual([]);
    }
    await page.setViewportSize({ width: 1280, height: 800 });
    const left = (await read(page))
      .map((text) => known.reduce((rest, one) => rest.replaceAll(one, ''), beside(text)).replace(months, ''))
      .filter((text) => /\p{L}{2,}/u.test(text) && !/^\s*(EUR|MB)\s*$/.test(text));
    expect([...new Set(left)], view).toEqual([]);
  }

  const button = (key: string) => page.getByRole('button', { name: said(key) });
  let language: 'en' | 'de' = 'en';
  const table = new Map(rows.map(([key, en, de]) => [key!, { en: en!, de: de! }]));
  const said = (key: string) =>
    new RegExp(
      table
        .get(key)!
        [language].replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
        .replace(/\\\{\d\\\}/g, '.*'),
    );

  for (language of ['en', 'de'] as const) {
    await test.step(`in ${language}`, async () => {
      await page.goto('/');
      if (language === 'de') {
        await page.getByRole('button', { name: 'Deutsch' }).click();
        await expect(page.locator('html')).toHaveAttribute('lang', 'de');
      }
      await look('catalogue');
      for (const [path, view] of [
        ['/nowhere', 'no such page'],
        ['/products/NONE', 'not sold'],
        ['/cart', 'empty cart'],
        ['/account', 'account'],
        ['/account/abcdef', 'sign in'],
        ['/orders/abc.def', 'no order'],
        ['/papers/abc.def', 'no paper'],
        ['/at-once', 'nothing chosen'],
      ] as const) {
        await page.goto(path);
        await look(view);
      }

      await page.goto('/products/LA-ZINC-L');
      await button('shop.put_in_cart').click();
      await look('a label with what is missing');
      await page.getByRole('textbox', { name: said('field.words.label') }).fill('123456789012345\n2\n3');
      await page.getByRole('button', { name: said('form.calendar_for') }).click();
      await expect(page.locator('calendar-date')).toBeVisible();
      await look('a label with its calendar');

      // Seats in a table, and which of them go.
      await page.goto('/products/WA-MAY');
      await howManyIn(said('shop.how_many'), 6);
      const seats = page.getByRole('textbox', { name: said('field.guest_name.label') });
      await expect(seats).toHaveCount(6);
      await seats.first().fill('Ada');
      await button('form.copy_to_rest').click();
      await look('seats in a table');
      await howManyIn(said('shop.how_many'), 4);
      await look('which of them go');
      await page.getByRole('button', { name: said('form.keep_all') }).click();
      await howManyIn(said('shop.how_many'), 999);
      await look('more than can be asked');
      await page.evaluate(() => sessionStorage.clear());
      await page.reload();
      await page.getByRole('textbox', { name: said('field.guest_name.label') }).fill('Ada');
      await page.getByRole('checkbox').check();
      await button('shop.put_in_cart').click();
      await expect(page).toHaveURL(/\/cart$/);
      await look('cart');
      await page.getByLabel(said('shop.coupon')).fill('NONE');
      await button('shop.coupon_use').click();
      await expect(page.getByText(said('problem.coupon_unknown'))).toBeVisible();
      await button('shop.change').first().click();
      await look('a line changed, and a coupon that there is not');
      await button('shop.leave_as_was').click();
      await button('shop.go_on').click();
      await look('contact');
      await button('shop.go_on').click();
      // What is typed before that is told would still go with it.
      await expect(page.getByText(said('refusal.required')).first()).toBeVisible();
      await look('contact with what is missing');
      await page.getByLabel(said('field.name.label')).fill('Odile Farrant');
      await page.getByLabel(said('field.email.label')).fill('odile@farrant.example');
      await button('shop.go_on').click();
      await expect(page).toHaveURL(/delivery$/);
      await look('delivery');
      await button('shop.go_on').click();
      await expect(page).toHaveURL(/payment$/);
      await look('payment');
      await page.getByRole('button', { name: '9000 0000 0000 0027' }).click();
      await button('shop.order_and_pay').click();
      await expect(page.getByText(said('shop.payment_declined'))).toBeVisible();
      await look('a card that is declined');
      await page.getByRole('button', { name: '9000 0000 0000 0019' }).click();
      await button('shop.order_and_pay').click();
      await expect(page.getByRole('heading', { name: said('shop.have_your_order') })).toBeVisible();
      await look('confirmation');
      await accessible(`confirmation in ${language}`);
    });
  }

  async function howManyIn(label: RegExp, count: number): Promise<void> {
    await page.getByLabel(label).fill(String(count));
    await page.keyboard.press('Enter');
  }
});
