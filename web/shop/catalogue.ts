import { ref, shallowRef } from 'vue';
import { api, ask, type Schemas } from '../shared/api/client';
import { useCart } from './cart';

export const catalogue = shallowRef<Schemas['CatalogueView']>();
export const shopper = shallowRef<Schemas['ShopperView']>();
/** Announced to screen readers. */
export const said = ref('');

/** Beside what a catalogue begins with: of a large one the rest comes when it is looked at. */
const further = shallowRef<Schemas['ProductView'][]>([]);
const AT_A_TIME = 60;
const more = shallowRef<Record<string, Schemas['ProductView'][]>>({});

/** Loads the shop, with the products that are at hand by their codes. */
export async function loadShop(codes: string[]): Promise<void> {
  const [products, who] = await Promise.all([
    ask(api.GET('/api/shop/v1/catalogue')),
    ask(api.GET('/api/shop/v1/account/session')),
    useCart('cart').load(),
    useCart('at_once').load(),
  ]);
  await need(codes, products);
  catalogue.value = products;
  shopper.value = who;
}

const find = (code: string, known = catalogue.value) =>
  known?.products.find((p) => p.code === code) ??
  further.value.find((p) => p.code === code) ??
  Object.values(more.value)
    .flat()
    .find((p) => p.code === code);

/** The product with a code. */
export const productOf = (code: string) => find(code);

/** Brings in what is not at hand yet of some products. */
export async function need(codes: string[], known = catalogue.value): Promise<void> {
  const missing = codes.filter((code) => !find(code, known));
  if (!known || !missing.length || known.categories.every((c) => c.count === c.first.length)) return;
  for (let at = 0; at < missing.length; at += AT_A_TIME) {
    const code = missing.slice(at, at + AT_A_TIME);
    const found = await ask(api.GET('/api/shop/v1/catalogue/products', { params: { query: { code } } }));
    further.value = [...further.value, ...found];
  }
}

/** The products of a category, as far as they are at hand. */
export const productsOf = (category: Schemas['ListedCategory']) => [
  ...category.first.map((code) => productOf(code)!),
  ...(more.value[category.key] ?? []),
];

/** Brings in the next of a category. */
export async function loadMore(category: Schemas['ListedCategory']): Promise<void> {
  const from = productsOf(category).length;
  const found = await ask(api.GET('/api/shop/v1/catalogue/products', { params: { query: { category: category.key, from } } }));
  more.value = { ...more.value, [category.key]: [...(more.value[category.key] ?? []), ...found] };
}

/** What a line is called, with its variant. */
export function nameOf(line: Schemas['CartLine']): string {
  const product = productOf(line.product_code);
  const variant = product?.variants.find((v) => v.code === line.variant_code);
  return product ? (variant ? `${product.name}, ${variant.name}` : product.name) : line.product_code;
}
