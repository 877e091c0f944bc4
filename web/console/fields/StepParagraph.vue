<script setup lang="ts">
import Select from 'primevue/select';
import { computed } from 'vue';
import ClauseNotes from './ClauseNotes.vue';
import type { Draft, DraftStep } from './draft';
import { useDraft } from './draft';
import WordInput from './WordInput.vue';

const { item, draft } = defineProps<{ item: DraftStep; draft: Draft }>();
const { change, remove, refused } = useDraft();

const key = computed(() => item.step.key);
const predecessors = computed(() =>
  draft.steps.filter((s) => ['cart', 'contact', 'delivery'].includes(s.key)).map((s) => ({ key: s.key, name: s.name.toLowerCase() })),
);
const set = (setting: string, value: unknown) => void change(key.value, setting, value);
</script>

<template>
  <section :aria-label="`The step ${key}`">
    <header class="paragraph-head">
      <h2>
        {{ item.step.name.en }} <span class="mono soft">{{ key }}</span>
      </h2>
      <p class="small soft">
        A step of your own, shown only when something on it is asked · <button class="act" @click="remove(key)">take it out</button>
      </p>
      <p v-if="refused?.field === key && refused.setting === ''" class="call" role="alert">{{ refused.sentence }}</p>
    </header>
    <dl class="clauses">
      <dt>Called</dt>
      <dd>
        “<WordInput :value="item.step.name.en ?? ''" label="Name of the step" @save="set('name.en', $event)" />”, after the
        <Select
          class="words"
          :model-value="item.step.after"
          :options="predecessors"
          option-label="name"
          option-value="key"
          aria-label="After which step"
          @update:model-value="set('after', $event)"
        />
        <ClauseNotes :of="key" :problems="draft.problems" :settings="['name', 'after', 'key']" />
      </dd>
    </dl>
  </section>
</template>
