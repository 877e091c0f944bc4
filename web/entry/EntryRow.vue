<script setup lang="ts">
import type { Answer, Asked } from './answers';
import { controlFor } from './controls';
import type { Row } from './rows';
import { say } from '../shared/wording';

/** One question with its control, what it costs, its help and its problem; between the parts of an address also the questions that stand there. */
const { row, valueOf } = defineProps<{ row: Row; valueOf: (field: Asked) => Answer | undefined }>();
const emit = defineEmits<{ set: [field: string, answer: Answer | undefined]; visit: [field: string]; reopen: [field: string] }>();
</script>

<template>
  <p v-if="row.settled" class="entry-field entry-settled" :class="{ shares: row.field.shares_row }">
    <span class="entry-label">{{ row.field.label }}</span>
    <span class="entry-told">{{ row.settled }}</span>
    <button type="button" class="entry-clear" @click="emit('reopen', row.field.field)">
      {{ say('form.change') }}<span class="visually-hidden"> {{ row.field.label }}</span>
    </button>
  </p>
  <div v-else class="entry-field" :class="{ shares: row.field.shares_row, box: row.box }" @focusout="emit('visit', row.field.field)">
    <component :is="row.group ? 'p' : 'label'" :id="`${row.id}-label`" class="entry-label" :for="row.group ? undefined : row.id">
      {{ row.field.label }}
      <span v-if="!row.field.required && !row.field.asks_nothing && !row.field.given_by_page && !row.box" class="entry-optional">{{
        say('form.optional')
      }}</span>
    </component>
    <img v-if="row.field.picture" class="entry-picture" :src="`/pictures/${row.field.picture}`" :alt="row.field.picture_words" />
    <component
      :is="controlFor(row.field)"
      :id="row.id"
      :model-value="valueOf(row.field)"
      :asked="row.field"
      :described-by="row.describedBy"
      :invalid="!!row.problem"
      v-bind="row.problem?.part ? { part: row.problem.part } : {}"
      @update:model-value="emit('set', row.field.field, $event)"
    >
      <template v-for="(between, part) in row.between" #[part] :key="part">
        <EntryRow
          v-for="inner in between"
          :key="inner.field.slot"
          class="entry-part"
          :row="inner"
          :value-of="valueOf"
          @set="(field, answer) => emit('set', field, answer)"
          @visit="emit('visit', $event)"
          @reopen="emit('reopen', $event)"
        />
      </template>
    </component>
    <p v-if="row.field.cost || row.field.left || row.field.adds" class="entry-costs">
      <span v-if="row.field.cost || row.field.left" :id="`${row.id}-cost`">{{
        [row.field.cost, row.field.left].filter(Boolean).join(', ')
      }}</span>
      <span v-if="row.field.adds" class="entry-adds">{{ row.field.adds }}</span>
    </p>
    <p v-if="row.field.help" :id="`${row.id}-help`" class="entry-help">{{ row.field.help }}</p>
    <p v-if="row.problem" :id="`${row.id}-problem`" class="entry-problem" role="alert">{{ row.problem.sentence }}</p>
  </div>
</template>
