<script setup lang="ts">
import { onMounted, ref } from 'vue';
import { api, ask, type Schemas } from '../../shared/api/client';
import { useWork } from '../../shared/work';
import OrderSheet from '../parts/OrderSheet.vue';

const { number } = defineProps<{ number: string }>();
const order = ref<Schemas['OrderPageView']>();
const { failure, run } = useWork();

onMounted(async () => {
  order.value = await run(() => ask(api.GET('/api/shop/v1/account/orders/{number}', { params: { path: { number: Number(number) } } })));
});
</script>

<template>
  <div class="sheet narrow">
    <p><RouterLink to="/account">All your orders</RouterLink></p>
    <p v-if="failure" class="problem" role="alert">{{ failure }}</p>
    <template v-if="order">
      <h1>Order {{ order.number }}</h1>
      <OrderSheet :order="order" />
    </template>
  </div>
</template>
