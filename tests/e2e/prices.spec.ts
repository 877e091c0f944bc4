import { createReadStream } from 'node:fs';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import currencies from 'currency-codes';
import { expect, test } from '@playwright/test';
import { priceCart, type Cart, type Shop } from './slow-prices';
import { root } from './database';

// Every row that the core made of a hundred thousand carts (the core's tests write them down), with what they weigh and under which codes they are sold,
// against a slow calculation in fractions that also decides what is asked.
test('a second calculation in exact fractions agrees to the cent and the row', async () => {
  const lines = createInterface({ input: createReadStream(join(root, 'artifacts/reference/prices.jsonl')) });
  let shop: Shop | undefined;
  let carts = 0;
  const differing: unknown[] = [];
  for await (const line of lines) {
    const read = JSON.parse(line) as Shop | (Cart & Omit<ReturnType<typeof priceCart>, 'rows'> & { rows: unknown[] });
    if ('fields' in read) {
      shop = { ...read, digits: currencies.code(read.currency)!.digits };
      continue;
    }
    carts++;
    const own = priceCart(shop!, read);
    const said = (of: { rows: unknown[]; total: number; weight: number; codes: string[] }) =>
      JSON.stringify([of.rows, of.total, of.weight, of.codes]);
    if (own.refused !== read.refused || (!own.refused && said(own) !== said(read))) {
      differing.push({ shop, cart: read, own });
    }
  }
  expect(carts).toBe(100_000);
  expect(differing.slice(0, 1)).toEqual([]);
});
