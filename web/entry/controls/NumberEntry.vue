<script setup lang="ts">
import { computed } from 'vue';
import { locale } from '../../shared/wording';
import type { Answer, Asked } from '../answers';

const { asked, id, describedBy, invalid } = defineProps<{ asked: Asked; id: string; describedBy?: string; invalid: boolean }>();
const model = defineModel<Answer | undefined>();

// As the language writes amounts.
const isSignBehind = computed(
  () => new Intl.NumberFormat(locale(), { style: 'currency', currency: 'EUR' }).formatToParts(1).at(-1)!.type === 'currency',
);

// A text, so that a decimal comma and everything else typed is kept as it was typed: the server reads it.
const text = computed({
  get: () => (typeof model.value === 'string' || typeof model.value === 'number' ? String(model.value) : ''),
  set: (value) => (model.value = value),
});
</script>

<template>
  <div class="entry-number" :class="{ money: asked.type === 'amount_of_money' && !isSignBehind }">
    <input
      :id="id"
      v-model="text"
      class="entry-input"
      type="text"
      :inputmode="asked.settings.decimals === 0 ? 'numeric' : 'decimal'"
      autocomplete="off"
      :placeholder="asked.placeholder || undefined"
      :required="asked.required"
      :aria-describedby="describedBy"
      :aria-invalid="invalid || undefined"
    />
    <span v-if="asked.unit">{{ asked.unit }}</span>
  </div>
</template>
