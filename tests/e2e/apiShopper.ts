import { randomUUID } from 'node:crypto';
import type { World } from './world';

/** What the shop refused: the same again would be refused again. */
export class Refused extends Error {}

/** Somebody who buys by the API as the shop's pages do: whatever fails is sent again, the same. */
export class ApiShopper {
  private readonly cookies = new Map<string, string>();

  constructor(private readonly address: string) {}

  /** Sends a request until it is answered. */
  send = async (method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<unknown> => {
    for (let tries = 0; tries < 240; tries++) {
      try {
        const token = method === 'GET' ? undefined : ((await this.request('GET', '/api/antiforgery')) as { token: string }).token;
        return await this.request(method, path, body, { ...headers, ...(token ? { 'X-Antiforgery': token } : {}) });
      } catch (error) {
        if (error instanceof Refused) throw error;
        await new Promise((resolve) => setTimeout(resolve, 250));
      }
    }
    throw new Error(`${path} did not work within a minute.`);
  };

  private async request(method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<unknown> {
    const response = await fetch(this.address + path, {
      method,
      headers: {
        ...headers,
        'content-type': 'application/json',
        cookie: [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; '),
      },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
    for (const cookie of response.headers.getSetCookie()) {
      const [name, value] = cookie.split(';')[0]!.split('=') as [string, string];
      this.cookies.set(name, value);
    }
    const text = await response.text();
    if (response.status >= 400 && response.status < 500) throw new Refused(`${path}: ${response.status} ${text}`);
    if (!response.ok) throw new Error(`${path}: ${response.status}`);
    return JSON.parse(text);
  }
}

/** A line that somebody puts into the cart. */
export interface BoughtLine {
  product: string;
  quantity: number;
  answers: Record<string, unknown>;
  units?: { id: string; answers: Record<string, unknown> }[];
}

/** Buys one of a product, and gives the number of the order. */
export const buyOne = (world: World, product: string, answers: Record<string, unknown>): Promise<number> =>
  buy(world, [{ product, quantity: 1, answers }]);

/** Buys some lines as Odile Farrant, and gives the number of the order. */
export async function buy(world: World, lines: BoughtLine[], answers: Record<string, unknown> = {}): Promise<number> {
  const { send } = new ApiShopper(world.address);
  const key = randomUUID();
  for (const [i, line] of lines.entries()) await send('POST', '/api/shop/v1/cart/lines', line, { 'Idempotency-Key': `${key}.${i}` });
  const told = (await send('PUT', '/api/shop/v1/cart/answers', {
    step: 'delivery',
    answers: {
      name: 'Odile Farrant',
      email: 'odile@farrant.example',
      delivery_address: { street: 'Quarry Lane 4', town: 'Aldmoor', country: 'IE' },
      ...answers,
    },
  })) as { evaluation: { offer: object } };
  const paid = (await send(
    'POST',
    '/api/shop/v1/attempts',
    { payment_token: `accept_of_${key}`, seen: told.evaluation.offer },
    { 'Idempotency-Key': key },
  )) as { order_token: string };
  return ((await send('GET', `/api/shop/v1/orders/${paid.order_token}`)) as { number: number }).number;
}
