<script setup lang="ts">
import { onMounted, ref } from 'vue';
import { api, ask, type Schemas } from '../../shared/api/client';
import { useWork } from '../../shared/work';
import { shopper } from '../catalogue';
import { useCart } from '../cart';
import { locale, say } from '../../shared/wording';

// The shopper decides here which order to look at; without an account, where the one-time link goes.
const email = ref('');
const sentTo = ref('');
const orders = ref<Schemas['ShopperOrderView'][]>();
const { busy, failure, run } = useWork();

const day = new Intl.DateTimeFormat(locale(), { dateStyle: 'long' });

async function send(): Promise<void> {
  await run(async () => {
    await ask(api.POST('/api/shop/v1/account/links', { body: { email: email.value } }));
    sentTo.value = email.value.trim();
  });
}

async function leave(): Promise<void> {
  await run(async () => {
    await ask(api.DELETE('/api/shop/v1/account/session'));
    shopper.value = await ask(api.GET('/api/shop/v1/account/session'));
    orders.value = undefined;
    await useCart('cart').load();
  });
}

onMounted(async () => {
  if (shopper.value?.email) orders.value = await run(() => ask(api.GET('/api/shop/v1/account/orders')));
});
</script>

<template>
  <div class="sheet narrow">
    <h1>{{ say('shop.your_account') }}</h1>
    <p v-if="failure" class="problem" role="alert">{{ failure }}</p>
    <template v-if="shopper?.email">
      <p>
        {{ shopper.email }} · {{ shopper.group }} · <button class="plain" @click="leave">{{ say('shop.sign_out') }}</button>
      </p>
      <p v-if="orders && !orders.length">
        {{ say('shop.no_orders') }} <RouterLink to="/">{{ say('shop.see_all') }}</RouterLink>
      </p>
      <ul v-else>
        <li v-for="order in orders" :key="order.number">
          <RouterLink :to="`/account/orders/${order.number}`">{{ say('shop.order', order.number) }}</RouterLink>
          <span>{{ day.format(new Date(order.placed_at)) }}</span>
          <span class="what">{{ order.lines }}</span>
          <span>{{ order.total }}</span>
        </li>
      </ul>
    </template>
    <template v-else-if="sentTo">
      <p role="status">{{ say('shop.link_sent', sentTo) }}</p>
      <button class="plain" @click="sentTo = ''">{{ say('shop.other_address') }}</button>
    </template>
    <form v-else novalidate @submit.prevent="send">
      <p>{{ say('shop.about_link') }}</p>
      <label for="email">{{ say('shop.email') }}</label>
      <input id="email" v-model="email" type="email" autocomplete="email" required :aria-invalid="!!failure || undefined" />
      <button class="buy" :disabled="busy">{{ say('shop.send_link') }}</button>
    </form>
  </div>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 2px solid var(--shop-bark);
}
li {
  display: grid;
  grid-template-columns: 8rem 11rem 1fr auto;
  gap: 0.2rem 1rem;
  padding: 0.6rem 0;
  border-bottom: 1px solid var(--shop-rule);
}
label {
  display: block;
  font-weight: 600;
}
input {
  display: block;
  width: min(100%, 24rem);
  min-height: 2.6rem;
  padding: 0.45rem 0.65rem;
  font: inherit;
  border: 1.5px solid var(--shop-line);
  border-radius: 4px;
  margin: 0.2rem 0 1rem;
}
@media (max-width: 40rem) {
  li {
    grid-template-columns: 1fr auto;
  }
  .what {
    grid-column: 1;
  }
}
</style>
