<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import { api, ask, sentenceOf, type Schemas } from '../../shared/api/client';
import MadeLines from '../orders/MadeLines.vue';
import OrderPapers from '../orders/OrderPapers.vue';
import EvidencePanel from '../orders/EvidencePanel.vue';
import PreparedLines from '../orders/PreparedLines.vue';
import PriceRows from '../orders/PriceRows.vue';
import TrailTable from '../orders/TrailTable.vue';
import { dayAndTime, inFull } from '../parts/when';
import { may } from '../session';

// Staff decide here whether everything arrived as it was given, and need to see each answer beside its thread, and the evidence of any mark.
const { number } = defineProps<{ number: string }>();
const path = computed(() => ({ number: Number(number) }));
const adding = ref(false);
const chosen = ref<{ slot: string; destination: string }>();

const page = useQuery({
  queryKey: ['order', () => number],
  queryFn: () => ask(api.GET('/api/console/v1/orders/{number}', { params: { path: path.value } })),
  refetchOnWindowFocus: false,
});
// A page that nobody has opened yet is not on the way to anybody.
const isOnTheWay = (m: Schemas['MarkView']) => m.sign === 'open_sheet' && m.delivery !== null && m.delivery !== 'not_released';
// The page itself is one of the destinations: its trail is read after it was served.
const trail = useQuery({
  queryKey: ['trail', () => number],
  queryFn: () => ask(api.GET('/api/console/v1/orders/{number}/trail', { params: { path: path.value } })),
  enabled: computed(() => page.isSuccess.value),
  refetchInterval: (query) => (query.state.data?.answers.some((a) => a.marks.some(isOnTheWay)) ? 1_500 : 15_000),
});

// Whoever comes from a delivery sees its evidence: the answer that is not as sent, or the first that was to arrive there.
const route = useRoute();
let isOpened = false;
watch(
  () => trail.data.value,
  (read) => {
    const { destination, slot } = route.query;
    if (!read || isOpened || typeof destination !== 'string' || !may('covered')) return;
    isOpened = true;
    const arrives = (a: Schemas['TrailRow']) =>
      a.marks.some((m) => m.destination === destination && (m.expectation === 'verbatim' || m.expectation === 'adapted'));
    const row = read.answers.find((a) => a.slot === slot) ?? read.answers.find(arrives);
    if (row) chosen.value = { slot: row.slot, destination };
  },
  { immediate: true },
);

const order = computed(() => page.data.value);
const wrong = computed(() => {
  const marks =
    trail.data.value?.answers
      .flatMap((a) => a.marks)
      .filter((m) => (m.expectation === 'verbatim' || m.expectation === 'adapted') && (m.sign !== 'open_sheet' || isOnTheWay(m))) ?? [];
  const bad = marks.filter((m) => ['torn_sheet', 'dotted_outline', 'raised_flag'].includes(m.sign)).length;
  const open = marks.filter(isOnTheWay).length;
  const leftOut = trail.data.value?.answers.flatMap((a) => a.marks).filter((m) => m.expectation === 'left_out').length ?? 0;
  return { all: marks.length, bad, open, leftOut };
});
const waits = computed(
  () =>
    trail.data.value?.answers.flatMap((a) => a.marks).filter((m) => m.sign === 'open_sheet' && m.delivery === 'not_released').length ?? 0,
);
const textOf = (field: string) => order.value?.entries.find((e) => e.slot === `order/${field}`)?.text;
const numbered = computed(() => trail.data.value?.destinations.filter((d) => d.number) ?? []);
</script>

<template>
  <p v-if="page.error.value" class="plate call" role="alert">{{ sentenceOf(page.error.value) }}</p>
  <div v-else-if="order" class="order">
    <div class="plate">
      <div class="title-row">
        <h1>Order {{ order.number }}</h1>
        <span class="soft small"
          >placed <span :title="inFull(order.placed_at)">{{ dayAndTime(order.placed_at) }}</span> · paid · register version
          {{ order.version }}</span
        >
        <span class="push"></span>
        <b v-if="wrong.bad" class="call">{{ wrong.bad }} of {{ wrong.all }} arrivals not as expected</b>
        <span v-else-if="wrong.open" class="soft">{{ wrong.open }} of {{ wrong.all }} on the way</span>
        <span v-else-if="wrong.all && !wrong.leftOut" class="soft">all {{ wrong.all }} arrivals as expected</span>
        <span v-if="waits" class="soft">{{ waits === 1 ? '1 arrival waits' : `${waits} arrivals wait` }} for release</span>
        <span v-if="wrong.leftOut" class="soft"
          >{{ wrong.leftOut === 1 ? '1 arrival' : `${wrong.leftOut} arrivals` }} left out for want of room</span
        >
      </div>
      <dl class="facts">
        <div v-if="textOf('name')">
          <dt>Shopper</dt>
          <dd>{{ textOf('name') }}</dd>
        </div>
        <div v-if="textOf('delivery_address')">
          <dt>Goes to</dt>
          <dd>{{ textOf('delivery_address')?.replaceAll('\n', ', ') }}</dd>
        </div>
        <div v-if="textOf('invoice_address')">
          <dt>Invoice to</dt>
          <dd>{{ textOf('invoice_address')?.replaceAll('\n', ', ') }}</dd>
        </div>
        <div>
          <dt>Total</dt>
          <dd>
            {{ order.prices.total }}
            <button class="act small" :aria-expanded="adding" @click="adding = !adding">{{ adding ? 'less' : 'how it adds up' }}</button>
          </dd>
        </div>
        <div v-for="destination in numbered" :key="destination.key">
          <dt>{{ destination.name }} no.</dt>
          <dd>{{ destination.number }}</dd>
        </div>
      </dl>
      <PriceRows v-if="adding" :order="order" />
      <PreparedLines v-if="may('prepare')" :order="order" @said="trail.refetch()" />
      <OrderPapers v-if="may('papers')" :number="order.number" />
      <MadeLines :order="order" @said="trail.refetch()" />
      <TrailTable v-if="trail.data.value" v-model="chosen" :order="order" :trail="trail.data.value" @looked="trail.refetch()" />
    </div>
    <EvidencePanel
      v-if="chosen"
      :number="path.number"
      :slot-id="chosen.slot"
      :destination="chosen.destination"
      @close="chosen = undefined"
      @sent="trail.refetch()"
      @pick="chosen = { ...chosen, slot: $event }"
    />
  </div>
</template>

<style scoped>
.order {
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  height: 100%;
}
.facts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 26px;
  margin: 0;
  padding: 2px 0 8px;
  border-bottom: 1px solid var(--rule-strong);
}
dt {
  font-size: 12px;
  color: var(--ink-soft);
}
dd {
  margin: 0;
}
</style>
