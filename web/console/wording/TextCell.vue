<script setup lang="ts">
import { nextTick, ref, useTemplateRef } from 'vue';

/** A text in one language, changed in its place: it counts when it is left, or by Ctrl+Enter. */
const { text, label, language, missing, usual } = defineProps<{
  text: string;
  label: string;
  /** Its tag (BCP 47). */
  language: string;
  /** Whether there should be one and is none. */
  missing: boolean;
  /** What is shipped, where the shop says something else; undefined otherwise. */
  usual?: string;
}>();
const emit = defineEmits<{ save: [text: string] }>();

const typed = ref<string>();
const box = useTemplateRef('box');
const face = useTemplateRef('face');

async function open(): Promise<void> {
  typed.value = text;
  await nextTick();
  box.value?.focus();
}

async function close(save: boolean, back: boolean): Promise<void> {
  const to = typed.value?.trim();
  if (to === undefined) return;
  typed.value = undefined;
  if (save && to !== text) emit('save', to);
  if (!back) return;
  await nextTick();
  face.value?.focus();
}
</script>

<template>
  <textarea
    v-if="typed !== undefined"
    ref="box"
    v-model="typed"
    :lang="language"
    :rows="Math.min(8, Math.max(2, Math.ceil((typed?.length ?? 0) / 44)))"
    :aria-label="label"
    @blur="close(true, false)"
    @keydown.ctrl.enter.prevent="close(true, true)"
    @keydown.esc.stop="close(false, true)"
  ></textarea>
  <template v-else>
    <button
      ref="face"
      type="button"
      class="text"
      :class="{ missing }"
      :lang="language"
      :aria-label="`${label}: ${text || 'nothing'}`"
      @click="open"
    >
      {{ text || (missing ? 'missing' : '–') }}
    </button>
    <button v-if="usual !== undefined" type="button" class="act small" :title="usual" @click="emit('save', '')">
      as shipped<span class="visually-hidden">: {{ label }}</span>
    </button>
  </template>
</template>

<style scoped>
.text,
textarea {
  display: block;
  box-sizing: border-box;
  width: 100%;
  min-height: 24px;
  padding: 2px 6px;
  font: inherit;
  color: inherit;
  text-align: left;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  background: none;
  border: 1px solid transparent;
  cursor: text;
}
.text:hover {
  border-color: var(--rule-strong);
}
.missing {
  border: 1px dotted var(--ink);
  color: var(--ink-2);
  font-style: italic;
}
textarea {
  background: var(--sheet);
  border-color: var(--ink);
  resize: vertical;
}
</style>
