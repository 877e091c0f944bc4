<script setup lang="ts">
import { computed } from 'vue';
import type { Answer, Asked } from '../answers';

const { asked, id, describedBy, invalid } = defineProps<{ asked: Asked; id: string; describedBy?: string; invalid: boolean }>();
const model = defineModel<Answer | undefined>();

const text = computed({ get: () => (typeof model.value === 'string' ? model.value : ''), set: (value) => (model.value = value) });
</script>

<template>
  <input
    :id="id"
    v-model="text"
    class="entry-input entry-date"
    type="date"
    :required="asked.required"
    :aria-describedby="describedBy"
    :aria-invalid="invalid || undefined"
  />
</template>
