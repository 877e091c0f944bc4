<script setup lang="ts">
import { computed } from 'vue';
import type { Answer, Asked } from '../answers';

// What is agreed to is what was read: the text that stands here goes with the answer.
const { asked, id, describedBy, invalid } = defineProps<{ asked: Asked; id: string; describedBy?: string; invalid: boolean }>();
const model = defineModel<Answer | undefined>();

const terms = computed(() => String(asked.settings.terms ?? ''));
const agreed = computed({
  get: () => typeof model.value === 'object' && !Array.isArray(model.value) && model.value.text === terms.value,
  set: (on) => (model.value = on ? { text: terms.value } : undefined),
});
</script>

<template>
  <div class="entry-agreed">
    <div :id="`${id}-terms`" class="entry-terms" tabindex="0" role="region" :aria-labelledby="`${id}-label`">{{ terms }}</div>
    <label>
      <input
        :id="id"
        v-model="agreed"
        type="checkbox"
        :required="asked.required"
        :aria-describedby="[`${id}-terms`, describedBy].filter(Boolean).join(' ')"
        :aria-invalid="invalid || undefined"
      />
      {{ asked.settings.says }}
    </label>
  </div>
</template>
