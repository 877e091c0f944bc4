<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue';
import type { Answer, Asked } from '../answers';
import { graphemes } from '../graphemes';
import { overIn } from '../over';
import { say } from '../../shared/wording';

const { asked, id, describedBy, invalid } = defineProps<{ asked: Asked; id: string; describedBy?: string; invalid: boolean }>();
const model = defineModel<Answer | undefined>();

const text = computed({ get: () => (typeof model.value === 'string' ? model.value : ''), set: (value) => (model.value = value) });
const limit = (name: string): number | undefined => (asked.settings[name] == null ? undefined : Number(asked.settings[name]));
const lines = computed(() => limit('lines'));
const line = computed(() => limit('line_longest'));
// Lines with limits of their own say together what there is room for.
const whole = computed(() => (lines.value && line.value ? undefined : limit('longest')));
const pieces = computed(() => overIn(text.value, { lines: lines.value, line: line.value, whole: whole.value }));
const isOver = computed(() => pieces.value.some((p) => p.over));

// The line that is being typed.
const box = useTemplateRef('box');
const back = useTemplateRef('back');
const at = ref(0);
const where = () => (at.value = text.value.slice(0, box.value!.selectionStart).split('\n').length - 1);
const told = computed(() => {
  const own = text.value.split('\n')[at.value] ?? '';
  const ofLine =
    line.value && say(lines.value ? 'form.line_of' : 'form.line', at.value + 1, say('form.of', graphemes(own), line.value), lines.value);
  return [ofLine, whole.value && say('form.of', graphemes(text.value.trim()), whole.value)].filter(Boolean).join(', ');
});
</script>

<template>
  <div class="entry-marked">
    <div v-if="isOver" ref="back" class="entry-input entry-over" aria-hidden="true">
      <template v-for="(piece, i) in pieces" :key="i"
        ><mark v-if="piece.over">{{ piece.text }}</mark
        ><template v-else>{{ piece.text }}</template></template
      >
    </div>
    <textarea
      :id="id"
      ref="box"
      v-model="text"
      class="entry-input"
      :rows="Number(asked.settings.height)"
      :placeholder="asked.placeholder || undefined"
      :required="asked.required"
      :aria-describedby="describedBy"
      :aria-invalid="invalid || undefined"
      @input="where"
      @keyup="where"
      @click="where"
      @scroll="back && (back.scrollTop = box!.scrollTop)"
    ></textarea>
  </div>
  <p class="entry-count" :class="{ over: isOver }" aria-hidden="true">{{ told }}</p>
</template>
