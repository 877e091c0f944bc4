import { ApiManager } from './apiManager';
import { payByCard, toAldmoor } from './checkout';
import { Desk } from './desk';
import { expect, test } from './fixtures';

// What an answer may be beside others, line by line, and as a single box: defined by hand, and answered in the shop.
test.use({ shop: 'Rules', expected: [/422 .*(label_lines|as_gift)/] });

test('an answer is held against another, a text is limited by the line, and a box without a tick is a no', async ({
  page,
  world,
  signIn,
  accessible,
}) => {
  await signIn();
  const desk = new Desk(page);
  const api = new ApiManager(page.request, world.address);

  await test.step('the second e-mail is not the first', async () => {
    await api.field('email_again', 'Your e-mail once more', 'email', 'order', [], { step: 'cart', required: true });
    await page.goto('/console/fields/email_again');
    const field = desk.paragraph('email_again');
    await field.getByRole('button', { name: 'when it is refused' }).click();
    await field.getByRole('button', { name: 'add a test' }).click();
    await desk.choose(field, 'What is tested', 'Your e-mail once more');
    await desk.choose(field, 'How it is compared', 'is not');
    await field.getByRole('button', { name: 'or another answer' }).click();
    await desk.choose(field, 'Which answer it is compared with', 'E-mail');
    // At the cart nobody has said the first one yet.
    await expect(desk.preview.getByText('not asked: what is wrong with it comes first')).toBeVisible();
    await desk.choose(field, 'At which step', 'contact');
    await expect(field.getByText('“Your e-mail once more” is not “E-mail”')).toBeVisible();
    await field.getByRole('textbox', { name: 'What the shopper reads when it is refused' }).fill('That is not the address above.');
    await page.keyboard.press('Tab');
    await expect(page.getByText('Saved.')).toBeVisible();
    // Both sides of the rule are told for the cart of the preview.
    await desk.preview.getByLabel('E-mail', { exact: true }).fill('odile@farrant.example');
    await desk.preview.getByLabel('Your e-mail once more').fill('odile@farant.example');
    await expect(field.getByText('it is “odile@farant.example”, and “E-mail” is “odile@farrant.example”')).toBeVisible();
    await accessible('a rule between answers');
  });

  await test.step('three lines of twenty characters', async () => {
    await api.field('label_lines', 'Words on the label', 'long_text', 'line', ['LA-ZINC-L']);
    await page.goto('/console/fields/label_lines');
    const field = desk.paragraph('label_lines');
    await expect(field.getByLabel('at most … characters', { exact: true })).toHaveValue('240');
    for (const [offer, limit, value] of [
      ['a limit of lines', 'at most … lines', '30'],
      ['a limit for each line', 'at most … characters a line', '200'],
    ] as const) {
      await field.getByRole('button', { name: offer }).click();
      await field.getByLabel(limit, { exact: true }).fill(value);
      await page.keyboard.press('Tab');
    }
    // What cannot be is told, and stays as it was typed.
    await expect(page.getByText('That comes to 6000 characters, and there is room for 5000.').first()).toBeVisible();
    await field.getByLabel('at most … lines', { exact: true }).fill('3');
    await page.keyboard.press('Tab');
    await field.getByLabel('at most … characters a line', { exact: true }).fill('20');
    await page.keyboard.press('Tab');
    await expect(page.getByText('long text, 3 × 20')).toBeVisible();
    await expect(field.getByLabel('at most … characters', { exact: true })).toBeHidden();
  });

  await test.step('another field like it begins with all that is set', async () => {
    // A kind is found by what it is good for.
    await page.getByRole('button', { name: 'Add a field', exact: true }).click();
    const form = page.getByRole('form');
    await form.getByRole('combobox', { name: 'Kind of answer' }).click();
    await page.keyboard.type('dialled');
    await page.getByRole('option').click();
    await expect(form.getByRole('combobox', { name: 'Kind of answer' })).toHaveText('a telephone number');
    // What is called so comes before what is said to be so.
    await form.getByRole('combobox', { name: 'Kind of answer' }).click();
    await page.keyboard.type('one of');
    await expect(page.getByRole('option')).toHaveText([/^one of /, /^a time slot /, /^yes or no /]);
    await page.keyboard.press('Escape');
    await form.getByRole('button', { name: 'Leave it' }).click();
    await desk.paragraph('label_lines').getByRole('button', { name: 'another like this' }).click();
    await form.getByLabel('Label').fill('Words on the back');
    await expect(form.getByLabel('Key')).toHaveValue('words_on_the_back');
    await form.getByRole('button', { name: 'Add it to the draft' }).click();
    const copy = desk.paragraph('words_on_the_back');
    await expect(copy.getByLabel('at most … characters a line', { exact: true })).toHaveValue('20');
    await accessible('another like one');
    await copy.getByRole('button', { name: 'take it out' }).click();
    await expect(copy).toBeHidden();
  });

  await test.step('a single box, and what is asked only where it has no tick', async () => {
    await api.field('as_gift', 'It is a gift: leave the prices out', 'yes_no', 'order', []);
    await page.goto('/console/fields/as_gift');
    await desk.paragraph('as_gift').getByRole('button', { name: 'that it is a single box to tick' }).click();
    await expect(desk.preview.getByRole('checkbox', { name: 'It is a gift: leave the prices out' })).toBeVisible();
    await desk.paragraph('as_gift').getByRole('button', { name: 'that only yes will do' }).click();
    await expect(page.getByText('A box that must be ticked is agreed to.').first()).toBeVisible();
    await api.field('origin', 'Where the link was', 'line_text', 'line', ['LA-ZINC-S'], {
      'settings.pattern': '[A-Z]{2}-[0-9]+',
      'goes_to.cart_line': false,
    });
    await page.goto('/console/fields/origin');
    const origin = desk.paragraph('origin');
    await origin.getByRole('button', { name: 'that the page’s script gives it' }).click();
    await origin.getByRole('button', { name: 'shown on the form' }).click();
    await expect(origin.getByRole('button', { name: 'kept off the form' })).toBeVisible();
    await api.field('copies', 'Copies of the invoice', 'number', 'order', [], {
      required: true,
      when: { of: 'answer.as_gift', is: false },
    });
    await page.reload();
    await desk.publish('Rules');
  });

  await test.step('what the page gives is kept off the form, checked, and told where it is wrong', async () => {
    await page.goto('/products/LA-ZINC-S');
    const give = (value: string) =>
      page.evaluate((v) => window.dispatchEvent(new CustomEvent('sexton-answer', { detail: { field: 'origin', value: v } })), value);
    await give('nowhere');
    await page.getByRole('button', { name: 'Put 1 in the cart' }).click();
    await expect(page.getByText('“Where the link was” is not in the form that is wanted.')).toBeFocused();
    await expect(page.getByText('Where the link was', { exact: true })).toBeHidden();
    await accessible('what the page gave is wrong');
    await give('NL-26');
    // What is told above the button is gone, or it would move away under the pointer.
    await expect(page.getByText('“Where the link was” is not in the form that is wanted.')).toBeHidden();
    await page.getByRole('button', { name: 'Put 1 in the cart' }).click();
    await expect(page.getByRole('heading', { name: 'Cart' })).toBeVisible();
    await expect(page.getByText('NL-26')).toBeHidden();
  });

  await test.step('what is over is marked where it is, and told by the line', async () => {
    await page.goto('/products/LA-ZINC-L');
    const words = page.getByLabel('Words on the label');
    await words.fill('The crooked medlar\nplanted for Grandmother\n2026');
    await expect(page.locator('.entry-over mark')).toHaveText('her');
    await page.getByRole('button', { name: 'Put 1 in the cart' }).click();
    await expect(page.getByText('Line 2 of “Words on the label” has room for 20 characters, and this has 23.')).toBeVisible();
    await accessible('a line that is too long');
    await words.fill('The crooked medlar\nplanted for Grandma\n2026');
    await expect(page.locator('.entry-over')).toHaveCount(0);
    await words.press('Control+Home');
    await expect(page.getByText('line 1 of 3: 18 of 20')).toBeVisible();
    await page.getByRole('button', { name: 'Put 1 in the cart' }).click();
    await expect(page.getByRole('heading', { name: 'Cart' })).toBeVisible();
  });

  await test.step('the sum stays in sight on a telephone, and covers nothing that has the focus', async () => {
    await page.setViewportSize({ width: 390, height: 700 });
    await page.goto('/products/LA-ZINC-L');
    const sum = page.locator('.sum');
    await expect(sum).toBeVisible();
    await page.keyboard.press('Tab');
    const skip = page.getByRole('link', { name: 'Skip to the content' });
    await expect(skip).toBeFocused();
    expect((await skip.boundingBox())!.width).toBeGreaterThan(50);
    await page.getByLabel('How many', { exact: true }).focus();
    for (let i = 0; i < 8; i++) {
      await page.keyboard.press('Tab');
      // What covers the middle of what has the focus, if anything does.
      const covering = await page.evaluate(() => {
        const { left, right, top, bottom } = document.activeElement!.getBoundingClientRect();
        const there = document.elementFromPoint((left + right) / 2, (top + bottom) / 2);
        return !document.activeElement!.closest('form') || document.activeElement!.contains(there)
          ? ''
          : `${document.activeElement!.outerHTML} under ${there?.outerHTML}`;
      });
      expect(covering).toBe('');
      await expect(sum).toBeInViewport();
    }
    await accessible('a product on a telephone');
    await page.setViewportSize({ width: 1280, height: 800 });
    // Which sum it is, is set.
    for (const [shown, total] of [
      ['nothing', 0],
      ['total', 1],
      ['rows', 1],
    ] as const) {
      await api.shop({ product_sum: shown });
      await expect(async () => {
        await page.reload();
        await page.getByRole('button', { name: 'Put 1 in the cart' }).waitFor();
        await expect(page.getByText('Total', { exact: true })).toHaveCount(total, { timeout: 2_000 });
      }).toPass({ timeout: 60_000 });
      await expect(page.getByText('1 × Zinc label, stamped, large')).toHaveCount(shown === 'rows' ? 1 : 0);
    }
    await page.goto('/cart');
  });

  await test.step('a box that is sent without a tick is a no, and brings what hangs on it', async () => {
    const box = page.getByRole('checkbox', { name: 'It is a gift: leave the prices out' });
    await expect(box).not.toBeChecked();
    await expect(page.getByLabel('Copies of the invoice')).toBeHidden();
    await page.getByRole('button', { name: 'Go on' }).click();
    await expect(page.getByLabel('Copies of the invoice')).toBeFocused();
    await expect(page.getByText('Please fill in “Copies of the invoice”.')).toBeVisible();
    await box.check();
    await expect(page.getByLabel('Copies of the invoice')).toBeHidden();
    await box.uncheck();
    await page.getByLabel('Copies of the invoice').fill('2');
    await page.getByRole('button', { name: 'Go on' }).click();
    await expect(page.getByLabel('Your name')).toBeVisible();
  });

  await test.step('a refused answer stays as it was typed, and is mended on either side', async () => {
    await page.getByLabel('Your name').fill('Odile Farrant');
    const again = page.getByLabel('Your e-mail once more');
    // The later one first: nothing is there yet that it could be held against.
    await again.fill('odile@farrant.example');
    await page.getByLabel('E-mail', { exact: true }).fill('odile@farant.example');
    await page.getByRole('button', { name: 'Go on' }).click();
    await expect(page.getByText('That is not the address above.')).toBeVisible();
    await expect(again).toBeFocused();
    await expect(again).toHaveValue('odile@farrant.example');
    await page.getByLabel('E-mail', { exact: true }).fill('odile@farrant.example');
    await page.getByRole('button', { name: 'Go on' }).click();
    await toAldmoor(page);
    await page.getByRole('button', { name: 'Go on' }).click();
    const number = await payByCard(page);
    await page.goto(`/console/orders/${number}`);
    const answer = (name: string) => page.getByRole('row', { name: new RegExp(`^${name}`) }).locator('[data-slot]');
    await expect(answer('It is a gift')).toHaveText('No');
    await expect(answer('Copies of the invoice')).toHaveText('2');
    await expect(answer('Where the link was')).toHaveText('NL-26');
    await expect(answer('Words on the label')).toHaveText('The crooked medlar\nplanted for Grandma\n2026');
  });
});
