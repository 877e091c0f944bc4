<script setup lang="ts">
import Select from 'primevue/select';
import { computed } from 'vue';
import { isInReach } from './condition';
import type { Draft, Level } from './draft';

/** Chooses an answer or a fact within reach of a level. */
const { draft, level, kinds, ofKey, label } = defineProps<{ draft: Draft; level: Level; kinds?: string[]; ofKey: string; label: string }>();
const model = defineModel<string | null | undefined>({ required: true });

const plain = (name: string) => name.replace(/^the /, '').replaceAll(/[“”]/g, '');
const options = computed(() => {
  const reach = draft.facts.filter((f) => isInReach(f, level) && f.key !== `answer.${ofKey}` && (!kinds || kinds.includes(f.kind)));
  const named = (all: typeof reach) => all.map((f) => ({ key: f.key, name: plain(f.name) }));
  return [
    { name: 'Answers', items: named(reach.filter((f) => f.key.startsWith('answer.'))) },
    { name: 'The product, the shopper and the cart', items: named(reach.filter((f) => !f.key.startsWith('answer.'))) },
  ].filter((g) => g.items.length);
});
</script>

<template>
  <Select
    v-model="model"
    class="words"
    :options="options"
    option-label="name"
    option-value="key"
    option-group-label="name"
    option-group-children="items"
    filter
    placeholder="choose"
    :aria-label="label"
  />
</template>
