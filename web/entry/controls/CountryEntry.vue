<script setup lang="ts">
import { computed } from 'vue';
import type { Answer, Asked } from '../answers';
import { say } from '../../shared/wording';

const { asked, id, describedBy, invalid } = defineProps<{ asked: Asked; id: string; describedBy?: string; invalid: boolean }>();
const model = defineModel<Answer | undefined>();

const code = computed({ get: () => (typeof model.value === 'string' ? model.value : ''), set: (value) => (model.value = value) });
</script>

<template>
  <select
    :id="id"
    v-model="code"
    class="entry-input"
    autocomplete="country"
    :required="asked.required"
    :aria-describedby="describedBy"
    :aria-invalid="invalid || undefined"
  >
    <option value="">{{ say('form.choose') }}</option>
    <option v-for="country in asked.choices" :key="country.key" :value="country.key">{{ country.label }}</option>
  </select>
</template>
