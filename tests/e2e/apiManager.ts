import { expect, type Page } from '@playwright/test';

/** What the manager who is signed in to a page does by the API, where a test is about something else. */
export class ApiManager {
  constructor(
    private readonly page: Page,
    private readonly address: string,
  ) {}

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
    for (const [setting, value] of Object.entries(settings)) {
      const draft = (await this.send('GET', 'draft')) as { fields: { field: { key: string }; revision: number }[] };
      const { revision } = draft.fields.find((f) => f.field.key === key)!;
      await this.send('PATCH', `draft/items/${key}`, { setting, value }, { 'If-Match': `"${revision}"` });
    }
  }

  /** A way out, by name. */
  connection(key: string, name: string, address: string): Promise<unknown> {
    return this.send('PUT', `shop/connections/${key}`, { name, address });
  }

  private async send(method: string, path: string, data?: unknown, headers: Record<string, string> = {}): Promise<unknown> {
    const { token } = (await (await this.page.request.get(`${this.address}/api/antiforgery`)).json()) as { token: string };
    const response = await this.page.request.fetch(`${this.address}/api/console/v1/${path}`, {
      method,
      data,
      headers: { ...headers, 'X-Antiforgery': token },
    });
    const text = await response.text();
    expect(response.ok(), `${path}: ${text}`).toBe(true);
    return text ? JSON.parse(text) : undefined;
  }
}
