import type { Locator, Page } from '@playwright/test';
import { howMany, payByCard } from './checkout';
import { expect, test } from './fixtures';

const SEATS = 3;
const TURNS = 45;

/** What is typed somewhere on the way, and how one gets there and finds it. */
interface Typed {
  page: 'line' | 'contact' | 'delivery' | 'product';
  name: string;
  control: (page: Page) => Locator;
}

const seat = (n: number): Typed => ({
  page: 'line',
  name: `seat ${n}`,
  control: (page) => page.getByRole('group', { name: `Seat ${n} of ${SEATS}` }).getByLabel('Who is coming'),
});
const labelled = (page: Typed['page'], label: string): Typed => ({
  page,
  name: label,
  control: (p) => p.getByLabel(label, { exact: true }),
});
const CONTROLS: Typed[] = [
  seat(3),
  seat(1),
  seat(2),
  labelled('contact', 'Your name'),
  labelled('contact', 'E-mail'),
  labelled('delivery', 'Street and number'),
  labelled('delivery', 'Town'),
  { page: 'product', name: 'Planting year', control: (page) => page.getByLabel(/^Planting year/) },
];

const PATHS = { line: '/cart', contact: '/checkout/contact', delivery: '/checkout/delivery', product: '/products/LA-ZINC-L' };

for (const seed of [1, 2]) {
  test(`a shopper who wanders about loses nothing that was typed and not replaced, ${seed}`, async ({ page }) => {
    // Numbers that look drawn, the same for a seed (the constants of Numerical Recipes’ linear congruential generator; from memory).
    let state = seed;
    const random = () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
    const among = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
    const said: string[] = [];
    /** What each control must hold where it is seen. */
    const held = new Map<string, string>();

    await page.goto('/products/WA-MAY');
    await howMany(page, SEATS);
    for (let n = 1; n <= SEATS; n++) await type(seat(n), `Guest ${n}`);
    await page.getByRole('button', { name: `Put ${SEATS} in the cart` }).click();
    await expect(page.getByRole('heading', { name: 'Cart' })).toBeVisible();
    await page.goto('/products/TR-QUINCE');
    await page.getByRole('button', { name: 'Put 1 in the cart' }).click();
    await expect(page.getByRole('heading', { name: 'Cart' })).toBeVisible();
    await type(labelled('contact', 'Your name'), 'Odile Farrant', true);
    await type(labelled('contact', 'E-mail'), 'odile@farrant.example');
    await page.getByRole('button', { name: 'Go on' }).click();
    await page.getByLabel('Country').selectOption('IE');
    await type(labelled('delivery', 'Town'), 'Aldmoor');
    await type(labelled('delivery', 'Street and number'), 'Quarry Lane 4');

    for (let turn = 0; turn < TURNS; turn++) {
      const what = among(CONTROLS);
      const does = Math.floor(random() * 7);
      if (does < 3) await type(what, `${what.name} ${turn}`.slice(0, 24), true);
      else if (does === 3) await look(what.page);
      else if (does === 4) {
        said.push('reload');
        await page.reload();
      } else if (does === 5) {
        said.push('back');
        await page.goBack();
      } else await send(what.page);
      await check();
    }
    for (const where of ['product', 'delivery', 'contact', 'line'] as const) await look(where);

    // What is ordered is what was typed last.
    await send('line');
    await send('contact');
    await send('delivery');
    await payByCard(page);
    for (const what of CONTROLS.filter((c) => c.page !== 'product'))
      await expect(page.locator('main'), said.join('\n')).toContainText(held.get(what.name) ?? '');

    /** Types over what is there, letter by letter; an address and a year are such. */
    async function type(what: Typed, text: string, go = false): Promise<void> {
      if (go) await look(what.page);
      const value = what.name === 'E-mail' ? 'odile@farrant.example' : what.name === 'Planting year' ? String(1900 + said.length) : text;
      said.push(`${what.name} = ${value}`);
      await what.control(page).fill('');
      await what.control(page).pressSequentially(value);
      held.set(what.name, value);
    }

    /** Goes to a page by its address or by its link, as somebody does, and sees that it holds what was typed there. */
    async function look(where: Typed['page']): Promise<void> {
      said.push('to ' + where);
      await page.goto(PATHS[where]);
      if (where === 'line') await begin();
      await check(where);
    }

    /** Sends what is typed on a page. */
    async function send(where: Typed['page']): Promise<void> {
      await look(where);
      said.push('send ' + where);
      if (where === 'line') {
        await page.getByRole('button', { name: 'Keep the change' }).click();
        for (let n = 1; n <= SEATS; n++)
          await expect(page.locator('[data-slot$="/guest_name"]').nth(n - 1), said.join('\n')).toHaveText(held.get(`seat ${n}`)!);
      } else if (where !== 'product') {
        await page.getByRole('button', { name: 'Go on' }).click();
        await expect(page)
          .not.toHaveURL(new RegExp(PATHS[where]), { timeout: 3000 })
          .catch(() => said.push('refused'));
      }
    }

    async function begin(): Promise<void> {
      const change = page.getByRole('button', { name: /^Change.*May/ });
      const seats = seat(1).control(page);
      await change.or(seats).first().waitFor();
      if (await change.isVisible()) await change.click();
      await seats.waitFor();
    }

    async function check(where?: Typed['page']): Promise<void> {
      for (const what of CONTROLS.filter((c) => (where ? c.page === where : page.url().endsWith(PATHS[c.page])))) {
        const control = what.control(page);
        if (where) await control.waitFor();
        // A line that is not being changed shows no controls, and a page that is left on the way back none of ours.
        if (await control.isVisible()) await expect(control, said.join('\n')).toHaveValue(held.get(what.name) ?? '');
      }
      if (page.url().endsWith(PATHS.delivery) && (await page.getByLabel('Country').isVisible()))
        await expect(page.getByLabel('Country'), said.join('\n')).toHaveValue('IE');
    }
  });
}
