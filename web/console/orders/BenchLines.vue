<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed, watch } from 'vue';
import { api, ask, type Schemas } from '../../shared/api/client';
import FileList from '../../shared/FileList.vue';

/** What a workbench in the house has of an order: its lines stand here, and are shown here. */
const { order, bench } = defineProps<{ order: Schemas['OrderPageView']; bench: Schemas['MakerView'] }>();
const emit = defineEmits<{ shown: [] }>();

const query = useQuery({
  queryKey: ['bench', () => order.number, () => bench.key],
  queryFn: () =>
    ask(api.GET('/api/console/v1/orders/{number}/benches/{bench}', { params: { path: { number: order.number, bench: bench.key } } })),
  refetchOnWindowFocus: false,
});
watch(query.data, () => emit('shown'));
const nameOf = (entry: Schemas['EntryView']) => {
  const line = order.lines.find((l) => l.id === entry.line_id);
  return line?.units.find((u) => u.id === entry.unit_id)?.name ?? line?.name ?? 'the order';
};
const groups = computed(() => {
  const found = new Map<string, Schemas['EntryView'][]>();
  for (const entry of query.data.value?.entries ?? []) found.set(nameOf(entry), [...(found.get(nameOf(entry)) ?? []), entry]);
  return [...found];
});
</script>

<template>
  <section v-if="query.data.value" class="bench" :aria-label="bench.name">
    <h2>{{ bench.name }}</h2>
    <p v-if="groups.length === 0" class="small soft">No answer goes there.</p>
    <div v-for="[about, entries] in groups" :key="about">
      <b class="small">{{ about }}</b>
      <dl>
        <div v-for="entry in entries" :key="entry.slot">
          <dt>{{ entry.name }}</dt>
          <dd>
            <FileList v-if="entry.files?.length" :files="entry.files" /><template v-else>{{ entry.text }}</template>
          </dd>
        </div>
      </dl>
    </div>
  </section>
</template>

<style scoped>
.bench {
  border-top: 1px solid var(--rule-strong);
  margin-top: 8px;
  padding-top: 6px;
}
h2 {
  margin: 0;
  font: 600 15px var(--title);
}
dl {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 26px;
  margin: 0 0 4px;
}
dt {
  font-size: 12px;
  color: var(--ink-soft);
}
dd {
  margin: 0;
  white-space: pre-line;
}
</style>
