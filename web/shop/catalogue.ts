import { computed, ref, shallowRef } from 'vue';
import { api, ask, type Schemas } from '../shared/api/client';
import { useCart } from './cart';

export const catalogue = shallowRef<Schemas['CatalogueView']>();
export const shopper = shallowRef<Schemas['ShopperView']>();
/** Announced to screen readers. */
export const said = ref('');

export async function loadShop(): Promise<void> {
  const [products, who] = await Promise.all([
    ask(api.GET('/api/shop/v1/catalogue')),
    ask(api.GET('/api/shop/v1/account/session')),
    useCart('cart').load(),
    useCart('at_once').load(),
  ]);
  catalogue.value = products;
  shopper.value = who;
}

/** The categories, each once, in the order in which they first come. */
export const categories = computed(() => [
  ...new Map(catalogue.value?.products.flatMap((p) => p.categories).map((c) => [c.key, c])).values(),
]);

/** The product with a code. */
export const productOf = (code: string) => catalogue.value?.products.find((p) => p.code === code);

/** What a line is called, with its variant. */
export function nameOf(line: Schemas['CartLine']): string {
  const product = productOf(line.product_code);
  const variant = product?.variants.find((v) => v.code === line.variant_code);
  return product ? (variant ? `${product.name}, ${variant.name}` : product.name) : line.product_code;
}
