<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import Button from 'primevue/button';
import { computed, ref } from 'vue';
import { api, ask, sentenceOf, type Schemas } from '../../shared/api/client';
import { useWork } from '../../shared/work';
import { dayOf } from '../parts/when';

// Whoever packs and stamps decides here what of a day is printed in one go, and needs to see how many papers of each kind there are, which are still to come,
// and how far the file is.
const today = (): string => new Intl.DateTimeFormat('sv').format(new Date());
const day = ref(today());
const { failure, busy, run } = useWork();
const bound = ref<{ of: string; view: Schemas['BoundPapersView'] }>();

const isDay = computed(() => /^\d{4}-\d{2}-\d{2}$/.test(day.value));
const query = useQuery({
  queryKey: ['papers of a day', day],
  queryFn: () => ask(api.GET('/api/console/v1/papers/days/{day}', { params: { path: { day: day.value } } })),
  enabled: isDay,
  refetchInterval: 5_000,
});
const isUnderWay = computed(() => !!bound.value && !bound.value.view.is_made && !bound.value.view.failed);
const fileOf = (id: string): string => `/api/console/v1/papers/bound/${id}/file`;

/** How far the file is, in words. */
function progress(view: Schemas['BoundPapersView']): string {
  if (view.failed) return view.failed;
  if (view.is_made) return view.count === 1 ? '1 paper is bound.' : `${view.count} papers are bound.`;
  return `${view.done} of ${view.count} …`;
}

const bindWords = (count: number): string => (count === 1 ? 'Bind 1' : `Bind all ${count}`);

async function bind(of: string): Promise<void> {
  const view = await run(() => ask(api.POST('/api/console/v1/papers/bound', { body: { destination: of, day: day.value } })));
  if (!view) return;
  bound.value = { of, view };
  while (isUnderWay.value && bound.value.view.id === view.id) {
    await new Promise((resolve) => setTimeout(resolve, 400));
    const now = await run(() => ask(api.GET('/api/console/v1/papers/bound/{id}', { params: { path: { id: view.id } } })));
    if (!now) return;
    bound.value = { of, view: now };
  }
}

function choose(value: string): void {
  day.value = value;
  bound.value = undefined;
}
</script>

<template>
  <div class="plate">
    <div class="title-row">
      <h1>Papers</h1>
      <label class="small"
        >printed on <input type="date" :value="day" :max="today()" @change="choose(($event.target as HTMLInputElement).value)"
      /></label>
    </div>
    <p v-if="query.error.value" class="call" role="alert">{{ sentenceOf(query.error.value) }}</p>
    <p v-if="failure" class="call" role="alert">{{ failure }}</p>
    <p v-if="query.data.value?.length === 0">Nothing is printed in this shop yet: a manager makes papers among the destinations.</p>
    <table v-if="query.data.value?.length" class="ruled" :aria-label="`Papers of ${isDay ? dayOf(day) : ''}`">
      <thead>
        <tr>
          <th scope="col">Paper</th>
          <th scope="col" class="figure">Printed</th>
          <th scope="col" class="figure">To come</th>
          <th scope="col">All of them as one file</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="paper in query.data.value" :key="paper.destination">
          <th scope="row">{{ paper.name }}</th>
          <td class="figure">{{ paper.printed || 'none' }}</td>
          <td class="figure" :class="{ soft: !paper.waiting }">{{ paper.waiting || 'none' }}</td>
          <td>
            <template v-if="bound?.of === paper.destination">
              <span role="status" :class="{ call: bound.view.failed }">{{ progress(bound.view) }}</span>
              <progress v-if="isUnderWay" :max="bound.view.count" :value="bound.view.done" aria-hidden="true"></progress>
              {{ ' ' }}
              <a v-if="bound.view.is_made" :href="fileOf(bound.view.id)" target="_blank" rel="noopener">Open the file</a>
            </template>
            <Button
              v-else-if="paper.printed"
              class="button"
              :disabled="busy || isUnderWay"
              :aria-label="`${bindWords(paper.printed)} of ${paper.name}`"
              @click="bind(paper.destination)"
              >{{ bindWords(paper.printed) }}</Button
            >
          </td>
        </tr>
      </tbody>
    </table>
    <p class="small soft">A file is there for an hour, and for whoever asked for it. Each paper stands in it as it was printed.</p>
  </div>
</template>

<style scoped>
.title-row label {
  align-self: center;
}
.title-row input {
  font: inherit;
  color: var(--ink);
  background: transparent;
  border: 0;
  border-bottom: 1px solid var(--ink);
  min-height: 28px;
  color-scheme: light dark;
}
.ruled {
  max-width: 860px;
}
.ruled tbody th {
  font-weight: 600;
  color: var(--ink);
  font-size: var(--size);
  border-bottom: 1px solid var(--rule);
}
.figure {
  text-align: right;
  width: 90px;
}
.ruled td:last-child,
.ruled th:last-child {
  padding-left: 40px;
  height: 46px;
}
progress {
  width: 120px;
  height: 8px;
  margin-left: 8px;
  accent-color: var(--brass);
}
</style>
