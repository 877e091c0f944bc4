import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { APIRequestContext, Page } from '@playwright/test';
import { Document, Packer, Paragraph } from 'docx';
import PDFDocument from 'pdfkit';
import QRCode from 'qrcode';
import { Upload } from 'tus-js-client';
import sharp from 'sharp';
import UTIF from 'utif2';
import writeXlsxFile from 'write-excel-file/node';
import { photograph } from './drawn';
import { expect, test } from './fixtures';
import { root } from './database';

// The kind of a file is told by its content: real files by programs that are not ours, under their own names, under others, and cut off.
// They are uploaded by tus-js-client, an implementation of tus 1.0.0 that is not ours either.
// The server is killed in the midst of it, while a page asks it now and then.
test.use({ shop: 'Kinds of file', expected: [/4\d\d \(|ERR_CONNECTION_REFUSED/] });

interface Made {
  what: string;
  bytes: Buffer;
  kind: string;
  /** What is told of it when its end is missing; a picture is then told by its beginning, and cannot be opened. */
  cut: string | null;
}

async function made(page: Page): Promise<Made[]> {
  // Kept as files, since they were made by a program with windows.
  const byGnumeric = (name: string) => readFileSync(join(root, 'tests/e2e/files', name));
  const pdf = new Promise<Buffer>((resolve) => {
    const document = new PDFDocument();
    const parts: Buffer[] = [];
    document.on('data', (part: Buffer) => parts.push(part)).on('end', () => resolve(Buffer.concat(parts)));
    document.text('A plan of the site').end();
  });
  return [
    { what: 'JPEG by Chromium', bytes: (await photograph(page, '', 900, 700)).buffer, kind: 'jpeg', cut: 'jpeg' },
    { what: 'PNG by Chromium', bytes: (await photograph(page, '', 900, 700, 'image/png')).buffer, kind: 'png', cut: 'png' },
    { what: 'PNG by qrcode', bytes: await QRCode.toBuffer('https://marrowby.example/site', { width: 700 }), kind: 'png', cut: 'png' },
    { what: 'WebP by Chromium', bytes: (await photograph(page, '', 900, 700, 'image/webp')).buffer, kind: 'webp', cut: 'webp' },
    { what: 'PDF by Chromium', bytes: await page.pdf(), kind: 'pdf', cut: null },
    { what: 'PDF by pdfkit', bytes: await pdf, kind: 'pdf', cut: null },
    {
      what: 'SVG by qrcode',
      bytes: Buffer.from(await QRCode.toString('https://marrowby.example/site', { type: 'svg' })),
      kind: 'svg',
      cut: 'text',
    },
    { what: 'TIFF by utif2', bytes: Buffer.from(UTIF.encodeImage(new Uint8Array(4 * 64 * 64).fill(200), 64, 64)), kind: 'tiff', cut: null },
    {
      what: 'Word by docx',
      bytes: await Packer.toBuffer(new Document({ sections: [{ children: [new Paragraph('South border')] }] })),
      kind: 'docx',
      cut: null,
    },
    {
      what: 'Excel by write-excel-file',
      bytes: await writeXlsxFile([
        [{ value: 'Bed' }, { value: 'Plants' }],
        [{ value: 'South border' }, { value: 12 }],
      ]).toBuffer(),
      kind: 'xlsx',
      cut: null,
    },
    { what: 'Excel by Gnumeric', bytes: byGnumeric('beds.xlsx'), kind: 'xlsx', cut: null },
    { what: 'OpenDocument by Gnumeric', bytes: byGnumeric('beds.ods'), kind: 'ods', cut: null },
    { what: 'CSV by Gnumeric', bytes: byGnumeric('beds.csv'), kind: 'text', cut: 'text' },
  ];
}

/** The headers with which another client passes for this one, which has a cart. */
async function passport(request: APIRequestContext, address: string): Promise<Record<string, string>> {
  const { token } = (await (await request.get(`${address}/api/antiforgery`)).json()) as { token: string };
  await request.post(`${address}/api/shop/v1/cart/lines`, {
    headers: { 'X-Antiforgery': token },
    data: { product: 'LA-ZINC-L', quantity: 1, answers: {} },
  });
  const { cookies } = await request.storageState();
  return { 'X-Antiforgery': token, Cookie: cookies.map((c) => `${c.name}=${c.value}`).join('; ') };
}

function upload(
  address: string,
  headers: Record<string, string>,
  field: string,
  name: string,
  bytes: Buffer,
  more: object = {},
): Promise<string> {
  return new Promise((resolve, reject) => {
    const tus: Upload = new Upload(bytes, {
      endpoint: `${address}/api/shop/v1/files`,
      headers,
      metadata: { filename: name, field },
      retryDelays: null,
      onError: reject,
      onSuccess: () => resolve(tus.url!.split('/').at(-1)!),
      ...more,
    });
    tus.start();
  });
}

async function define(page: Page): Promise<void> {
  const call = (method: string, path: string, body: object) =>
    page.evaluate(
      async ([m, p, b]) => {
        const { token } = (await (await fetch('/api/antiforgery')).json()) as { token: string };
        const { seen } = (await (await fetch('/api/console/v1/versions')).json()) as { seen: string };
        const reply = await fetch(`/api/console/v1/${p}`, {
          method: m,
          headers: { 'X-Antiforgery': token, 'content-type': 'application/json' },
          body: JSON.stringify(p === 'versions' ? { ...b, seen } : b),
        });
        return reply.status;
      },
      [method, path, body] as const,
    );
  const asked = { level: 'line', section: null, asked_of: { all: false, products: ['LA-ZINC-L'] } };
  expect(await call('POST', 'draft/fields', { label: 'Papers', key: 'papers', type: 'file', ...asked })).toBe(200);
  expect(await call('POST', 'draft/fields', { label: 'Picture', key: 'picture', type: 'picture', ...asked })).toBe(200);
  expect(await call('POST', 'versions', { number: 2, note: 'Files' })).toBe(200);
}

test('files are what their content says, whatever their name, and pictures lose where they were taken', async ({ page, world, signIn }) => {
  await signIn();
  await define(page);
  const headers = await passport(page.request, world.address);
  const told = async (id: string) =>
    (
      await world.query<{ kind: string | null; width: number; sha256: string; name: string }>(
        `select kind, width, encode(sha256, 'hex') as sha256, name from files where id = '${id}'`,
      )
    )[0]!;

  await test.step('under its own name, under another, and cut off', async () => {
    const seen: object[] = [];
    const expected: object[] = [];
    for (const { what, bytes, kind, cut } of await made(page)) {
      const whole = await told(await upload(world.address, headers, 'papers', `a.${kind}`, bytes));
      expect(whole.sha256, what).toBe(createHash('sha256').update(bytes).digest('hex'));
      const renamed = await told(await upload(world.address, headers, 'papers', kind === 'jpeg' ? 'a.pdf' : 'Straße 1.jpg', bytes));
      const short = await told(
        await upload(world.address, headers, 'papers', `a.${kind}`, bytes.subarray(0, Math.floor(bytes.length * 0.6))),
      );
      seen.push({
        what,
        whole: whole.kind,
        renamed: renamed.kind,
        name: renamed.name,
        cut: short.kind,
        opened: whole.width > 0,
        cutOpened: short.width > 0,
      });
      const picture = ['jpeg', 'png', 'webp'].includes(kind);
      expected.push({
        what,
        whole: kind,
        renamed: kind,
        name: kind === 'jpeg' ? 'a.pdf' : 'Straße 1.jpg',
        cut,
        opened: picture,
        cutOpened: false,
      });
    }
    expect(seen).toEqual(expected);
  });

  await test.step('a picture with a place in it, written and read by sharp', async () => {
    const placed = await sharp((await photograph(page, '', 400, 300)).buffer)
      .withExif({ IFD0: { Orientation: '6' }, IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '53/1 20/1 59/1' } })
      .withMetadata({ orientation: 6 })
      .jpeg()
      .toBuffer();
    const before = await sharp(placed).metadata();
    expect([before.orientation, before.exif!.includes('N\0')]).toEqual([6, true]);
    const id = await upload(world.address, headers, 'picture', 'placed.jpg', placed);
    const kept = await (await page.request.get(`${world.address}/api/shop/v1/files/${id}/content`, { headers })).body();
    const { orientation, exif } = await sharp(kept).metadata();
    expect([orientation, exif]).toEqual([undefined, undefined]);
    // Upright: by the browser's own decoder.
    expect(
      await page.evaluate(async (bytes) => {
        const picture = await createImageBitmap(new Blob([Uint8Array.from(atob(bytes), (c) => c.charCodeAt(0))]));
        return [picture.width, picture.height];
      }, kept.toString('base64')),
    ).toEqual([300, 400]);
  });

  await test.step('in pieces, stopped, and gone on with by another upload after the server was killed', async () => {
    const bytes = Buffer.alloc(700_000, 'The south border, in words. ');
    let url = '';
    await new Promise<void>((resolve, reject) => {
      const first: Upload = new Upload(bytes, {
        endpoint: `${world.address}/api/shop/v1/files`,
        headers,
        metadata: { filename: 'words.txt', field: 'papers' },
        chunkSize: 200_000,
        retryDelays: null,
        onError: reject,
        onChunkComplete: () => {
          url = first.url!;
          void first.abort().then(resolve);
        },
      });
      first.start();
    });
    // And the server dies in between.
    await world.killServer();
    await world.startServer();
    const progress: number[] = [];
    const id = await upload(world.address, headers, 'papers', 'words.txt', bytes, {
      uploadUrl: url,
      chunkSize: 200_000,
      onProgress: (sent: number) => progress.push(sent),
    });
    expect(progress[0]).toBeGreaterThanOrEqual(200_000);
    expect((await told(id)).sha256).toBe(createHash('sha256').update(bytes).digest('hex'));
  });
});
