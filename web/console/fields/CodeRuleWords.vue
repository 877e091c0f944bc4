<script setup lang="ts">
import Select from 'primevue/select';
import type { Schemas } from '../../shared/api/client';
import WordInput from './WordInput.vue';

/** A rule of item codes, as part of a sentence; what it leaves open is taken from the next wider one. */
const { whole, label } = defineProps<{ whole?: boolean; label: string }>();
const rule = defineModel<Schemas['CodeRule']>({ required: true });

const set = (part: Partial<Schemas['CodeRule']>) => (rule.value = { ...rule.value, ...part });
const cases = [
  { key: null, name: 'in the usual case' },
  { key: 'as_is', name: 'as they are' },
  { key: 'upper', name: 'in capitals' },
  { key: 'lower', name: 'in small letters' },
];

const shown = [
  { key: null, name: 'shown to the shopper as usual' },
  { key: true, name: 'shown to the shopper' },
  { key: false, name: 'not shown to the shopper' },
];

function setLongest(typed: string): void {
  const longest = Math.trunc(Number(typed));
  set({ longest: typed.trim() && longest > 0 ? longest : null });
}

// “none” stands for nothing at all, which differs from leaving it to the wider rule.
const wordOf = (text: string | null | undefined) => (text === '' ? 'none' : (text ?? ''));
const textOf = (word: string) => (word === 'none' ? '' : word.trim() === '' ? null : word);
</script>

<template>
  behind “<WordInput
    :value="wordOf(rule.separator)"
    :label="`Separator of ${label}`"
    placeholder="as usual"
    @save="set({ separator: textOf($event) })"
  />”,
  <Select
    class="words"
    :model-value="rule.case ?? null"
    :options="cases"
    option-label="name"
    option-value="key"
    placeholder="in the usual case"
    :aria-label="`Case of ${label}`"
    @update:model-value="set({ case: $event })"
  />, “<WordInput
    :value="wordOf(rule.when_empty)"
    :label="`What stands for an empty part of ${label}`"
    placeholder="as usual"
    @save="set({ when_empty: textOf($event) })"
  />” where nothing was answered<template v-if="whole"
    >, at most
    <WordInput
      :value="rule.longest ? String(rule.longest) : ''"
      :label="`Longest code of ${label}`"
      placeholder="40"
      numeric
      @save="setLongest" />
    characters,
    <Select
      class="words"
      :model-value="rule.shown ?? null"
      :options="shown"
      option-label="name"
      option-value="key"
      :placeholder="shown[0]!.name"
      :aria-label="`Whether the shopper reads codes of ${label}`"
      @update:model-value="set({ shown: $event })"
  /></template>
</template>
