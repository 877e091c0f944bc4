<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { api, ask, sentenceOf, type Schemas } from '../../shared/api/client';
import OrderSheet from '../parts/OrderSheet.vue';
import { locale, say } from '../../shared/wording';

const { token } = defineProps<{ token: string }>();
const order = ref<Schemas['OrderPageView']>();
const failure = ref('');

const placed = computed(
  () => order.value && new Intl.DateTimeFormat(locale(), { dateStyle: 'long', timeStyle: 'short' }).format(new Date(order.value.placed_at)),
);

watch(
  () => token,
  async () => {
    try {
      order.value = await ask(api.GET('/api/shop/v1/orders/{token}', { params: { path: { token } } }));
    } catch (error) {
      failure.value = sentenceOf(error);
    }
  },
  { immediate: true },
);
</script>

<template>
  <div class="sheet narrow">
    <p v-if="failure" class="problem" role="alert">{{ failure }}</p>
    <template v-if="order">
      <h1>{{ say('shop.have_your_order', order.number) }}</h1>
      <p class="soft">{{ say('shop.placed', placed) }}</p>
      <OrderSheet :order="order" />
    </template>
  </div>
</template>
