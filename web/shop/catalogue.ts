import { ref, shallowRef } from 'vue';
import { api, ask, type Schemas } from '../shared/api/client';

export const catalogue = shallowRef<Schemas['CatalogueView']>();
export const cart = shallowRef<Schemas['CartView']>();
/** Announced to screen readers. */
export const said = ref('');

export async function loadShop(): Promise<void> {
  const [products, mine] = await Promise.all([ask(api.GET('/api/shop/v1/catalogue')), ask(api.GET('/api/shop/v1/cart'))]);
  catalogue.value = products;
  cart.value = mine;
}

export async function loadCart(): Promise<void> {
  cart.value = await ask(api.GET('/api/shop/v1/cart'));
}

/** The product with a code. */
export const productOf = (code: string) => catalogue.value?.products.find((p) => p.code === code);
