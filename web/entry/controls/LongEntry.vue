<script setup lang="ts">
import { computed } from 'vue';
import type { Answer, Asked } from '../answers';
import { graphemes } from '../graphemes';

const { asked, id, describedBy, invalid } = defineProps<{ asked: Asked; id: string; describedBy?: string; invalid: boolean }>();
const model = defineModel<Answer | undefined>();

const text = computed({ get: () => (typeof model.value === 'string' ? model.value : ''), set: (value) => (model.value = value) });
const longest = computed(() => Number(asked.settings.longest));
const count = computed(() => graphemes(text.value.trim()));
</script>

<template>
  <textarea
    :id="id"
    v-model="text"
    class="entry-input"
    :rows="Number(asked.settings.height)"
    :placeholder="asked.placeholder || undefined"
    :required="asked.required"
    :aria-describedby="describedBy"
    :aria-invalid="invalid || undefined"
  ></textarea>
  <p class="entry-count" :class="{ over: count > longest }" aria-hidden="true">{{ count }} of {{ longest }}</p>
</template>
