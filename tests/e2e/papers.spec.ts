import jsQR from 'jsqr';
import sharp from 'sharp';
import { ApiManager } from './apiManager';
import { buy } from './apiShopper';
import { Desk } from './desk';
import { expect, test } from './fixtures';

// A world of its own: what is printed here concerns nobody else.
test.use({ shop: 'Papers', expected: [/Canvas2D: Multiple readback/] });

test('a slip without prices for a gift, a job card and tickets are seen beside their paragraphs, printed, opened and proven', async ({
  page,
  world,
  signIn,
  accessible,
}) => {
  await signIn();
  const desk = new Desk(page);
  const api = new ApiManager(page.request, world.address);
  const destination = (key: string) => page.getByRole('region', { name: `The destination ${key}` });
  const shown = page.getByRole('region', { name: 'What it gets' });
  const sheets = shown.getByRole('group', { name: 'The sheets, with the answer marked' });

  await test.step('a packing slip is made by hand', async () => {
    await api.field('words', 'Words on the label', 'line_text', 'line', ['LA-ZINC-L'], { 'settings.longest': 40 });
    await api.field('card_says', 'What the card says', 'long_text', 'order', [], { 'settings.longest': 200 });
    await api.field('gift', 'A gift?', 'yes_no', 'order', []);
    await page.goto('/console/fields?by=destinations');
    await page.getByRole('button', { name: 'papers: packing slip', exact: true }).click();
    await page.getByLabel('Name', { exact: true }).fill('Packing slip');
    await page.getByRole('button', { name: 'Add it to the draft' }).click();
    const slip = destination('packing_slip');
    await desk.choose(slip, 'When Packing slip gets it', 'when its lines are prepared');
    await slip.getByRole('button', { name: 'prices', exact: true }).click();
    await slip.getByRole('button', { name: 'a card to be cut off' }).click();
    await desk.choose(slip, 'has the answer to … at its foot, to be cut off', '“What the card says”');
    await desk.choose(slip, 'What Packing slip leaves out', 'prices, when');
    await slip.getByRole('button', { name: 'add a test' }).click();
    await desk.choose(slip, 'What is tested', 'A gift?');
    await desk.choose(slip, 'What it is compared with', 'yes');
    await expect(slip.getByText('“A gift?” is yes')).toBeVisible();
    for (const field of ['Words on the label', 'What the card says'])
      await desk.chooseIn(slip.getByRole('combobox', { name: 'Add a field to Packing slip' }), field);
    await expect(slip.getByText('It takes only what its fonts have letters for.')).toBeVisible();
    await desk.choose(shown, 'Product of the stand-in order', 'Zinc label, stamped, large');
    await expect(sheets.getByRole('img', { name: 'Sheet 1 of 1' })).toBeVisible();
    await shown.getByRole('button', { name: 'What the card says', exact: true }).click();
    await expect(sheets.locator('.spot').first()).toBeVisible();
    // Each of the others has its outline on the sheet, and is marked when it is picked there.
    await shown.getByTitle('Words on the label').click();
    await expect(shown.getByRole('button', { name: 'Words on the label', exact: true })).toHaveAttribute('aria-pressed', 'true');
    await expect(shown.getByTitle('What the card says').first()).toBeVisible();
    await shown.getByRole('button', { name: 'plain', exact: true }).click();
    await expect(shown.locator('pre')).toContainText('Words on the label: ');
    await shown.getByRole('button', { name: 'as seen' }).click();
    await desk.choose(shown, 'Of which order it is shown', 'a stand-in order with the longest answers');
    await expect(sheets.getByRole('img').first()).toBeVisible();
    await accessible('a paper beside its paragraph');
  });

  await test.step('a job card and tickets beside it', async () => {
    await api.destination('job', 'job_card', 'Job card', { gets: { of: 'tag', has_in_it: 'stamped' }, 'settings.large': 'words' }, [
      'words',
    ]);
    await api.destination('seats', 'ticket', 'Ticket', { gets: { of: 'category', is: 'Orchard walks' } }, ['guest_name']);
    await page.reload();
    await desk.publish('Papers');
  });

  const number = await buy(
    world,
    [
      { product: 'LA-ZINC-L', quantity: 1, answers: { words: 'Für Großmutter Zoë' } },
      {
        product: 'WA-MAY',
        quantity: 2,
        answers: {},
        units: [
          { id: 'u1', answers: { guest_name: 'שרה' } },
          { id: 'u2', answers: { guest_name: 'Bo' } },
        ],
      },
    ],
    { card_says: 'Damit du weißt,\nwelcher Baum deiner ist.', gift: true },
  );
  const papers = page.getByRole('region', { name: 'Papers' });

  await test.step('printed when they are due, and opened from the order', async () => {
    await page.goto(`/console/orders/${number}`);
    await expect(papers.getByRole('link', { name: 'Open Ticket, Orchard walk, May morning, Seat 1 of 2' })).toBeVisible();
    await expect(papers.getByRole('link', { name: 'Open Job card, Zinc label, stamped, large' })).toBeVisible();
    await expect(papers).toContainText('Packing slip waits until its lines are prepared');
    await page.getByRole('button', { name: /Zinc label, stamped, large is prepared/ }).click();
    const slip = papers.getByRole('link', { name: 'Open Packing slip' });
    await expect(slip).toBeVisible();
    const file = await page.request.get((await slip.getAttribute('href'))!);
    expect(file.headers()['content-type']).toBe('application/pdf');
    expect((await file.body()).subarray(0, 5).toString()).toBe('%PDF-');
    await accessible('the papers of an order');
  });

  await test.step('each answer has its mark, with the sheet as evidence', async () => {
    await page.goto(`/console/orders/${number}?destination=packing_slip&slot=order/card_says`);
    const evidence = page.getByRole('region', { name: 'Evidence' });
    await expect(evidence.getByText('included')).toBeVisible();
    await expect(evidence.locator('.spot')).toHaveCount(2);
    await expect(evidence.getByText('Printed, and read back.')).toBeVisible();
    await expect(page.locator('.title-row')).not.toContainText(/not as expected/);
  });

  await test.step('the code of a ticket is read by a scanner, and names its seat', async () => {
    const { lines } = (await (await page.request.get(`/api/console/v1/orders/${number}`)).json()) as {
      lines: { id: string; units: { id: string }[] }[];
    };
    const walk = lines.find((l) => l.units.length)!;
    const codes = new Set<string>();
    for (const [i, unit] of walk.units.entries()) {
      await page.goto(`/console/orders/${number}?destination=seats&slot=unit/${walk.id}/${unit.id}/guest_name`);
      const canvas = page.getByRole('region', { name: 'Evidence' }).locator('canvas');
      await expect(canvas).toBeVisible();
      const scan = async () => {
        // As a picture: two million numbers on their way out of the browser take longer than the scanner.
        const picture = await canvas.evaluate((c: HTMLCanvasElement) => c.toDataURL('image/png'));
        const { data, info } = await sharp(Buffer.from(picture.split(',')[1]!, 'base64'))
          .ensureAlpha()
          .raw()
          .toBuffer({ resolveWithObject: true });
        return jsQR(new Uint8ClampedArray(data), info.width, info.height)?.data;
      };
      await expect.poll(scan).toMatch(new RegExp(`^${number}-2-${i + 1}-[0-9A-Z]{8}$`));
      codes.add((await scan())!);
    }
    expect(codes.size).toBe(2);
  });
});
