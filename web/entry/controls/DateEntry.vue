<script setup lang="ts">
import { computed } from 'vue';
import type { Answer, Asked } from '../answers';
import DayInput from './DayInput.vue';

const { asked, id, describedBy, invalid } = defineProps<{ asked: Asked; id: string; describedBy?: string; invalid: boolean }>();
const model = defineModel<Answer | undefined>();

const text = computed({ get: () => (typeof model.value === 'string' ? model.value : ''), set: (value) => (model.value = value) });
</script>

<template>
  <DayInput
    :id="id"
    v-model="text"
    :label="asked.label"
    :days="asked.days"
    :required="asked.required"
    :described-by="describedBy"
    :invalid="invalid"
  />
</template>
