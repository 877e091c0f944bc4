import AxeBuilder from '@axe-core/playwright';
import { expect, test as base, type Page } from '@playwright/test';
import { wordsRunTogether } from './words';
import { manager, password } from './database';
import { World } from './world';

interface Fixtures {
  /** The page, whose console must stay without errors. */
  page: Page;
  /** Signs in to the console. */
  signIn: (email?: string) => Promise<void>;
  /** Lets axe look at the page as it is, and sees that no two words run together. */
  accessible: (view: string) => Promise<void>;
  /** Messages of the browser's console that a test expects, such as a refused request. */
  expected: RegExp[];
}

/** Files of one shop share a world; what a file publishes then concerns the others of its shop. */
export const test = base.extend<Fixtures, { shop: string; settings: Record<string, string>; world: World }>({
  shop: ['Marrowby', { option: true, scope: 'worker' }],
  settings: [{}, { option: true, scope: 'worker' }],
  world: [
    // The shop is only named: workers differ by it, and each has a world of its own.
    async ({ shop: _, settings }, use) => {
      const world = await World.create(settings);
      await use(world);
      await world.stop();
    },
    { scope: 'worker', timeout: 300_000 },
  ],
  baseURL: async ({ world }, use) => use(world.address),
  expected: [[], { option: true }],
  page: async ({ page, expected }, use) => {
    const said: string[] = [];
    page.on('console', (message) => {
      if (['error', 'warning'].includes(message.type())) said.push(`${message.text()} ${message.location().url}`);
    });
    page.on('pageerror', (error) => said.push(String(error)));
    await use(page);
    expect(said.filter((text) => !expected.some((pattern) => pattern.test(text)))).toEqual([]);
  },
  signIn: async ({ page }, use) => {
    await use(async (email = manager.email) => {
      await page.goto('/console');
      await page.getByLabel('E-mail').fill(email);
      await page.getByLabel('Password').fill(password);
      await page.getByRole('button', { name: 'Sign in' }).click();
      await expect(page.getByRole('navigation', { name: 'Places' })).toBeVisible();
    });
  },
  accessible: async ({ page }, use) => {
    await use(async (view) => {
      for (const colorScheme of ['light', 'dark'] as const) {
        await page.emulateMedia({ colorScheme });
        const axe = new AxeBuilder({ page });
        // In the dark the same page stands there in other colours.
        const { violations } = await (
          colorScheme === 'light'
            ? axe.withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'])
            : axe.withRules(['color-contrast', 'link-in-text-block'])
        ).analyze();
        expect(violations.map((v) => `${view}, ${colorScheme}: ${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(', ')}`)).toEqual([]);
      }
      await page.emulateMedia({ colorScheme: 'light' });
      expect(await wordsRunTogether(page), view).toEqual([]);
    });
  },
});

export { expect };
