<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { api, ask, sentenceOf, type Schemas } from '../../shared/api/client';
import OrderSheet from '../parts/OrderSheet.vue';

const { token } = defineProps<{ token: string }>();
const order = ref<Schemas['OrderPageView']>();
const failure = ref('');

const placed = computed(
  () =>
    order.value && new Intl.DateTimeFormat(undefined, { dateStyle: 'long', timeStyle: 'short' }).format(new Date(order.value.placed_at)),
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
      <h1>We have your order {{ order.number }}</h1>
      <p class="soft">Placed {{ placed }}. A confirmation is on its way to you by e-mail.</p>
      <OrderSheet :order="order" />
    </template>
  </div>
</template>
