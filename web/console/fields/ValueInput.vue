<script setup lang="ts">
import Select from 'primevue/select';
import { computed } from 'vue';
import type { Value } from './condition';
import WordInput from './WordInput.vue';
import PickSeveral from '../parts/PickSeveral.vue';

/** A value of a kind of fact, in a sentence: what a test compares with, or what a control holds at first. */
const {
  kind,
  options = [],
  list,
  label,
  unit = '',
} = defineProps<{ kind: string; options?: { key: string; name: string }[]; list?: boolean; label: string; unit?: string }>();
const emit = defineEmits<{
  /** What is looked for in the list. */
  look: [word: string];
}>();
const value = defineModel<Value | null | undefined>();

const texts = computed(() => (Array.isArray(value.value) ? value.value : []));
const text = computed(() => (typeof value.value === 'string' || typeof value.value === 'number' ? String(value.value) : ''));

// What is no number is sent as it was typed: the server says what it wants, and nothing typed is lost.
function setText(typed: string): void {
  const number = Number(typed.replace(',', '.'));
  value.value = kind === 'number' && typed.trim() !== '' && Number.isFinite(number) ? number : typed.trim() === '' ? null : typed;
}

function setList(typed: string): void {
  value.value = typed
    .split(',')
    .map((t) => t.trim())
    .filter(Boolean);
}
</script>

<template>
  <Select
    v-if="kind === 'truth'"
    v-model="value"
    class="words"
    :options="[
      { key: true, name: 'yes' },
      { key: false, name: 'no' },
    ]"
    option-label="name"
    option-value="key"
    placeholder="choose"
    :aria-label="label"
  />
  <PickSeveral
    v-else-if="options.length && list"
    :value="texts"
    :options="options"
    option-value="key"
    :filter="options.length > 12"
    placeholder="choose"
    :aria-label="label"
    @filter="emit('look', $event.value)"
    @save="value = $event"
  />
  <Select
    v-else-if="options.length"
    v-model="value"
    class="words"
    :options="options"
    option-label="name"
    option-value="key"
    :filter="options.length > 12"
    placeholder="choose"
    :aria-label="label"
    @filter="emit('look', $event.value)"
  />
  <WordInput v-else-if="list" :value="texts.join(', ')" :label="label" placeholder="a, b" @save="setList" />
  <template v-else>
    <WordInput
      :value="text"
      :label="label"
      :numeric="kind === 'number'"
      :placeholder="kind === 'day' ? '2027-03-31' : kind === 'number' ? '0' : 'a text'"
      @save="setText"
    />
    <template v-if="unit"> {{ unit }}</template>
  </template>
</template>
