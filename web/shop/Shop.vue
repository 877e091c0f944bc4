<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue';
import { START_LOCATION, useRoute, useRouter } from 'vue-router';
import { sentenceOf } from '../shared/api/client';
import { useCart } from './cart';
import { catalogue, loadShop, need, said, shopper } from './catalogue';
import LanguageChoice from './parts/LanguageChoice.vue';
import { say, spoken } from '../shared/wording';

const route = useRoute();
const router = useRouter();
const failure = ref('');

const cart = useCart('cart').view;
const atOnce = useCart('at_once').view;
const inCarts = () => [...(cart.value?.cart.lines ?? []), ...(atOnce.value?.cart.lines ?? [])].map((line) => line.product_code);
const count = computed(() => cart.value?.cart.lines?.reduce((sum, line) => sum + line.quantity, 0) ?? 0);

async function load(): Promise<void> {
  failure.value = '';
  try {
    await router.isReady();
    await loadShop(typeof route.params.code === 'string' ? [route.params.code] : []);
  } catch (error) {
    failure.value = sentenceOf(error);
  }
}

// Where the first page opens, the focus begins at the top as in any document.
router.afterEach(async (to, from) => {
  if (from === START_LOCATION || to.path === from.path) return;
  await nextTick();
  document.querySelector<HTMLElement>('#main')?.focus();
});

// What lies in a cart is called by its name, however large the catalogue.
watch([cart, atOnce, catalogue], () => void need([...new Set(inCarts())]).catch(() => undefined));

void load();
</script>

<template>
  <a class="visually-hidden" href="#main">{{ say('shop.skip') }}</a>
  <header class="head">
    <RouterLink class="name" to="/">{{ spoken().shop }}</RouterLink>
    <nav :aria-label="say('shop.categories')">
      <RouterLink
        v-for="{ key, name } in catalogue?.categories ?? []"
        :key="key"
        :to="{ path: '/', hash: `#${key.replaceAll(' ', '-')}` }"
        >{{ name }}</RouterLink
      >
    </nav>
    <div class="own">
      <LanguageChoice />
      <RouterLink class="account" to="/account">{{ shopper?.email ? say('shop.account') : say('shop.sign_in') }}</RouterLink>
      <RouterLink class="cart" to="/cart">{{ say('shop.cart_with', count) }}</RouterLink>
    </div>
  </header>
  <main id="main" tabindex="-1">
    <p v-if="failure" class="sheet problem" role="alert">
      {{ failure }} <button class="plain" @click="load">{{ say('shop.try_again') }}</button>
    </p>
    <RouterView v-else-if="catalogue" :key="route.path" />
  </main>
  <p class="visually-hidden" role="status">{{ said }}</p>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0.3rem 1.4rem;
  padding: 1.1rem max(clamp(1rem, 4vw, 3.5rem), calc((100% - 1168px) / 2 + clamp(1rem, 4vw, 3.5rem))) 0.9rem;
  border-bottom: 1px solid var(--shop-rule);
}
.name {
  font: 600 1.5rem var(--title);
  color: var(--shop-bark);
  text-decoration: none;
}
nav {
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem 1rem;
}
nav a,
.account,
.cart {
  text-decoration: none;
  padding: 0.25rem 0;
}
nav a:hover,
.account:hover,
.cart:hover {
  text-decoration: underline;
}
.own {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0.2rem 1.25rem;
  margin-left: auto;
}
main:focus {
  outline: none;
}
</style>
