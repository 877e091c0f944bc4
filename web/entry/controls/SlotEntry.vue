<script setup lang="ts">
import type { Answer, Asked } from '../answers';
import DayInput from './DayInput.vue';
import { usePartsOf } from './parts';
import { say } from '../../shared/wording';

const { asked, id, describedBy, invalid, part } = defineProps<{
  asked: Asked;
  id: string;
  describedBy?: string;
  invalid: boolean;
  part?: string | null;
}>();
const model = defineModel<Answer | undefined>();
const { partOf, setPart, setParts } = usePartsOf(model);
const isWrong = (name: string) => (invalid && (!part || part === name)) || undefined;
</script>

<template>
  <div class="entry-parts entry-slot" role="group" :aria-labelledby="`${id}-label`" :aria-describedby="describedBy">
    <div class="entry-part">
      <label :for="`${id}-day`">{{ say('form.day') }}</label>
      <DayInput
        :id="`${id}-day`"
        :model-value="partOf('day')"
        :label="asked.label"
        :days="asked.days"
        :required="asked.required"
        :invalid="!!isWrong('day')"
        @update:model-value="setParts({ day: $event })"
      />
    </div>
    <div class="entry-part">
      <label :for="`${id}-slot`">{{ say('form.time') }}</label>
      <select
        :id="`${id}-slot`"
        class="entry-input"
        :value="partOf('slot')"
        :required="asked.required"
        :aria-invalid="isWrong('slot')"
        @change="setPart('slot', $event)"
      >
        <option value="">{{ say('form.choose') }}</option>
        <option v-for="slot in asked.choices" :key="slot.key" :value="slot.key">{{ slot.label }}</option>
      </select>
    </div>
  </div>
</template>
