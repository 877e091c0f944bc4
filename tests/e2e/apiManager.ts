import { expect, type APIRequestContext } from '@playwright/test';
import { manager, password } from './database';

/** What the manager does by the API, where a test is about something else. */
export class ApiManager {
  constructor(
    private readonly request: APIRequestContext,
    private readonly address: string,
  ) {}

  /** Signs in; a page that is signed in lends what it is signed in by. */
  async signIn(): Promise<void> {
    await this.send('POST', 'session', { email: manager.email, password });
  }

  /** Adds a field with settings; of everything, where no products are named. */
  async field(
    key: string,
    label: string,
    type: string,
    level: 'order' | 'line' | 'unit',
    products: string[],
    settings: Record<string, unknown> = {},
  ): Promise<void> {
    await this.send('POST', 'draft/fields', { key, label, type, level, section: null, asked_of: { all: !products.length, products } });
    await this.change(key, settings);
  }

  /** Adds a destination with settings, and lets fields go there. */
  async destination(key: string, kind: string, name: string, settings: Record<string, unknown>, fields: string[]): Promise<void> {
    await this.send('POST', 'draft/destinations', { key, kind, name });
    await this.change(key, settings);
    for (const field of fields) await this.change(field, { [`goes_to.${key}`]: true });
  }

  /** A way out, by name. */
  connection(key: string, name: string, address: string): Promise<unknown> {
    return this.send('PUT', `shop/connections/${key}`, { name, address });
  }

  /** Gives a connection its secret. */
  secret(key: string, secret: string): Promise<unknown> {
    return this.send('PUT', `shop/connections/${key}/secret`, { secret });
  }

  /** Trusts the host key of a connection for files. */
  trust(key: string, fingerprint: string): Promise<unknown> {
    return this.send('PUT', `shop/connections/${key}/host-key`, { fingerprint });
  }

  /** Says what the other side calls an item. */
  itemCode(destination: string, item: string, code: string): Promise<unknown> {
    return this.send('PUT', `destinations/${destination}/codes`, { item, code });
  }

  /** Sets something of the shop. */
  shop(settings: Record<string, unknown>): Promise<unknown> {
    return this.send('PATCH', 'shop/settings', settings);
  }

  /** All texts of the draft, in every language. */
  async texts(): Promise<{ key: string; where: string; said: Record<string, string>; usual: Record<string, string> }[]> {
    return ((await this.send('GET', 'draft/texts')) as { texts: never[] }).texts;
  }

  /** Puts a table of texts into the draft. */
  async bringTexts(csv: string): Promise<void> {
    const read = (await this.send('POST', 'draft/texts/csv/difference', { csv })) as { errors: unknown[]; digest: string };
    expect(read.errors).toEqual([]);
    await this.send('POST', 'draft/texts/csv', { csv, seen: read.digest });
  }

  async publish(note: string): Promise<void> {
    const { next: number, seen } = (await this.send('GET', 'versions')) as { next: number; seen: string };
    await this.send('POST', 'versions', { number, seen, note });
  }

  /** Settings of something of the draft. */
  async change(key: string, settings: Record<string, unknown>): Promise<void> {
    for (const [setting, value] of Object.entries(settings)) {
      const { fields, destinations } = (await this.send('GET', 'draft')) as {
        fields: { field: { key: string }; revision: number }[];
        destinations: { key: string; revision: number }[];
      };
      const { revision } = fields.find((f) => f.field.key === key) ?? destinations.find((d) => d.key === key)!;
      await this.send('PATCH', `draft/items/${key}`, { setting, value }, { 'If-Match': `"${revision}"` });
    }
  }

  /** Takes all fields but the shop's own questions out of the draft. */
  async takeAllOut(): Promise<void> {
    const { fields } = (await this.send('GET', 'draft')) as { fields: { field: { key: string; built_in: boolean }; revision: number }[] };
    for (const { field, revision } of fields.filter((f) => !f.field.built_in))
      await this.send('DELETE', `draft/items/${field.key}`, undefined, { 'If-Match': `"${revision}"` });
  }

  private async send(method: string, path: string, data?: unknown, headers: Record<string, string> = {}): Promise<unknown> {
    const { token } = (await (await this.request.get(`${this.address}/api/antiforgery`)).json()) as { token: string };
    const response = await this.request.fetch(`${this.address}/api/console/v1/${path}`, {
      method,
      data,
      headers: { ...headers, 'X-Antiforgery': token },
    });
    const text = await response.text();
    expect(response.ok(), `${path}: ${text}`).toBe(true);
    return text ? JSON.parse(text) : undefined;
  }
}
