import { parse } from 'csv-parse/sync';
import { Webhook } from 'standardwebhooks';
import { Desk } from './desk';
import { checkOut, payByCard } from './checkout';
import { expect, test } from './fixtures';

// A world of its own: what is told and dropped is counted in it.
test.use({ shop: 'Told', expected: [/status of 422/] });

interface Told {
  headers: Record<string, string>;
  body: string;
  contentType: string;
}

test('a program is told when something is prepared, and a bookkeeper gets a file: made by hand, proven, believed by others', async ({
  page,
  world,
  signIn,
  accessible,
}) => {
  await signIn();
  const desk = new Desk(page);
  const connections = page.getByRole('region', { name: 'Connections' });
  let secret = '';

  const connect = async (name: string, key: string, address: string): Promise<void> => {
    await connections.getByRole('button', { name: 'make a connection' }).click();
    await connections.getByLabel('Name', { exact: true }).fill(name);
    await connections.getByLabel('Key', { exact: true }).fill(key);
    await connections.getByLabel('Address', { exact: true }).fill(address);
    await connections.getByRole('button', { name: 'Make the connection' }).click();
    await connections.getByRole('button', { name: `Give ${name} a secret` }).click();
  };

  await test.step('a connection with a secret to sign with', async () => {
    await page.goto('/console/shop');
    await connect('Pick-up board', 'board', `${world.standInAddress}/board`);
    await connections.getByRole('button', { name: 'make one' }).click();
    secret = await connections.getByLabel('The secret of Pick-up board').inputValue();
    expect(secret).toMatch(/^whsec_[A-Za-z0-9+/]{43}=$/);
    await accessible('a secret that was made');
    await connections.getByRole('button', { name: 'Give it' }).click();
    await expect(connections.getByRole('row', { name: /Pick-up board/ })).toContainText('given');
  });

  const access = (await (await fetch(`${world.standInAddress}/files/access`)).json()) as Record<'address' | 'key' | 'fingerprint', string>;
  await test.step('a connection for files, whose host key is compared and trusted', async () => {
    await connect('Bookkeeper', 'books', access.address);
    await connections.getByLabel('The secret of Bookkeeper: a password, or a private key').fill(access.key);
    await connections.getByRole('button', { name: 'Give it' }).click();
    const row = connections.getByRole('row', { name: /Bookkeeper/ });
    await expect(row).toContainText('its host key is not trusted yet');
    await connections.getByRole('button', { name: 'Reach Bookkeeper' }).click();
    await expect(row).toContainText(access.fingerprint);
    await accessible('a host key to trust');
    await row.getByRole('button', { name: 'trust this host key' }).click();
    await expect(row).toContainText('It answers, shows the host key that is trusted, and lets us in.');
  });

  const shown = page.getByRole('region', { name: 'What it gets' });
  await test.step('a destination that is told when something is prepared', async () => {
    await page.goto('/console/fields?by=destinations');
    await page.getByRole('button', { name: 'systems: events', exact: true }).click();
    await page.getByLabel('Name', { exact: true }).fill('Board');
    await page.getByRole('button', { name: 'Add it to the draft' }).click();
    const board = page.getByRole('region', { name: 'The destination board' });
    await expect(board.getByText('as soon as it happens, each event in its turn')).toBeVisible();
    await expect(board.getByText('Choose the connection by which it is told.')).toBeVisible();
    await desk.choose(board, 'by the connection …', '“Pick-up board”');
    await expect(board.getByText('Choose the connection by which it is told.')).toBeHidden();
    await desk.pick(board, 'told when an order is …', ['corrected', 'prepared', 'arrived elsewhere']);
    await board.getByRole('button', { name: 'a path there', exact: true }).click();
    await board.getByLabel('at … there').fill('told');
    await page.keyboard.press('Enter');
    await desk.chooseIn(board.getByRole('combobox', { name: 'Add a field to Board' }), 'Your name');
    await expect(shown.getByText('"type": "order.placed"')).toBeVisible();
    await expect(shown.getByText('"specversion": "1.0"')).toBeVisible();
    await accessible('an event beside its paragraph');
  });

  await test.step('and one that gets a file of comma-separated values', async () => {
    await page.goto('/console/fields?by=destinations');
    await page.getByRole('button', { name: 'systems: file drop', exact: true }).click();
    await page.getByLabel('Name', { exact: true }).fill('Books');
    await page.getByRole('button', { name: 'Add it to the draft' }).click();
    const books = page.getByRole('region', { name: 'The destination books' });
    await expect(books.getByText('Say in which folder the files are dropped.')).toBeVisible();
    await books.getByLabel('in the folder …').fill('../up');
    await page.keyboard.press('Enter');
    await expect(books.getByText(/Give a path such as hooks\/orders/)).toBeVisible();
    await books.getByLabel('in the folder …').fill('orders');
    await page.keyboard.press('Enter');
    await expect(books.getByText('Say in which folder the files are dropped.')).toBeHidden();
    await desk.choose(books, 'in …', 'comma-separated values');
    await books.getByRole('button', { name: 'by SFTP', exact: true }).click();
    await desk.choose(books, 'by the connection …', '“Bookkeeper”');
    for (const field of ['Your name', 'Delivery address', 'Telephone'])
      await desk.chooseIn(books.getByRole('combobox', { name: 'Add a field to Books' }), field);
    await expect(shown.getByText(/^row,order,placed_at,/)).toBeVisible();
    await accessible('a file beside its paragraph');
    await page.reload();
    await desk.publish('Told and dropped');
  });

  let number = '';
  await test.step('somebody buys, and a line of it is prepared', async () => {
    await page.goto('/products/LA-ZINC-L');
    await page.getByRole('button', { name: 'Put 1 in the cart' }).click();
    await page.getByRole('heading', { name: 'Cart' }).waitFor();
    await checkOut(page);
    number = await payByCard(page);
    await page.goto(`/console/orders/${number}`);
    await page.getByRole('button', { name: / is prepared$/ }).click();
    await expect.poll(async () => (await world.received<Told>('board/told')).some((t) => t.body.includes('order.prepared'))).toBe(true);
  });

  await test.step('the library of the standard believes every event, and none with a changed byte', async () => {
    const told = await world.received<Told>('board/told');
    const types = told.map((t) => (JSON.parse(t.body) as { type: string }).type);
    expect(types[0]).toBe('order.placed');
    expect(types).toContain('order.prepared');
    expect(types).toContain('order.arrived');
    const hook = new Webhook(secret);
    for (const { headers, body } of told) {
      expect(hook.verify(body, headers)).toEqual(JSON.parse(body));
      expect((JSON.parse(body) as { id: string }).id).toBe(headers['webhook-id']);
      expect(() => hook.verify(body.replace('order.', 'Order.'), headers)).toThrow();
      expect(() => hook.verify(body, { ...headers, 'webhook-id': 'another' })).toThrow();
    }
  });

  await test.step('another reader of RFC 4180 reads the file, and it says what was bought', async () => {
    const files = async () => (await world.received<{ name: string; content: string }>('files/inbox')).map((f) => f.name);
    await expect.poll(files).toEqual([`orders/books-${number}.csv`]);
    const [file] = await world.received<{ name: string; content: string }>('files/inbox');
    const rows = parse(Buffer.from(file!.content, 'base64'), { columns: true, relax_column_count: false }) as Record<string, string>[];
    expect(rows[0]).toMatchObject({ row: 'order', order: number, name: 'Odile Farrant' });
    expect(rows.filter((r) => r['row'] === 'line')).toHaveLength(1);
    for (const cell of rows.flatMap((r) => Object.values(r))) expect(cell).not.toMatch(/^[=+@]/);
  });

  await test.step('the order says so of every answer', async () => {
    await page.goto(`/console/orders/${number}`);
    await expect(page.getByRole('button', { name: /^Your name, Board: included/ }).first()).toBeVisible();
    await expect(page.getByRole('button', { name: /^Your name, Books: confirmed/ }).first()).toBeVisible();
  });
});
