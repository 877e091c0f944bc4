<script setup lang="ts">
import { computed } from 'vue';
import type { Answer, Asked } from '../answers';
import { graphemes } from '../graphemes';
import { say } from '../../shared/wording';

const { asked, id, describedBy, invalid } = defineProps<{ asked: Asked; id: string; describedBy?: string; invalid: boolean }>();
const model = defineModel<Answer | undefined>();

// How browsers help with each kind of answer.
const hints: Record<string, { type: string; autocomplete: string }> = {
  line_text: { type: 'text', autocomplete: 'off' },
  person_name: { type: 'text', autocomplete: 'name' },
  email: { type: 'email', autocomplete: 'email' },
  telephone: { type: 'tel', autocomplete: 'tel' },
  web_address: { type: 'url', autocomplete: 'url' },
};

const hint = computed(() => hints[asked.type] ?? { type: 'text', autocomplete: 'off' });
const text = computed({ get: () => (typeof model.value === 'string' ? model.value : ''), set: (value) => (model.value = value) });
const longest = computed(() => (typeof asked.settings.longest === 'number' ? asked.settings.longest : undefined));
const count = computed(() => graphemes(text.value.trim()));
</script>

<template>
  <input
    :id="id"
    v-model="text"
    class="entry-input"
    :type="hint.type"
    :autocomplete="hint.autocomplete"
    :placeholder="asked.placeholder || undefined"
    :required="asked.required"
    :aria-describedby="describedBy"
    :aria-invalid="invalid || undefined"
  />
  <p v-if="longest" class="entry-count" :class="{ over: count > longest }" aria-hidden="true">{{ say('form.of', count, longest) }}</p>
</template>
