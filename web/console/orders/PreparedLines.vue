<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed } from 'vue';
import { api, ask, type Schemas } from '../../shared/api/client';
import { useWork } from '../../shared/work';
import { inFull, timeOfDay } from '../parts/when';

// Staff say here which lines are prepared, and need to see which are and who said so: what waits for it goes then.
const { order } = defineProps<{ order: Schemas['OrderPageView'] }>();
const emit = defineEmits<{ said: [] }>();

const query = useQuery({
  queryKey: ['prepared', () => order.number],
  queryFn: () => ask(api.GET('/api/console/v1/orders/{number}/prepared', { params: { path: { number: order.number } } })),
  refetchInterval: 15_000,
});
const { failure, busy, run } = useWork();
const lines = computed(() => order.lines.map((line) => ({ line, said: query.data.value?.find((p) => p.line === line.id) })));

async function say(line: string, isPrepared: boolean): Promise<void> {
  const path = { params: { path: { number: order.number, line } } };
  await run(async () => {
    await ask(
      isPrepared
        ? api.PUT('/api/console/v1/orders/{number}/lines/{line}/prepared', path)
        : api.DELETE('/api/console/v1/orders/{number}/lines/{line}/prepared', path),
    );
  });
  await query.refetch();
  emit('said');
}
</script>

<template>
  <p v-if="query.data.value" class="small">
    Prepared:
    <span v-for="({ line, said }, i) in lines" :key="line.id">
      <template v-if="said"
        ><b>{{ line.name }}</b> <span class="soft" :title="inFull(said.at)">{{ timeOfDay(said.at) }}, {{ said.by }}</span
        >{{ ' '
        }}<button class="act" :disabled="busy" :aria-label="`${line.name} is not prepared after all`" @click="say(line.id, false)">
          not after all
        </button></template
      >
      <button v-else class="act" :disabled="busy" :aria-label="`${line.name} is prepared`" @click="say(line.id, true)">
        {{ line.name }}</button>{{ i < lines.length - 1 ? ' · ' : '' }}
    </span>
    <span v-if="failure" class="call" role="alert">{{ failure }}</span>
  </p>
</template>

<style scoped>
p {
  margin: 6px 0 0;
}
</style>
