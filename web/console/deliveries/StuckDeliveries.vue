<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import Select from 'primevue/select';
import { computed, ref } from 'vue';
import { api, ask, type Schemas } from '../../shared/api/client';
import { useWork } from '../../shared/work';
import MarkSign from '../parts/MarkSign.vue';
import type { SignKey } from '../parts/signs';
import { dayAndTime, inFull } from '../parts/when';
import { may } from '../session';
import NoteForm from '../parts/NoteForm.vue';

/** What needs attention, and what is uncertain, one by one. */
const { view } = defineProps<{ view: Schemas['DeliveriesView'] }>();
const emit = defineEmits<{ done: [] }>();

type Row = Schemas['StuckView'];
const chosen = ref<{ id: number; what: 'settle' | 'with' }>();
const to = ref<string>();
const { failure, busy, run } = useWork();
const people = useQuery({
  queryKey: ['deliveries', 'people'],
  queryFn: () => ask(api.GET('/api/console/v1/deliveries/people')),
  enabled: computed(() => may('deliver')),
});

const parts = computed(() =>
  [
    { name: 'Need attention', rows: view.stuck.filter((s) => s.state !== 'uncertain') },
    { name: 'Uncertain', rows: view.stuck.filter((s) => s.state === 'uncertain') },
  ].filter((p) => p.rows.length),
);
const hidden = computed(() => view.attention - view.stuck.filter((s) => s.state !== 'uncertain').length);
const signOf = (row: Row): SignKey => (row.slot ? 'torn_sheet' : row.state === 'uncertain' ? 'open_sheet' : 'raised_flag');

async function act(work: () => Promise<unknown>): Promise<void> {
  await run(work);
  if (!failure.value) chosen.value = undefined;
  emit('done');
}

const path = (row: Row) => ({ params: { path: { id: row.id } } });
const again = (row: Row) => act(() => ask(api.POST('/api/console/v1/deliveries/{id}/again', path(row))));
const settle = (row: Row, reason: string) =>
  act(() => ask(api.POST('/api/console/v1/deliveries/{id}/settle', { ...path(row), body: { reason } })));
const handOver = (row: Row, note: string) =>
  act(() => ask(api.PUT('/api/console/v1/deliveries/{id}/with', { ...path(row), body: { to: to.value ?? '', note } })));
</script>

<template>
  <p v-if="parts.length === 0" class="soft">Nothing needs attention.</p>
  <section v-for="part in parts" :key="part.name" :aria-label="part.name">
    <h2>{{ part.name }}</h2>
    <table class="ruled">
      <thead>
        <tr>
          <th></th>
          <th>Order</th>
          <th>Destination</th>
          <th>What happened</th>
          <th>Tries</th>
          <th>With</th>
          <th><span class="visually-hidden">What can be done</span></th>
        </tr>
      </thead>
      <tbody>
        <template v-for="row in part.rows" :key="row.id">
          <tr>
            <td><MarkSign :sign="signOf(row)" /></td>
            <td>
              <RouterLink :to="{ path: `/orders/${row.order}`, query: { destination: row.destination, slot: row.slot ?? undefined } }">{{
                row.order
              }}</RouterLink>
            </td>
            <td>
              {{ row.name }}
              <div v-if="row.line" class="soft small">{{ row.line }}</div>
            </td>
            <td>{{ row.reason }}</td>
            <td>
              {{ row.tries
              }}<template v-if="row.last_at"
                >, <span :title="inFull(row.last_at)">{{ dayAndTime(row.last_at) }}</span></template
              >
            </td>
            <td>
              <template v-if="row.with"
                >{{ row.with.name }}: “{{ row.with.note }}”
                <div class="soft small">from {{ row.with.by }}</div></template
              >
              <span v-else class="soft">nobody yet</span>
            </td>
            <td class="acts">
              <template v-if="may('deliver')">
                <template v-if="row.missing_code && may('register')"
                  ><RouterLink class="act" :to="`/fields/${row.destination}?by=destinations`">match it</RouterLink> ·
                </template>
                <template v-if="row.can_be_sent_again"
                  ><button class="act" :disabled="busy" @click="again(row)">send again</button> ·
                </template>
                <button class="act" @click="chosen = { id: row.id, what: 'with' }">hand over</button> ·
                <button class="act" @click="chosen = { id: row.id, what: 'settle' }">settle</button>
              </template>
            </td>
          </tr>
          <tr v-if="chosen?.id === row.id">
            <td colspan="7">
              <NoteForm
                v-if="chosen.what === 'settle'"
                label="Why nothing more is done about it"
                action="Settle it by hand"
                :failure="failure"
                :busy="busy"
                @say="settle(row, $event)"
                @cancel="chosen = undefined"
              />
              <NoteForm
                v-else
                label="what is to be done"
                action="Hand it over"
                :failure="failure"
                :busy="busy || !to"
                @say="handOver(row, $event)"
                @cancel="chosen = undefined"
                ><Select
                  v-model="to"
                  :options="people.data.value ?? []"
                  option-label="name"
                  option-value="id"
                  placeholder="to whom"
                  aria-label="To whom"
              /></NoteForm>
            </td>
          </tr>
        </template>
      </tbody>
    </table>
  </section>
  <p v-if="hidden > 0" class="soft">and {{ hidden }} older ones that need attention</p>
  <p v-if="failure && !chosen" class="call" role="alert">{{ failure }}</p>
</template>

<style scoped>
section {
  margin-top: 18px;
}
.acts {
  white-space: nowrap;
}
</style>
