<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import InputText from 'primevue/inputtext';
import { computed, ref, useTemplateRef } from 'vue';
import { api, ask, changingHeaders } from '../../shared/api/client';
import { useWork } from '../../shared/work';
import type { DraftDestination } from './draft';
import { codesRevision } from './itemCodes';
import CommitInput from '../parts/CommitInput.vue';

/** What a destination calls the items of the shop: a table that is remembered, and what waits for a match in it. */
const { item } = defineProps<{ item: DraftDestination }>();

const path = computed(() => ({ params: { path: { key: item.key } } }));
const address = computed(() => `/api/console/v1/destinations/${item.key}/codes/file`);
const query = useQuery({
  queryKey: ['codes', () => item.key],
  queryFn: () => ask(api.GET('/api/console/v1/destinations/{key}/codes', path.value)),
  refetchInterval: 15_000,
});
const { failure, busy, run } = useWork();
const said = ref('');
const ours = ref('');
const theirs = ref('');
const file = useTemplateRef<HTMLInputElement>('file');

async function set(code: { item: string; code: string }): Promise<boolean> {
  said.value = '';
  const count = await run(() => ask(api.PUT('/api/console/v1/destinations/{key}/codes', { ...path.value, body: code })));
  codesRevision.value++;
  await query.refetch();
  if (count?.going) said.value = count.going === 1 ? '1 delivery goes now.' : `${count.going} deliveries go now.`;
  return !!count;
}

async function add(): Promise<void> {
  if (await set({ item: ours.value, code: theirs.value })) ours.value = theirs.value = '';
}

async function takeIn(): Promise<void> {
  const chosen = file.value?.files?.[0];
  if (!chosen) return;
  said.value = '';
  const count = await run(async () =>
    ask(
      api.POST('/api/console/v1/destinations/{key}/codes/file', {
        ...path.value,
        body: (await chosen.text()) as never,
        bodySerializer: (text: unknown) => text as string,
        headers: { 'content-type': 'text/csv', ...(await changingHeaders()) },
      }),
    ),
  );
  if (file.value) file.value.value = '';
  codesRevision.value++;
  await query.refetch();
  if (count) said.value = `${count.added} new, ${count.changed} changed, ${count.removed} taken out; ${count.going} deliveries go now.`;
}
</script>

<template>
  <dd v-if="query.data.value">
    <p v-for="missing in query.data.value.missing" :key="missing.item" class="call wait">
      No code for <b class="mono">{{ missing.item }}</b>: order {{ missing.orders.slice(0, 5).join(', ')
      }}{{ missing.orders.length > 5 ? ` and ${missing.orders.length - 5} more` : '' }}
      {{ missing.orders.length === 1 ? 'waits' : 'wait' }} for it.
      <button class="act" @click="ours = missing.item">match it</button>
    </p>
    <table v-if="query.data.value.codes.length" class="ruled">
      <tbody>
        <tr v-for="code in query.data.value.codes" :key="code.item">
          <td class="mono">{{ code.item }}</td>
          <td class="mono">
            <CommitInput :value="code.code" :label="`The code there for ${code.item}`" @save="set({ item: code.item, code: $event })" />
          </td>
        </tr>
      </tbody>
    </table>
    <form class="match" @submit.prevent="add()">
      <InputText v-model="ours" class="mono" placeholder="our item code" aria-label="Our item code" />
      <span aria-hidden="true">→</span>
      <InputText v-model="theirs" class="mono" placeholder="their code" aria-label="Their code" />
      <button class="act" :disabled="busy || !ours.trim() || !theirs.trim()">match</button>
    </form>
    <p class="small">
      <a class="act" :href="address" download>take it out as CSV</a> ·
      <label class="act"
        >take one in<input ref="file" type="file" accept=".csv,text/csv" class="visually-hidden" @change="takeIn()"
      /></label>
      <span v-if="said" role="status"> {{ said }}</span>
    </p>
    <p v-if="failure" class="call" role="alert">{{ failure }}</p>
  </dd>
</template>

<style scoped>
.match {
  display: flex;
  gap: 8px;
  align-items: baseline;
  margin-top: 6px;
}
.match .p-inputtext {
  flex: 1;
  min-width: 0;
  font-size: 13px;
}
.wait {
  margin: 0 0 4px;
}
</style>
