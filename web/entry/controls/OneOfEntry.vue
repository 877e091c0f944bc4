<script setup lang="ts">
import { computed } from 'vue';
import type { Answer, Asked } from '../answers';
import ChoiceFace from './ChoiceFace.vue';
import { say } from '../../shared/wording';

const { asked, id, describedBy, invalid } = defineProps<{ asked: Asked; id: string; describedBy?: string; invalid: boolean }>();
const model = defineModel<Answer | undefined>();

const key = computed({ get: () => (typeof model.value === 'string' ? model.value : ''), set: (value) => (model.value = value) });
</script>

<template>
  <select
    v-if="asked.settings.laid_out === 'list'"
    :id="id"
    v-model="key"
    class="entry-input"
    :required="asked.required"
    :aria-describedby="describedBy"
    :aria-invalid="invalid || undefined"
  >
    <option value="">{{ say('form.choose') }}</option>
    <option v-for="choice in asked.choices" :key="choice.key" :value="choice.key">
      {{ choice.label
      }}{{
        [choice.cost, choice.left]
          .filter(Boolean)
          .map((t) => ` (${t})`)
          .join('')
      }}
    </option>
  </select>
  <div
    v-else
    class="entry-choices"
    role="radiogroup"
    :aria-labelledby="`${id}-label`"
    :aria-describedby="describedBy"
    :aria-required="asked.required || undefined"
  >
    <label v-for="choice in asked.choices" :key="choice.key" :class="{ picked: key === choice.key }">
      <input
        type="radio"
        :name="id"
        :value="choice.key"
        :checked="key === choice.key"
        :aria-invalid="invalid || undefined"
        @change="key = choice.key"
      />
      <ChoiceFace :choice="choice" />
    </label>
    <button v-if="key && !asked.required" type="button" class="entry-clear" @click="key = ''">{{ say('form.choose_none') }}</button>
  </div>
</template>
