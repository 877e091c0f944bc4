<script setup lang="ts">
import Select from 'primevue/select';
import { computed } from 'vue';
import type { Schemas } from '../../shared/api/client';
import { dayText, dayTyped, type DayLimit } from './dayLimit';
import ConnectionSelect from './ConnectionSelect.vue';
import DaysPicked from './DaysPicked.vue';
import type { Draft } from './draft';
import { nameOf } from './groups';
import WordInput from './WordInput.vue';
import PickSeveral from '../parts/PickSeveral.vue';

/** The control of one setting of a kind of answer: one for each kind of setting, whatever type it belongs to. */
const { setting, value, invalid, draft } = defineProps<{
  setting: Schemas['SettingView'];
  value: unknown;
  invalid: boolean;
  draft?: Draft;
}>();
const emit = defineEmits<{ save: [value: unknown] }>();

const label = computed(() => setting.clause.replace('{}', '…'));
const text = computed(() => {
  if (value === null || value === undefined) return '';
  switch (setting.kind) {
    case 'texts':
    case 'addresses':
      return (value as string[]).join(', ');
    case 'wording':
    case 'long_wording':
      return (value as Record<string, string>).en ?? '';
    case 'day': {
      return dayText(value as DayLimit);
    }
    default:
      return String(value);
  }
});

/** The fields that can be named. */
const answers = computed(() =>
  (draft?.fields ?? [])
    .filter((f) => setting.of_types.includes(f.field.type) && !f.field.retired)
    .map((f) => ({ key: f.field.key, name: `“${nameOf(f)}”` })),
);

/** The other destinations that can be named. */
const others = computed(() =>
  (draft?.destinations ?? [])
    .filter((d) => d.family === setting.of_family && !d.destination.retired)
    .map(({ key, destination }) => ({ key, name: `“${destination.name}”` })),
);

// What is not what the setting takes is sent as it was typed: the server says what it wants, and nothing typed is lost.
function parse(typed: string): unknown {
  const plain = typed.trim();
  if (plain === '') return null;
  switch (setting.kind) {
    case 'whole_number':
    case 'number':
      return Number.isFinite(Number(plain.replace(',', '.'))) ? Number(plain.replace(',', '.')) : plain;
    case 'texts':
    case 'addresses':
      return plain
        .split(',')
        .map((t) => t.trim())
        .filter(Boolean);
    case 'wording':
    case 'long_wording':
      return { ...(value as Record<string, string> | null), en: plain };
    case 'day': {
      return dayTyped(plain);
    }
    default:
      return plain;
  }
}
</script>

<template>
  <Select
    v-if="setting.kind === 'option'"
    class="words"
    :model-value="value"
    :options="setting.options"
    option-label="name"
    option-value="key"
    :filter="setting.options.length > 12"
    :aria-label="label"
    @update:model-value="emit('save', $event)"
  />
  <Select
    v-else-if="setting.kind === 'answer'"
    class="words"
    :model-value="value"
    :options="answers"
    option-label="name"
    option-value="key"
    placeholder="choose an answer"
    :filter="answers.length > 12"
    :aria-label="label"
    @update:model-value="emit('save', $event)"
  />
  <ConnectionSelect
    v-else-if="setting.kind === 'connection'"
    :value="value"
    :optional="!!setting.offer"
    :label="label"
    @save="emit('save', $event)"
  />
  <PickSeveral
    v-else-if="setting.kind === 'options' || setting.kind === 'destinations'"
    :value="(value as string[] | null) ?? []"
    :options="setting.kind === 'options' ? setting.options : others"
    option-value="key"
    :filter="setting.options.length > 12"
    placeholder="choose"
    :aria-label="label"
    @save="emit('save', $event.length ? $event : null)"
  />
  <DaysPicked v-else-if="setting.days" :days="(value as string[] | null) ?? []" :label="label" @save="emit('save', $event)" />
  <WordInput
    v-else
    :value="text"
    :label="label"
    :numeric="setting.kind === 'whole_number'"
    :lines="setting.kind === 'long_wording'"
    :placeholder="
      setting.kind === 'day'
        ? '2027-03-31, 14 days or 18 years before today'
        : setting.kind === 'addresses'
          ? 'team@shop.example, …'
          : setting.kind === 'texts'
            ? 'a, b'
            : '…'
    "
    :invalid="invalid"
    @save="emit('save', parse($event))"
  />
</template>
