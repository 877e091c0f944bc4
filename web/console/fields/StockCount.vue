<script setup lang="ts">
import { computed, ref } from 'vue';
import { api, ask, sentenceOf } from '../../shared/api/client';
import type { Draft } from './draft';
import { useDraft } from './draft';
import WordInput from './WordInput.vue';

/** How many there are of something on the shelf: told, and counted anew. It is so at once, and not when the draft is published. */
const { item, draft } = defineProps<{ item: string; draft: Draft }>();
const { query } = useDraft();

const counted = computed(() => draft.stock.find((s) => s.item === item));
const failure = ref('');

async function count(onHand: number | null): Promise<void> {
  try {
    await ask(api.PUT('/api/console/v1/stock', { body: { item, on_hand: onHand } }));
    failure.value = '';
  } catch (error) {
    failure.value = sentenceOf(error);
  }
  await query.refetch();
}

function take(typed: string): void {
  const onHand = Number(typed);
  if (typed.trim() && Number.isInteger(onHand) && onHand >= 0) void count(onHand);
  else failure.value = `“${typed}” is no count. Give a whole number.`;
}
</script>

<template>
  <template v-if="counted"
    ><WordInput :value="String(counted.on_hand)" :label="`How many there are of ${item}`" numeric :invalid="!!failure" @save="take" /> on
    the shelf<template v-if="counted.held">, {{ counted.held }} held</template> {{ ' '
    }}<button class="act small" @click="count(null)">stop counting</button></template
  >
  <template v-else>not counted {{ ' ' }}<button class="act small" @click="count(0)">count it</button></template>
  <span v-if="failure" class="call" role="alert"> {{ failure }}</span>
</template>
