<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { api, ask, type Schemas } from '../../shared/api/client';
import { useWork } from '../../shared/work';
import CommitInput from '../parts/CommitInput.vue';

/** With which number invoices and credit notes begin; once one was taken they count up by themselves, and it is said how far they are. */
type Kind = Schemas['InvoiceDocumentKind'];
const ADDRESS = '/api/console/v1/shop/invoice-numbers';
const client = useQueryClient();
const query = useQuery({ queryKey: ['shop', 'invoice-numbers'], queryFn: () => ask(api.GET(ADDRESS)) });
const { failure, run } = useWork();
const names: Record<Kind, string> = { invoice: 'invoice', credit_note: 'credit note' };

async function begin(kind: Kind, typed: string): Promise<void> {
  const first = /^\d{1,15}$/.test(typed) ? Number(typed) : 0;
  await run(() => ask(api.PUT(ADDRESS, { body: { kind, first } })));
  await client.invalidateQueries({ queryKey: ['shop'] });
}
</script>

<template>
  <p v-if="query.data.value" class="numbers">
    <span v-for="(n, i) in query.data.value" :key="n.kind"
      >{{ i === 0 ? 'The' : ', and the' }} {{ n.has_begun ? 'next' : 'first' }} {{ names[n.kind] }} has the number
      <template v-if="n.has_begun">{{ n.next }}</template><CommitInput
        v-else
        :value="String(n.next)"
        :label="`Number of the first ${names[n.kind]}`"
        numeric
        @save="begin(n.kind, $event)" /></span
    >. They count up from there without a gap.
  </p>
  <p v-if="failure" class="call" role="alert">{{ failure }}</p>
</template>

<style scoped>
.numbers {
  margin: 4px 0;
}
</style>
