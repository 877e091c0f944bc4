<script setup lang="ts">
import { computed } from 'vue';
import type { Answer, Asked } from '../answers';
import ChoiceFace from './ChoiceFace.vue';
import { say } from '../../shared/wording';

const { asked, id, describedBy, invalid } = defineProps<{ asked: Asked; id: string; describedBy?: string; invalid: boolean }>();
const model = defineModel<Answer | undefined>();

const picks = computed(() => (Array.isArray(model.value) ? model.value : []));
const excluding = computed(() => asked.choices.filter((c) => c.excludes).map((c) => c.key));

// "None of these" takes the others away, and any other takes it away: the shopper meant the last thing that was clicked.
function toggle(key: string, on: boolean): void {
  const others = excluding.value.includes(key) ? [] : picks.value.filter((p) => p !== key && !excluding.value.includes(p));
  model.value = on ? [...others, key] : picks.value.filter((p) => p !== key);
}
</script>

<template>
  <div class="entry-choices" role="group" :aria-labelledby="`${id}-label`" :aria-describedby="describedBy">
    <label v-for="choice in asked.choices" :key="choice.key" :class="{ picked: picks.includes(choice.key) }">
      <input
        type="checkbox"
        :checked="picks.includes(choice.key)"
        :aria-invalid="invalid || undefined"
        @change="toggle(choice.key, ($event.target as HTMLInputElement).checked)"
      />
      <ChoiceFace :choice="choice" />
    </label>
    <p v-if="asked.settings.most" class="entry-count" aria-hidden="true">{{ say('form.of', picks.length, Number(asked.settings.most)) }}</p>
  </div>
</template>
