<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { api, ask, sentenceOf, type Schemas } from '../../shared/api/client';
import { dayOf, inFull, timeOfDay } from '../parts/when';

/** What is printed of an order: whoever prepares it opens here what is ready, and sees what each other paper waits for. */
const { number } = defineProps<{ number: number }>();

const query = useQuery({
  queryKey: ['papers', () => number],
  queryFn: () => ask(api.GET('/api/console/v1/orders/{number}/papers', { params: { path: { number } } })),
  refetchInterval: 3_000,
});
const issued = useQuery({
  queryKey: ['papers', 'invoices', () => number],
  queryFn: () => ask(api.GET('/api/console/v1/orders/{number}/invoices', { params: { path: { number } } })),
  refetchInterval: 3_000,
});
const papers = computed(() => query.data.value ?? []);
// Of thirty tickets the first are shown, and whichever is stuck: what became of the answers stands below them.
const FEW = 8;
const all = ref(false);
const shown = computed(() =>
  papers.value.filter((p, i) => all.value || papers.value.length <= FEW + 1 || i < FEW || p.state === 'needs_attention'),
);
const invoices = computed(() => issued.data.value ?? []);
const failed = computed(() => query.error.value ?? issued.error.value);

const nameOf = (invoice: Schemas['InvoiceView']) => `${invoice.kind === 'credit_note' ? 'Credit note' : 'Invoice'} ${invoice.number}`;
function becameOf(invoice: Schemas['InvoiceView']): string {
  if (invoice.credits) return `takes back invoice ${invoice.credits}`;
  return invoice.credited_by ? `taken back by credit note ${invoice.credited_by}` : '';
}

function waitsFor(paper: Schemas['PaperView']): string {
  if (paper.state === 'needs_attention') return 'stopped: its marks below say why';
  if (paper.state === 'not_released') return paper.next_try_at ? 'waits for its day' : 'waits until its lines are prepared';
  return paper.printed_at ? 'no longer kept' : 'is being printed';
}
</script>

<template>
  <section v-if="papers.length || invoices.length || failed" aria-label="Papers">
    <h2>Papers</h2>
    <p v-if="failed" class="call" role="alert">{{ sentenceOf(failed) }}</p>
    <ul>
      <li v-for="invoice in invoices" :key="invoice.id">
        <a
          class="act"
          :href="`/api/console/v1/orders/${number}/invoices/${invoice.id}`"
          target="_blank"
          rel="noopener"
          :aria-label="`Open ${nameOf(invoice)}`"
          >{{ nameOf(invoice) }}</a
        >
        <span>{{ invoice.total }}</span>
        <span class="small soft">issued {{ dayOf(invoice.issued_on) }}{{ becameOf(invoice) && `, ${becameOf(invoice)}` }}</span>
        <a class="act small" :href="`/api/console/v1/orders/${number}/invoices/${invoice.id}/xml`" :aria-label="`${nameOf(invoice)} as XML`"
          >XML</a
        >
      </li>
      <li v-for="paper in shown" :key="paper.id">
        <a
          v-if="paper.can_be_opened"
          class="act"
          :href="`/api/console/v1/orders/${number}/papers/${paper.id}`"
          target="_blank"
          rel="noopener"
          :aria-label="`Open ${paper.name}${paper.called && `, ${paper.called}`}`"
          >{{ paper.name }}</a><b v-else>{{ paper.name }}</b
        >{{ ' ' }}<span v-if="paper.called" class="soft">{{ paper.called }} </span
        ><span v-if="paper.can_be_opened && paper.printed_at" class="small soft" :title="inFull(paper.printed_at)"
          >printed {{ timeOfDay(paper.printed_at) }}</span
        ><span v-else class="small soft" :class="{ call: paper.state === 'needs_attention' }">{{ waitsFor(paper) }}</span>
      </li>
      <li v-if="all || shown.length < papers.length">
        <button class="act" :aria-expanded="all" @click="all = !all">{{ all ? 'fewer' : `${papers.length - shown.length} more` }}</button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
section {
  border-top: 1px solid var(--rule-strong);
  margin-top: 8px;
  padding-top: 6px;
}
h2 {
  margin: 0;
  font: 600 15px var(--title);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  columns: 2 320px;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 0 8px;
  align-items: baseline;
  break-inside: avoid;
  min-height: 26px;
}
</style>
