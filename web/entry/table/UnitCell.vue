<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Answer, Asked } from '../answers';
import { isBlank } from '../answers';
import { dayInWords } from '../days';
import { wordsFor } from './cellValues';
import type { Manner } from './columns';

/** One question of one of them, in its cell. */
const { asked, unit, manner, id, label, value, opened, problem } = defineProps<{
  asked: Asked;
  /** The id of the one that it is of. */
  unit: string;
  manner: Manner;
  id: string;
  label: string;
  value: Answer | undefined;
  opened: boolean;
  problem?: string;
}>();
// They name the cell, so that the table listens to all of them in the same way and draws only those that differ.
const emit = defineEmits<{ set: [unit: string, field: string, answer: Answer]; open: [unit: string, field: string] }>();
const set = (answer: Answer) => emit('set', unit, asked.field, answer);

const describedBy = computed(() => (problem ? `${id}-problem` : undefined));
const text = computed(() => (typeof value === 'string' || typeof value === 'number' ? String(value) : ''));
// A day is not turned into words under the hand that types it.
const typing = ref(false);
const shown = computed(() => (asked.type === 'date' && !typing.value ? dayInWords(text.value) : text.value));
const modes: Record<string, 'numeric' | 'decimal' | 'email' | 'tel' | 'url'> = {
  number: asked.settings.decimals === 0 ? 'numeric' : 'decimal',
  amount_of_money: 'decimal',
  email: 'email',
  telephone: 'tel',
  web_address: 'url',
};

const options = computed(() => {
  const words = wordsFor(asked);
  const listed =
    asked.type === 'yes_no'
      ? [
          { key: 'true', label: words[0] },
          { key: 'false', label: words[1] },
        ]
      : asked.choices.map((c) => ({
          key: c.key,
          label: c.label + [c.cost, c.left].map((t) => (t ? ` (${t})` : '')).join(''),
        }));
  // What was pasted and is not among them stays to be seen.
  return !text.value || listed.some((o) => o.key === text.value) ? listed : [...listed, { key: text.value, label: text.value }];
});
const picked = computed(() => (typeof value === 'boolean' ? String(value) : text.value));
const pick = (key: string) => set(asked.type === 'yes_no' && (key === 'true' || key === 'false') ? key === 'true' : key);

const terms = computed(() => String(asked.settings.terms ?? ''));
const ticked = computed(() =>
  asked.type === 'agreed_to' ? typeof value === 'object' && !Array.isArray(value) && value.text === terms.value : value === true,
);
const tick = (on: boolean) => set(asked.type !== 'agreed_to' ? on : on ? { text: terms.value } : '');
</script>

<template>
  <input
    v-if="manner === 'typed'"
    :id="id"
    class="entry-input"
    type="text"
    :inputmode="modes[asked.type]"
    autocomplete="off"
    :value="shown"
    :placeholder="asked.placeholder || undefined"
    :aria-label="label"
    :required="asked.required"
    :aria-describedby="describedBy"
    :aria-invalid="!!problem || undefined"
    @input="((typing = true), set(($event.target as HTMLInputElement).value))"
    @blur="typing = false"
  />
  <select
    v-else-if="manner === 'picked'"
    :id="id"
    class="entry-input"
    :value="picked"
    :aria-label="label"
    :required="asked.required"
    :aria-describedby="describedBy"
    :aria-invalid="!!problem || undefined"
    @change="pick(($event.target as HTMLSelectElement).value)"
  >
    <option value=""></option>
    <option v-for="option in options" :key="option.key" :value="option.key">{{ option.label }}</option>
  </select>
  <input
    v-else-if="manner === 'ticked'"
    :id="id"
    type="checkbox"
    :checked="ticked"
    :aria-label="label"
    :required="asked.required && asked.type === 'agreed_to'"
    :aria-describedby="describedBy"
    :aria-invalid="!!problem || undefined"
    @change="tick(($event.target as HTMLInputElement).checked)"
  />
  <button
    v-else-if="manner === 'opened'"
    :id="id"
    type="button"
    class="entry-input entry-open"
    :aria-expanded="opened"
    :aria-describedby="describedBy"
    :aria-invalid="!!problem || undefined"
    @click="emit('open', unit, asked.field)"
  >
    <span class="visually-hidden">{{ label }}: </span>{{ asked.text || (isBlank(value) ? '…' : text || '✓') }}
  </button>
  <span v-else tabindex="-1" class="entry-worked">{{ asked.text || '–' }}</span>
  <span v-if="asked.adds" class="entry-adds">{{ asked.adds }}</span>
  <span v-if="problem" :id="`${id}-problem`" class="entry-problem">{{ problem }}</span>
</template>
