<script setup lang="ts">
import Select from 'primevue/select';
import { computed, ref } from 'vue';
import type { Schemas } from '../../shared/api/client';
import type { DraftDestination } from './draft';
import type { Routed } from './routed';
import { otherwiseWords } from './otherwise';
import WordInput from './WordInput.vue';

/** What one field, or the opening question of a section, and its answers are called at a destination; what has no name of its own is called as everywhere. */
const { field, item, names, refused } = defineProps<{
  field: Routed;
  item: DraftDestination;
  names?: Schemas['NamesThere'];
  refused?: { setting: string };
}>();
const emit = defineEmits<{ set: [part: string, value: unknown] }>();

const byName = computed(() => item.finds_by_name || !!names?.as_value);
const forms = [
  { key: false, name: 'a line of text' },
  { key: true, name: 'a value of that name' },
];
const companies = computed(() => [
  { key: false, name: field.level === 'unit' ? 'its single one' : 'its line' },
  { key: true, name: 'the order' },
]);
const standing = ref(false);
const standsOtherwise = computed(() => !!names?.as_value || !!names?.with_order);
const AS_USUAL = 'as_usual';
const days = [
  { key: AS_USUAL, name: 'as everywhere' },
  { key: 'dotted', name: '27.11.2026' },
  { key: 'slashed', name: '27/11/2026' },
  { key: 'month_first', name: '11/27/2026' },
  { key: 'hyphened', name: '2026-11-27' },
  { key: 'compact', name: '20261127' },
];
const values = computed(() => names?.words?.values ?? {});
const open = ref(false);
const shown = computed(() => (open.value ? field.named_values : field.named_values.filter((v) => values.value[v.key])));
const tooLong = computed(() => field.too_long.find((t) => t.destination === item.key));
const AS_SAID = 'as_said';
const otherwise = computed(() => [
  { key: AS_SAID, name: 'as said below' },
  ...otherwiseWords.filter((o) => o.key !== 'note' || item.has_note),
]);
const isRefused = (part: string) => refused?.setting === `names.${field.key}.${part}`;
</script>

<template>
  <div class="there">
    <span aria-hidden="true">→</span>
    <WordInput
      :value="names?.name?.en ?? ''"
      :label="`What ${field.name} is called there`"
      :placeholder="byName ? field.key : 'the same'"
      :invalid="isRefused('name.en')"
      @save="emit('set', 'name.en', $event)"
    />
    <template v-if="item.has_named_values && (standsOtherwise || standing)"
      >, as
      <Select
        class="words"
        :model-value="names?.as_value ?? false"
        :options="forms"
        option-label="name"
        option-value="key"
        :aria-label="`As what ${field.name} stands there`"
        @update:model-value="emit('set', 'as_value', $event)"
      />
      <template v-if="field.level !== 'order'"
        >, with
        <Select
          class="words"
          :model-value="names?.with_order ?? false"
          :options="companies"
          option-label="name"
          option-value="key"
          :aria-label="`With what ${field.name} stands there`"
          @update:model-value="emit('set', 'with_order', $event)"
        />
      </template>
    </template>
    <template v-if="field.holds_day"
      >, its day
      <Select
        class="words"
        :model-value="names?.words?.days ?? AS_USUAL"
        :options="days"
        option-label="name"
        option-value="key"
        :aria-label="`How the day of ${field.name} is written there`"
        @update:model-value="emit('set', 'days', $event === AS_USUAL ? null : $event)"
      />
    </template>
    <template v-if="tooLong || names?.otherwise"
      >; over {{ tooLong?.takes ?? '' }} characters it
      <Select
        class="words"
        :model-value="names?.otherwise ?? AS_SAID"
        :options="otherwise"
        option-label="name"
        option-value="key"
        :aria-label="`What is done with what does not fit of ${field.name}`"
        @update:model-value="emit('set', 'otherwise', $event === AS_SAID ? null : $event)"
      />
    </template>
    <button
      v-if="field.named_values.length && shown.length < field.named_values.length"
      class="act small"
      :aria-label="`Words for the answers to ${field.name}`"
      @click="open = true"
    >
      its answers
    </button>
    <button
      v-if="item.has_named_values && !standsOtherwise && !standing"
      class="act small"
      :aria-label="`How ${field.name} stands there`"
      @click="standing = true"
    >
      how it stands
    </button>
    <ul v-if="shown.length">
      <li v-for="value in shown" :key="value.key">
        {{ value.name }} <span aria-hidden="true">→</span>
        <WordInput
          :value="values[value.key] ?? ''"
          :label="`What ${value.name} of ${field.name} is called there`"
          placeholder="the same"
          :invalid="isRefused(`values.${value.key}`)"
          @save="emit('set', `values.${value.key}`, $event)"
        />
      </li>
    </ul>
  </div>
</template>

<style scoped>
.there {
  min-width: 0;
}
.there span {
  margin-right: 6px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0 0 0 18px;
}
.act {
  margin-left: 6px;
}
</style>
