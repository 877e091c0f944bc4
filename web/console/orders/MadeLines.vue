<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import Select from 'primevue/select';
import { computed, ref } from 'vue';
import { api, ask, ApiError, type Schemas } from '../../shared/api/client';
import { useWork } from '../../shared/work';
import { may } from '../session';
import BenchLines from './BenchLines.vue';

// Staff decide here who makes which line, and need to see who has it now, and whether somebody gave it there by hand.
const { order } = defineProps<{ order: Schemas['OrderPageView'] }>();
const emit = defineEmits<{ said: [] }>();

const BY_CONDITION = 'by_condition';
const path = computed(() => ({ params: { path: { number: order.number } } }));
const query = useQuery({
  queryKey: ['makers', () => order.number],
  queryFn: () => ask(api.GET('/api/console/v1/orders/{number}/makers', path.value)),
  refetchInterval: 15_000,
});
const { failure, busy, run } = useWork();
const taken = ref<{ line: string; maker: string; sentence: string }>();
const makers = computed(() => query.data.value?.makers ?? []);
const choices = computed(() => [{ key: BY_CONDITION, name: 'whoever the conditions say' }, ...makers.value]);
const lines = computed(() => order.lines.map((line) => ({ line, made: query.data.value?.lines.find((m) => m.line === line.id) })));
const benches = computed(() => makers.value.filter((m) => m.in_the_house && query.data.value?.lines.some((l) => l.maker === m.key)));
const nameOf = (key: string | null | undefined) => makers.value.find((m) => m.key === key)?.name;

async function give(line: string, maker: string, calledOff = false): Promise<void> {
  taken.value = undefined;
  const to = { number: order.number, line };
  await run(async () => {
    try {
      await ask(
        maker === BY_CONDITION
          ? api.DELETE('/api/console/v1/orders/{number}/lines/{line}/maker', { params: { path: to, query: { calledOff } } })
          : api.PUT('/api/console/v1/orders/{number}/lines/{line}/maker', { params: { path: to }, body: { maker, called_off: calledOff } }),
      );
    } catch (error) {
      if (!(error instanceof ApiError) || error.problem.code !== 'taken_there') throw error;
      taken.value = { line, maker, sentence: error.problem.detail };
    }
  });
  await query.refetch();
  emit('said');
}
</script>

<template>
  <template v-if="makers.length">
    <p class="small made">
      Made by:
      <span v-for="{ line, made } in lines" :key="line.id" class="line">
        <b>{{ line.name }}</b>:
        <Select
          v-if="may('deliver')"
          class="words"
          :model-value="made?.given_by ? (made.maker ?? BY_CONDITION) : BY_CONDITION"
          :options="choices"
          option-label="name"
          option-value="key"
          :disabled="busy"
          :aria-label="`Who makes ${line.name}`"
          @update:model-value="give(line.id, $event)"
          ><template #value>{{ nameOf(made?.maker) ?? 'nobody' }}</template></Select
        >
        <template v-else>{{ nameOf(made?.maker) ?? 'nobody' }}</template>
        <span v-if="made?.receipt" class="mono soft"> {{ made.receipt }}</span>
        <span v-if="made?.given_by" class="soft"> given by {{ made.given_by }}</span>
      </span>
      <span v-if="failure" class="call" role="alert">{{ failure }}</span>
    </p>
    <p v-if="taken" class="small call" role="alert">
      {{ taken.sentence }}
      <button class="act" :disabled="busy" @click="give(taken.line, taken.maker, true)">they were told, give it</button>
      <button class="act" @click="taken = undefined">leave it there</button>
    </p>
    <BenchLines v-for="bench in benches" :key="bench.key" :order="order" :bench="bench" @shown="emit('said')" />
  </template>
</template>

<style scoped>
.line {
  display: inline-flex;
  gap: 4px;
  align-items: baseline;
}
.made {
  margin: 6px 0 0;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
  align-items: baseline;
}
</style>
