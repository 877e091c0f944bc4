<script setup lang="ts">
import { ref } from 'vue';
import { api, ask, type Schemas } from '../../shared/api/client';
import { useWork } from '../../shared/work';
import { dayAndTime, inFull, seconds, since, timeOfDay } from '../parts/when';
import { may } from '../session';
import NoteForm from '../parts/NoteForm.vue';

/** How deliveries stand, destination by destination. */
const { view, times } = defineProps<{ view: Schemas['DeliveriesView']; times: Schemas['DeliveryTimeView'][] }>();
const emit = defineEmits<{ done: [] }>();

type Row = Schemas['DestinationStateView'];
const MARKS = 15;
const pausing = ref('');
const { failure, busy, run } = useWork();
const timeOf = (row: Row) => times.find((t) => t.destination === row.key);
const inNext = (iso: string) => {
  const left = (Date.parse(iso) - Date.parse(view.at)) / 1000;
  return left <= 0 ? 'now' : `in ${seconds(left)}`;
};

async function act(work: () => Promise<unknown>): Promise<void> {
  await run(work);
  emit('done');
}

const path = (row: Row) => ({ params: { path: { key: row.key } } });
const tryNow = (row: Row) => act(() => ask(api.POST('/api/console/v1/deliveries/destinations/{key}/again', path(row))));
const resume = (row: Row) => act(() => ask(api.DELETE('/api/console/v1/deliveries/destinations/{key}/pause', path(row))));

async function pause(key: string, reason: string): Promise<void> {
  await act(() => ask(api.PUT('/api/console/v1/deliveries/destinations/{key}/pause', { params: { path: { key } }, body: { reason } })));
  if (!failure.value) pausing.value = '';
}
</script>

<template>
  <table class="ruled">
    <thead>
      <tr>
        <th>Destination</th>
        <th>State</th>
        <th>Waiting</th>
        <th class="number">Oldest</th>
        <th class="number">Taken, last hour</th>
        <th class="number">Seven days: half within, slowest</th>
        <th>Next try</th>
        <th><span class="visually-hidden">What can be done</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in view.destinations" :key="row.key">
        <td>
          <b>{{ row.name }}</b>
          <div class="soft small">{{ row.answering.length ? row.answering.join(', ') : 'every manager' }} answers for it</div>
        </td>
        <td>
          <template v-if="row.paused"
            >paused by {{ row.paused.by }}, <span :title="inFull(row.paused.at)">{{ dayAndTime(row.paused.at) }}</span>: “{{
              row.paused.note
            }}”</template
          >
          <span v-else-if="row.failing_since" class="call"
            ><b
              >not taking since <span :title="inFull(row.failing_since)">{{ timeOfDay(row.failing_since) }}</span></b
            >, {{ row.tries === 1 ? '1 try' : `${row.tries} tries` }}, last: {{ row.reason }}</span
          >
          <template v-else-if="row.switched_off">switched off</template>
          <template v-else>taking</template>
          <div v-if="row.attention" class="call small">
            {{ row.attention === 1 ? '1 needs' : `${row.attention} need` }} attention<template v-if="may('deliver') && row.attention > 1"
              >;
              <button class="act" :disabled="busy" :aria-label="`Send again all that needs attention at ${row.name}`" @click="tryNow(row)">
                send all again
              </button></template
            >
          </div>
        </td>
        <td>
          <span v-if="row.waiting" class="waiting"
            ><i v-for="n in Math.min(row.waiting, MARKS)" :key="n" aria-hidden="true"></i> {{ row.waiting }}</span
          >
          <span v-else class="soft">none</span>
          <div v-if="row.not_released" class="soft small">{{ row.not_released }} not released yet</div>
        </td>
        <td class="number">{{ row.oldest ? since(row.oldest, view.at) : '' }}</td>
        <td class="number">{{ row.sent_last_hour }}</td>
        <td class="number">
          <template v-if="timeOf(row)">{{ seconds(timeOf(row)!.median_seconds) }}, {{ seconds(timeOf(row)!.slowest_seconds) }}</template>
        </td>
        <td>
          <span v-if="row.next_try_at && !row.paused" :title="inFull(row.next_try_at)">{{ inNext(row.next_try_at) }}</span>
        </td>
        <td class="acts">
          <template v-if="may('deliver')">
            <template v-if="row.failing_since && !row.paused"
              ><button class="act" :disabled="busy" :aria-label="`Try ${row.name} now`" @click="tryNow(row)">try now</button> ·
            </template>
            <button v-if="row.paused" class="act" :disabled="busy" :aria-label="`Resume ${row.name}`" @click="resume(row)">resume</button>
            <button v-else class="act" :aria-label="`Pause ${row.name}`" @click="pausing = row.key">pause</button>
          </template>
        </td>
      </tr>
    </tbody>
  </table>
  <NoteForm
    v-if="pausing"
    :label="`Why nothing is sent to ${view.destinations.find((d) => d.key === pausing)?.name} for now`"
    action="Pause it"
    :failure="failure"
    :busy="busy"
    @say="pause(pausing, $event)"
    @cancel="pausing = ''"
  />
  <p v-else-if="failure" class="call" role="alert">{{ failure }}</p>
</template>

<style scoped>
.waiting {
  display: inline-flex;
  gap: 2px;
  align-items: center;
}
.waiting i {
  width: 5px;
  height: 10px;
  border: 1px solid var(--ink);
  background: var(--sheet);
}
.acts {
  white-space: nowrap;
}
</style>
