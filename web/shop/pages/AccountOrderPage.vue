<script setup lang="ts">
import { onMounted, ref } from 'vue';
import { api, ask, type Schemas } from '../../shared/api/client';
import { useWork } from '../../shared/work';
import OrderSheet from '../parts/OrderSheet.vue';
import { say } from '../../shared/wording';

const { number } = defineProps<{ number: string }>();
const order = ref<Schemas['OrderPageView']>();
const invoices = ref<Schemas['InvoiceView'][]>([]);
const { failure, run } = useWork();

onMounted(async () => {
  const params = { path: { number: Number(number) } };
  order.value = await run(() => ask(api.GET('/api/shop/v1/account/orders/{number}', { params })));
  if (order.value) invoices.value = (await run(() => ask(api.GET('/api/shop/v1/account/orders/{number}/invoices', { params })))) ?? [];
});
</script>

<template>
  <div class="sheet narrow">
    <p>
      <RouterLink to="/account">{{ say('shop.all_orders') }}</RouterLink>
    </p>
    <p v-if="failure" class="problem" role="alert">{{ failure }}</p>
    <template v-if="order">
      <h1>{{ say('shop.order', order.number) }}</h1>
      <OrderSheet :order="order" />
      <p v-for="invoice in invoices" :key="invoice.id">
        <a :href="`/api/shop/v1/account/orders/${order.number}/invoices/${invoice.id}`">{{
          say(invoice.kind === 'credit_note' ? 'shop.credit_note' : 'shop.invoice', invoice.number)
        }}</a>, {{ invoice.total }}
      </p>
    </template>
  </div>
</template>
