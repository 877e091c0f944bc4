<script setup lang="ts">
import { useInfiniteQuery } from '@tanstack/vue-query';
import Button from 'primevue/button';
import { computed } from 'vue';
import { api, ask, sentenceOf } from '../../shared/api/client';
import MarkSign from '../parts/MarkSign.vue';
import type { SignKey } from '../parts/signs';
import { dayAndTime, inFull } from '../parts/when';

// Staff decide here which order to look at, and need to see who bought what, and whether everything arrived.
const query = useInfiniteQuery({
  queryKey: ['orders'],
  queryFn: ({ pageParam }) => ask(api.GET('/api/console/v1/orders', { params: { query: { before: pageParam } } })),
  initialPageParam: undefined as number | undefined,
  getNextPageParam: (page) => (page.more ? page.orders.at(-1)?.number : undefined),
  refetchInterval: 5_000,
});
const orders = computed(() => query.data.value?.pages.flatMap((p) => p.orders) ?? []);

type Order = (typeof orders.value)[number];

function arrival(order: Order): { sign: SignKey; words: string } {
  if (order.wrong > 0) return { sign: 'torn_sheet', words: `${order.wrong} altered or missing` };
  if (order.wants > 0) return { sign: 'raised_flag', words: order.wants === 1 ? '1 needs attention' : `${order.wants} need attention` };
  if (order.open > 0) return { sign: 'open_sheet', words: `${order.open} on the way` };
  return { sign: 'sealed_sheet', words: 'all arrived' };
}
</script>

<template>
  <div class="plate">
    <div class="title-row">
      <h1>Orders</h1>
      <span class="soft small">the newest first</span>
    </div>
    <p v-if="query.error.value" class="call" role="alert">{{ sentenceOf(query.error.value) }}</p>
    <p v-if="query.isSuccess.value && orders.length === 0">
      No orders yet. Buy something in <a href="/" target="_blank" rel="noopener">the shop</a>, and it stands here.
    </p>
    <table v-if="orders.length" class="ruled">
      <thead>
        <tr>
          <th>Order</th>
          <th>Placed</th>
          <th>Shopper</th>
          <th>What</th>
          <th class="number">Total</th>
          <th>Arrivals</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="order in orders" :key="order.number">
          <td>
            <RouterLink :to="`/orders/${order.number}`">{{ order.number }}</RouterLink>
          </td>
          <td :title="inFull(order.placed_at)">{{ dayAndTime(order.placed_at) }}</td>
          <td>{{ order.shopper }}</td>
          <td class="soft">{{ order.lines }}</td>
          <td class="number">{{ order.total }}</td>
          <td>
            <span class="arrival" :class="{ call: order.wrong || order.wants }"
              ><MarkSign :sign="arrival(order).sign" /> {{ arrival(order).words }}</span
            >
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="query.hasNextPage.value"><Button class="button" @click="query.fetchNextPage()">Show older orders</Button></p>
  </div>
</template>

<style scoped>
.arrival {
  display: inline-flex;
  gap: 5px;
  align-items: center;
}
</style>
