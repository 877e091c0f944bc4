<script setup lang="ts">
import type { Answer, Asked } from '../answers';
import { say } from '../../shared/wording';

const { asked, id, describedBy, invalid } = defineProps<{ asked: Asked; id: string; describedBy?: string; invalid: boolean }>();
const model = defineModel<Answer | undefined>();

const answers = [
  { value: true, word: () => String(asked.settings.yes) },
  { value: false, word: () => String(asked.settings.no) },
];
</script>

<template>
  <input
    v-if="asked.settings.box"
    :id="id"
    type="checkbox"
    :checked="model === true"
    :aria-describedby="describedBy"
    :aria-invalid="invalid || undefined"
    @change="model = ($event.target as HTMLInputElement).checked"
  />
  <div
    v-else
    class="entry-yes-no"
    role="radiogroup"
    :aria-labelledby="`${id}-label`"
    :aria-describedby="describedBy"
    :aria-required="asked.required || undefined"
  >
    <label v-for="answer in answers" :key="String(answer.value)">
      <input
        type="radio"
        :name="id"
        :checked="model === answer.value"
        :aria-invalid="invalid || undefined"
        @change="model = answer.value"
      />
      {{ answer.word() }}
    </label>
    <button v-if="typeof model === 'boolean' && !asked.required" type="button" class="entry-clear" @click="model = undefined">
      {{ say('form.leave_unanswered') }}
    </button>
  </div>
</template>
