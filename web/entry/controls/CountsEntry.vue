<script setup lang="ts">
import { computed } from 'vue';
import type { Answer, Asked } from '../answers';
import ChoiceFace from './ChoiceFace.vue';
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
const { partOf, setPart } = usePartsOf(model);

// A hint while typing: the server counts for itself.
const sum = computed(() => asked.choices.reduce((all, choice) => all + (Number.parseInt(partOf(choice.key), 10) || 0), 0));
const most = computed(() => (typeof asked.settings.most === 'number' ? asked.settings.most : undefined));
</script>

<template>
  <div class="entry-counts" role="group" :aria-labelledby="`${id}-label`" :aria-describedby="describedBy">
    <label v-for="choice in asked.choices" :key="choice.key" :class="{ picked: Number(partOf(choice.key)) > 0 }">
      <input
        class="entry-input"
        inputmode="numeric"
        autocomplete="off"
        placeholder="0"
        :value="partOf(choice.key)"
        :aria-invalid="(invalid && (!part || part === choice.key)) || undefined"
        @input="setPart(choice.key, $event)"
      />
      <ChoiceFace :choice="choice" />
    </label>
    <p class="entry-count" :class="{ over: most !== undefined && sum > most }" aria-live="polite">
      {{ most === undefined ? say('form.in_all', sum) : say('form.of', sum, most) }}
    </p>
  </div>
</template>
