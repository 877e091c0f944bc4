import { createHash, randomBytes } from 'node:crypto';
import { checkOut, payByCard } from './checkout';
import { Desk } from './desk';
import { photograph } from './drawn';
import { expect, test } from './fixtures';

// Pictures and files, from the manager's sentence to the file that the back office opens.
test.use({ shop: 'Files', expected: [/4(04|09|13|22) \(|ERR_CONNECTION_FAILED/] });

test('a picture of the site and a plan: chosen, refused, cancelled, gone on with, bought, and opened by those who may', async ({
  page,
  browser,
  world,
  signIn,
  accessible,
}) => {
  const plan = {
    name: 'the plan.pdf',
    mimeType: 'application/pdf',
    buffer: Buffer.concat([Buffer.from('%PDF-1.7\n'), randomBytes(3_000_000), Buffer.from('\n%%EOF\n')]),
  };
  await signIn();
  const desk = new Desk(page);

  await test.step('the manager asks for both', async () => {
    const picture = await desk.add({ label: 'Picture of the site', type: 'a picture', of: ['Zinc label, stamped, large'] });
    const field = desk.paragraph(picture);
    await field.getByRole('button', { name: 'a greatest number', exact: true }).click();
    await field.getByLabel('at most … of them').fill('3');
    await field.getByRole('button', { name: 'a least number of pixels' }).click();
    await field.getByLabel('both sides of at least … pixels').fill('600');
    await field.getByLabel('both sides of at least … pixels').blur();
    await expect(page.getByText('Saved.')).toBeVisible();
    await desk.preview.getByRole('button', { name: 'Try it with a sample' }).click();
    await expect(desk.preview.getByText('sample-1.jpg').first()).toBeVisible();
    await accessible('a field of pictures');
    await desk.add({ label: 'Plan', type: 'a file', of: ['Zinc label, stamped, large'] });
    await desk.publish('Pictures and plans');
  });

  await test.step('the shopper hands them in', async () => {
    await page.goto(`${world.address}/products/LA-ZINC-L`);
    const pictures = page.getByRole('group', { name: 'Picture of the site' });
    // Two at once, before there is a cart: both belong to the one that is made.
    await pictures
      .locator('input[type=file]')
      .setInputFiles([await photograph(page, 'south border.jpg', 1600, 1200), await photograph(page, 'gate.webp', 800, 700, 'image/webp')]);
    await expect(pictures.getByRole('listitem')).toHaveCount(2);
    await expect(pictures.getByRole('listitem').filter({ hasText: 'kB' })).toHaveCount(2);
    await expect(pictures.getByText('no longer here')).toHaveCount(0);

    await pictures
      .locator('input[type=file]')
      .setInputFiles({ name: 'holiday.jpg', mimeType: 'image/jpeg', buffer: plan.buffer.subarray(0, 5000) });
    await expect(page.getByText('“holiday.jpg” is not of a kind that we take here: JPEG, PNG, WebP.')).toBeVisible();
    await accessible('a file that is refused');
    await pictures.getByRole('button', { name: 'Take out holiday.jpg' }).click();
    await pictures.locator('input[type=file]').setInputFiles(await photograph(page, 'tiny.png', 599, 900, 'image/png'));
    await expect(page.getByText('“tiny.png” is too small to be used: both sides need at least 600 pixels.')).toBeVisible();
    await page.getByRole('button', { name: 'Put 1 in the cart' }).click();
    await expect(pictures.getByRole('button', { name: 'Take out tiny.png' })).toBeFocused();
    await page.keyboard.press('Enter');
    await expect(pictures.getByRole('listitem')).toHaveCount(2);
    await expect(pictures.getByRole('status')).toHaveText('tiny.png was taken out.');
    await expect(pictures.locator('input[type=file]')).toBeFocused();
  });

  await test.step('on a telephone it can be photographed', async () => {
    const telephone = await browser.newContext({
      baseURL: world.address,
      hasTouch: true,
      isMobile: true,
      viewport: { width: 390, height: 844 },
    });
    const small = await telephone.newPage();
    await small.goto('/products/LA-ZINC-L');
    const camera = small.getByLabel('Picture of the site: take a photograph');
    await expect(camera).toHaveAttribute('capture', 'environment');
    await camera.setInputFiles(await photograph(small, 'now.jpg', 900, 700));
    await expect(small.getByRole('button', { name: 'Take out now.jpg' })).toBeVisible();
    await telephone.close();
  });

  await test.step('a connection that is lost in the middle, and a file that is dropped', async () => {
    const plans = page.getByRole('group', { name: 'Plan' });
    // The first request is lost, and nothing is reached until the connection is there again.
    let connected = false;
    await page.route('**/api/shop/v1/files/*', (route) => (connected ? route.continue() : route.abort('connectionfailed')));
    const transfer = await page.evaluateHandle((bytes) => {
      const data = new DataTransfer();
      data.items.add(new File([Uint8Array.from(atob(bytes), (c) => c.charCodeAt(0))], 'the plan.pdf', { type: 'application/pdf' }));
      return data;
    }, plan.buffer.toString('base64'));
    await plans.dispatchEvent('drop', { dataTransfer: transfer });
    await expect(plans.getByText('it goes on by itself')).toBeVisible();
    await page.getByRole('button', { name: 'Put 1 in the cart' }).click();
    await expect(page.getByText('A file for “Plan” is still on its way. Wait until it is there, or take it out.')).toBeVisible();
    connected = true;
    await expect(plans.getByText('3 MB')).toBeVisible();
    await expect(page.getByText('is still on its way')).toBeHidden();
    await page.unroute('**/api/shop/v1/files/*');
  });

  await test.step('one that is cancelled on its way is not there', async () => {
    const plans = page.getByRole('group', { name: 'Plan' });
    await plans.getByRole('button', { name: 'Take out the plan.pdf' }).click();
    let held: (() => void) | undefined;
    await page.route('**/api/shop/v1/files/*', async (route) => {
      if (route.request().method() === 'PATCH') await new Promise<void>((go) => (held = go));
      await route.continue().catch(() => undefined);
    });
    await plans.locator('input[type=file]').setInputFiles(plan);
    await plans.getByRole('button', { name: 'Cancel the plan.pdf' }).click();
    await expect(plans.getByRole('listitem')).toHaveCount(0);
    held?.();
    await page.unroute('**/api/shop/v1/files/*');
    await plans.locator('input[type=file]').setInputFiles(plan);
    await expect(plans.getByText('3 MB')).toBeVisible();
    await page.reload();
    await expect(page.getByRole('group', { name: 'Plan' }).getByText('the plan.pdf').first()).toBeVisible();
    await page.getByRole('button', { name: 'Put 1 in the cart' }).click();
    await expect(page.getByRole('heading', { name: 'Cart' })).toBeVisible();
    await expect(page.getByRole('link', { name: 'south border.jpg' })).toBeVisible();
    await accessible('a cart with files');
  });

  const sha256 = createHash('sha256').update(plan.buffer).digest('hex');
  let number = '';
  await test.step('bought, and given back byte by byte', async () => {
    await checkOut(page);
    number = await payByCard(page);
    const [saved] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'the plan.pdf' }).click()]);
    expect(saved.suggestedFilename()).toBe('the plan.pdf');
    const bytes = await (await saved.createReadStream()).toArray();
    expect(
      createHash('sha256')
        .update(Buffer.concat(bytes as Buffer[]))
        .digest('hex'),
    ).toBe(sha256);
  });

  await test.step('staff follow it, and the back office opens it', async () => {
    await page.goto(`${world.address}/console/orders/${number}`);
    await expect(page.getByRole('button', { name: 'Plan, Back office: confirmed by the other side' })).toBeVisible();
    await expect(page.getByRole('button', { name: /^Picture of the site, To the shopper: / })).toHaveAttribute('data-sign', 'folded_sheet');
    await accessible('an order with files');
    // Enlarged twice, the answers still have room to be read.
    await page.setViewportSize({ width: 640, height: 800 });
    expect(
      (await page
        .getByRole('row', { name: /^Picture of the site/ })
        .locator('.answer')
        .boundingBox())!.width,
    ).toBeGreaterThan(150);
    await page.setViewportSize({ width: 1280, height: 800 });
    const link = (await page.getByRole('link', { name: 'the plan.pdf' }).getAttribute('href'))!;
    expect((await page.request.get(link)).status()).toBe(200);
    const stranger = await browser.newContext();
    expect((await stranger.request.get(`${world.address}${link}`)).status()).toBe(401);
    await stranger.close();
    const sale = (
      await world.received<{
        sale: { shop_number: number; lines: { attachments: { key: string; files: { name: string; sha256: string }[] }[] }[] };
      }>('back-office/sales')
    ).find((s) => String(s.sale.shop_number) === number)!.sale;
    const files = sale.lines[0]!.attachments.flatMap((a) => a.files);
    expect(files.map((f) => f.name)).toEqual(['south border.jpg', 'gate.webp', 'the plan.pdf']);
    for (const file of files) {
      const kept = await page.request.get(`${world.standInAddress}/back-office/files/${file.sha256}/x`);
      expect(
        createHash('sha256')
          .update(await kept.body())
          .digest('hex'),
      ).toBe(file.sha256);
    }
    expect(files[2]!.sha256).toBe(sha256);
  });
});
