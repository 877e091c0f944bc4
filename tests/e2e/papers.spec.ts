import jsQR from 'jsqr';
import { simpleParser } from 'mailparser';
import sharp from 'sharp';
import { ApiManager } from './apiManager';
import { buy } from './apiShopper';
import { Desk } from './desk';
import { expect, test } from './fixtures';

// A world of its own: what is printed here concerns nobody else.
test.use({ shop: 'Papers', expected: [/Canvas2D: Multiple readback|422 .*letterhead/] });

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
    await accessible('a paper under its paragraph');
  });

  await test.step('it is seen larger, beside its paragraph, with the other papers at hand and what is changed told', async () => {
    const map = page.getByRole('region', { name: 'The map' });
    const before = (await sheets.getByRole('img').first().boundingBox())!.width;
    await shown.getByRole('button', { name: 'see it larger' }).press('Enter');
    await expect(map).toBeHidden();
    expect((await sheets.getByRole('img').first().boundingBox())!.width).toBeGreaterThan(before * 1.5);
    await expect(shown.getByRole('button', { name: 'back to the list' })).toBeFocused();
    const slip = destination('packing_slip');
    await slip.getByRole('button', { name: 'item codes', exact: true }).click();
    await expect(slip.getByText('with item codes')).toBeVisible();
    await page.keyboard.press('Control+z');
    await expect(page.getByRole('status').filter({ hasText: /^Undone: packing_slip, / })).toBeVisible();
    await expect(slip.getByText('with item codes')).toBeHidden();
    await accessible('a paper beside its paragraph');
    await page.reload();
    await expect(sheets.getByRole('img').first()).toBeVisible();
    await expect(map).toBeHidden();
    await shown.getByRole('button', { name: 'back to the list' }).click();
    await expect(map).toBeVisible();
  });

  await test.step('one that is taken out while its sheet is asked for is not asked for any more', async () => {
    const preview = '**/draft/destinations/*/preview';
    await page.route(preview, async (route) => {
      await new Promise((go) => setTimeout(go, 700));
      await route.continue().catch(() => undefined);
    });
    await page.goto('/console/fields?by=destinations');
    await page.getByRole('button', { name: 'papers: ticket', exact: true }).click();
    await page.getByLabel('Name', { exact: true }).fill('Short');
    const asked = page.waitForRequest(/destinations\/short\/preview/);
    await page.getByRole('button', { name: 'Add it to the draft' }).click();
    await asked;
    await destination('short').getByRole('button', { name: 'take it out' }).click();
    await expect(destination('short')).toBeHidden();
    await expect(shown.getByText('"shop_number": 40000')).toBeVisible();
    await page.unroute(preview);
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

  await test.step('of a dozen tickets the first are listed, so that the trail stays in sight', async () => {
    const seats = Array.from({ length: 12 }, (_, i) => ({ id: `u${i + 1}`, answers: { guest_name: `Guest ${i + 1}` } }));
    const many = await buy(world, [{ product: 'WA-MAY', quantity: 12, answers: {}, units: seats }], {});
    await page.goto(`/console/orders/${many}`);
    const tickets = papers.getByRole('listitem').filter({ hasText: 'Ticket' });
    await expect(tickets.filter({ hasText: /Seat 1 of 12/ })).toBeVisible();
    const shown = await papers.getByRole('listitem').count();
    expect(shown).toBeLessThan(11);
    await papers.getByRole('button', { name: /^\d+ more$/ }).press('Enter');
    await expect(tickets).toHaveCount(12);
    await papers.getByRole('button', { name: 'fewer' }).press('Enter');
    await expect(papers.getByRole('listitem')).toHaveCount(shown);
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

  await test.step('a ticket goes to each seat’s own address, as a link, and a card into the parcel', async () => {
    await api.field('seat_email', 'Their e-mail', 'email', 'unit', ['WA-MAY'], {});
    await page.goto('/console/fields?by=destinations');
    await page.getByRole('button', { name: 'messages: to a recipient', exact: true }).click();
    await page.getByLabel('Name', { exact: true }).fill('Guests');
    await page.getByRole('button', { name: 'Add it to the draft' }).click();
    const guests = destination('guests');
    await desk.choose(guests, 'to the address in …', '“Their e-mail”');
    await expect(guests.getByRole('button', { name: 'that it carries a link to it and not the paper' })).toBeHidden();
    await guests.getByRole('button', { name: 'a paper', exact: true }).click();
    await desk.pick(guests, 'carries …', ['“Ticket”']);
    await expect(guests.getByLabel('waits at most … minutes for it')).toHaveValue('30');
    await desk.chooseIn(guests.getByRole('combobox', { name: 'Add a field to Guests' }), 'Who is coming');
    await desk.choose(shown, 'Product of the stand-in order', 'Orchard walk, May morning');
    await shown.getByRole('button', { name: 'plain', exact: true }).click();
    await expect(shown.locator('pre')).toContainText('Attached: Orchard walk, May morning, Seat 1 of 2 (seats-40000-1-1.pdf)');
    await guests.getByRole('button', { name: 'that it carries a link to it and not the paper' }).click();
    await expect(shown.locator('pre')).toContainText('To open: Orchard walk, May morning, Seat 1 of 2, http');

    await page.getByRole('button', { name: 'papers: card in the parcel', exact: true }).click();
    await page.getByLabel('Name', { exact: true }).fill('Card');
    await page.getByRole('button', { name: 'Add it to the draft' }).click();
    const card = destination('card');
    await expect(card.getByText('Say for which answer there is one.')).toBeVisible();
    await desk.choose(card, 'says what was answered to …, as large as it fits', '“What the card says”');
    await desk.chooseIn(card.getByRole('combobox', { name: 'Add a field to Card' }), 'What the card says');
    await desk.choose(shown, 'Product of the stand-in order', 'Zinc label, stamped, large');
    await expect(sheets.getByRole('img', { name: 'Sheet 1 of 1' })).toBeVisible();
    await expect(sheets.locator('.spot').first()).toBeVisible();

    await page.goto('/console/shop');
    const picture = await sharp({ create: { width: 200, height: 60, channels: 3, background: '#6b3d18' } })
      .png()
      .toBuffer();
    const file = page.getByLabel('A picture for the letterhead');
    await file.setInputFiles({ name: 'words.png', mimeType: 'image/png', buffer: Buffer.from('no picture') });
    await expect(page.getByText('That is no picture that can be printed. Choose a PNG or a JPEG.')).toBeVisible();
    await file.setInputFiles({ name: 'house.png', mimeType: 'image/png', buffer: picture });
    await expect(page.getByRole('img', { name: 'The picture on the letterhead' })).toBeVisible();
    await expect(page.getByText('That is no picture')).toBeHidden();
    await accessible('the letterhead');
    await desk.publish('Tickets by e-mail');
  });

  await test.step('who gets the link opens the ticket, and no other', async () => {
    const second = await buy(
      world,
      [
        {
          product: 'WA-MAY',
          quantity: 2,
          answers: {},
          units: [
            { id: 'u1', answers: { guest_name: 'Zoë', seat_email: 'zoe@seat.example' } },
            { id: 'u2', answers: { guest_name: 'Bo' } },
          ],
        },
      ],
      {},
    );
    const texts = async (of: RegExp) =>
      (await Promise.all((await world.received<{ raw: string }>('mail/messages')).map((m) => simpleParser(Buffer.from(m.raw, 'base64')))))
        .map((m) => m.text!)
        .filter((text) => of.test(text));
    const link = /To open: Orchard walk, May morning, Seat 1 of 2, https?:\/\/[^/]+(\/papers\/\S+)/;
    await expect.poll(async () => (await texts(link)).length).toBe(1);
    await page.goto(link.exec((await texts(link))[0]!)![1]!);
    await expect(page.getByRole('heading', { name: 'Orchard walk, May morning, Seat 1 of 2' })).toBeVisible();
    await expect(page.getByText(`From order ${second}.`)).toBeVisible();
    const ticket = await page.request.get((await page.getByRole('link', { name: 'Open it (PDF)' }).getAttribute('href'))!);
    expect((await ticket.body()).subarray(0, 5).toString()).toBe('%PDF-');
    await accessible('a ticket by its link');

    // And the shopper the order, by the link in theirs.
    const own = new RegExp(`${second}\\b[^]*Your order is also at https?://[^/]+(/orders/\\S+)`);
    await expect.poll(async () => (await texts(own)).length).toBe(1);
    await page.goto(own.exec((await texts(own))[0]!)![1]!);
    await expect(page.getByRole('heading', { name: `We have your order ${second}` })).toBeVisible();
  });
});
