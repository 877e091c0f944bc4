<script setup lang="ts">
import type { Answer, Asked } from '../answers';
import { usePartsOf } from './parts';

const { asked, id, describedBy, invalid, part } = defineProps<{
  asked: Asked;
  id: string;
  describedBy?: string;
  invalid: boolean;
  part?: string | null;
}>();
const model = defineModel<Answer | undefined>();
const { partOf, setPart } = usePartsOf(model, 'family');

const parts = asked.settings.names as { name: string; label: string }[];
const isWrong = (name: string) => invalid && (part == null || part === name);
</script>

<template>
  <div :id="id" class="entry-parts" role="group" :aria-labelledby="`${id}-label`" :aria-describedby="describedBy">
    <div v-for="{ name, label } in parts" :key="name" class="entry-part">
      <label :for="`${id}-${name}`">{{ label }}</label>
      <input
        :id="`${id}-${name}`"
        class="entry-input"
        :value="partOf(name)"
        :autocomplete="`${name}-name`"
        :required="asked.required && asked.settings.needs_both === true"
        :aria-invalid="isWrong(name) || undefined"
        @input="setPart(name, $event)"
      />
    </div>
  </div>
</template>
