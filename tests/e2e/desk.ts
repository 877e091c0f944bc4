import { expect, type Locator, type Page } from '@playwright/test';

/** The manager's desk: what one does there by hand, by the names that stand there. */
export class Desk {
  constructor(readonly page: Page) {}

  /** The paragraph of a field, section or step. */
  paragraph(key: string): Locator {
    return this.page.getByRole('region', { name: new RegExp(`^The (field|section|step) ${key}$`) });
  }

  get preview(): Locator {
    return this.page.getByRole('region', { name: 'What the shopper sees' });
  }

  /** Chooses in a list that opens in a sentence. */
  choose(within: Locator, label: string, option: string | RegExp, nth = 0): Promise<void> {
    return this.chooseIn(within.getByLabel(label, { exact: true }).nth(nth), option);
  }

  /** Presses what brings something, until that is there: what moves while it is pressed does not notice. */
  async bring(control: Locator, wanted: Locator): Promise<void> {
    await expect(async () => {
      if (!(await wanted.isVisible())) await control.click({ timeout: 8_000 });
      await expect(wanted).toBeVisible({ timeout: 10_000 });
    }).toPass({ timeout: 120_000 });
  }

  /** Chooses in a list that opens in place. */
  async chooseIn(list: Locator, option: string | RegExp): Promise<void> {
    const wanted = this.page.getByRole('option', typeof option === 'string' ? { name: option, exact: true } : { name: option }).first();
    // A list closes when what it hangs on moves, as when a change before it comes back from the server: whoever wants it opens it again.
    await expect(async () => {
      if (!(await wanted.isVisible())) await list.click({ timeout: 8_000 });
      await wanted.click({ timeout: 8_000 });
    }).toPass({ timeout: 120_000 });
    // The list fades away; the next must not be mistaken for it.
    await expect(this.page.locator('.p-select-option')).toHaveCount(0);
  }

  /** Puts a product into a stand-in cart: the first, or the second where there are two. */
  standIn(product: string, cart = 0): Promise<void> {
    return this.choose(this.preview, 'Product in the stand-in cart', product, cart);
  }

  /** Picks several in a list that opens in a sentence, and with "only" lets go of whatever else was picked. */
  async pick(within: Locator, label: string, options: string[], only = false): Promise<void> {
    // What carries the label is hidden inside what is seen and clicked.
    await within
      .locator('.p-multiselect')
      .filter({ has: this.page.getByLabel(label, { exact: true }) })
      .first()
      .click();
    await expect(this.page.getByRole('option', { name: options[0]!, exact: true })).toBeVisible();
    const before = await this.page.getByRole('option', { selected: true }).allInnerTexts();
    const pressed = [...options.filter((o) => !before.includes(o)), ...(only ? before.filter((o) => !options.includes(o)) : [])];
    for (const option of pressed) await this.page.getByRole('option', { name: option, exact: true }).click();
    await this.page.keyboard.press('Escape');
    await expect(this.page.locator('.p-multiselect-overlay')).toHaveCount(0);
  }

  /** Adds a field, section or step, and gives its key. */
  async add(what: { label: string; kind?: string; type?: string; level?: string; of?: string[]; section?: string }): Promise<string> {
    await this.page.getByRole('button', { name: 'Add a field', exact: true }).click();
    const form = this.page.getByRole('form');
    if (what.kind) await this.choose(form, 'What is added', what.kind);
    await form.getByLabel('Label').fill(what.label);
    if (what.type) await this.choose(form, 'Kind of answer', what.type);
    if (what.section) await this.choose(form, 'In which section', `“${what.section}”`);
    // A new field begins as the one before it; whatever of it counts here is said.
    const level = what.level ?? (what.of && 'every line');
    if (level) await this.choose(form, 'How often it is asked', level);
    if (what.of) await this.pick(form, 'Products', what.of, true);
    await expect(form.getByLabel('Key')).not.toHaveValue('');
    await form.getByRole('button', { name: 'Add it to the draft' }).click();
    await expect(this.page.getByText(`“${what.label}” was added.`)).toBeVisible();
    return /\/fields\/(\w+)/.exec(this.page.url())![1]!;
  }

  /** Adds choices from a pasted list. */
  async paste(key: string, choices: string[]): Promise<void> {
    const field = this.paragraph(key);
    await field.getByRole('button', { name: 'paste a list' }).click();
    await field.getByLabel('Choices, one a line').fill(choices.join('\n'));
    await field.getByRole('button', { name: `add ${choices.length}` }).click();
    await expect(field.getByLabel('Choice 1')).toHaveValue(choices[0]!);
  }

  /** Publishes the draft. */
  async publish(note: string): Promise<void> {
    await this.page.getByRole('link', { name: 'Versions' }).click();
    await this.page.getByLabel('What is this version for?').fill(note);
    await this.page.getByRole('button', { name: /^Publish version \d+$/ }).click();
    await expect(this.page.getByText(/Version \d+ is in force\./)).toBeVisible();
  }
}
