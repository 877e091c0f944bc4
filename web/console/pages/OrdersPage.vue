<script setup lang="ts">
import { useInfiniteQuery, useQuery } from '@tanstack/vue-query';
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import Select from 'primevue/select';
import { computed, ref, watch } from 'vue';
import { api, ask, sentenceOf } from '../../shared/api/client';
import MarkSign from '../parts/MarkSign.vue';
import type { SignKey } from '../parts/signs';
import { dayAndTime, inFull } from '../parts/when';

// Staff decide here which order to look at, and need to see who bought what, and whether everything arrived; found by whatever of it is known.
// A list takes "" for nothing chosen.
const ALL = 'all';
const PAUSE = 300;
const wanting = [
  { key: ALL, name: 'all orders' },
  { key: 'attention', name: 'orders that need attention' },
  { key: 'arrival', name: 'orders that have not arrived everywhere' },
];
const typed = ref('');
const text = ref('');
const wants = ref(ALL);
let timer: ReturnType<typeof setTimeout> | undefined;
watch(typed, () => {
  clearTimeout(timer);
  timer = setTimeout(() => (text.value = typed.value.trim()), PAUSE);
});

const field = ref(ALL);
const fields = useQuery({ queryKey: ['orders', 'fields'], queryFn: () => ask(api.GET('/api/console/v1/orders/fields')) });
const among = computed(() => [
  { key: ALL, name: 'in any answer' },
  ...(fields.data.value ?? []).map(({ key, name }) => ({ key, name: `in “${name}”` })),
]);

const search = computed(() => ({
  Text: text.value || undefined,
  Field: text.value && field.value !== ALL ? field.value : undefined,
  Wants: wants.value === ALL ? undefined : wants.value,
}));
const query = useInfiniteQuery({
  queryKey: ['orders', search],
  queryFn: ({ pageParam }) => ask(api.GET('/api/console/v1/orders', { params: { query: { ...search.value, before: pageParam } } })),
  initialPageParam: undefined as number | undefined,
  getNextPageParam: (page) => (page.more ? page.orders.at(-1)?.number : undefined),
  refetchInterval: 5_000,
  retry: false,
});
const orders = computed(() => query.data.value?.pages.flatMap((p) => p.orders) ?? []);
const file = computed(() => {
  const wanted = Object.entries(search.value).filter((pair): pair is [string, string] => !!pair[1]);
  return `/api/console/v1/orders/file?${new URLSearchParams(wanted)}`;
});

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
      <span class="push"></span>
      <label class="search">
        <span class="visually-hidden">Find orders</span>
        <InputText v-model="typed" type="search" placeholder="number, code or 3 letters of an answer" />
      </label>
      <Select
        v-model="field"
        class="words"
        :options="among"
        option-label="name"
        option-value="key"
        :filter="among.length > 12"
        aria-label="Where it is looked for"
      />
      <Select v-model="wants" class="words" :options="wanting" option-label="name" option-value="key" aria-label="Which orders are shown" />
      <a class="act small" :href="file" download>take them out as CSV</a>
    </div>
    <p v-if="query.error.value" class="call" role="alert">{{ sentenceOf(query.error.value) }}</p>
    <p v-else-if="query.isSuccess.value && orders.length === 0 && (text || wants !== ALL)" role="status">
      No order has that.
      <button class="act" @click="((typed = ''), (text = ''), (wants = ALL))">show all</button>
    </p>
    <p v-else-if="query.isSuccess.value && orders.length === 0">
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
.search .p-inputtext {
  width: 320px;
}
</style>
