<script setup lang="ts">
import InputText from 'primevue/inputtext';
import Textarea from 'primevue/textarea';
import { onBeforeUnmount, ref, watch } from 'vue';

/** A text typed in place in a sentence, or of several lines under it. Saved while typing, after a short pause, and when it is left. */
const { value, label, placeholder, numeric, invalid } = defineProps<{
  value: string;
  label: string;
  placeholder?: string;
  numeric?: boolean;
  lines?: boolean;
  invalid?: boolean;
  id?: string;
}>();
const emit = defineEmits<{ save: [value: string] }>();

const text = ref(value);
let timer: ReturnType<typeof setTimeout> | undefined;
let dirty = false;

// What comes from the server does not overwrite what is being typed.
watch(
  () => value,
  (next) => {
    if (!dirty) text.value = next;
  },
);

function onInput(next: string | undefined): void {
  text.value = next ?? '';
  dirty = true;
  clearTimeout(timer);
  timer = setTimeout(save, 350);
}

function save(): void {
  clearTimeout(timer);
  // After a refusal also the text that was there before is a change: it takes the refusal back.
  if (dirty && (text.value !== value || invalid)) emit('save', text.value);
  dirty = false;
}

onBeforeUnmount(save);
</script>

<template>
  <Textarea
    v-if="lines"
    class="words lines"
    auto-resize
    rows="3"
    :model-value="text"
    :aria-label="label"
    :aria-invalid="invalid || undefined"
    :placeholder="placeholder"
    @update:model-value="onInput"
    @blur="save"
  />
  <InputText
    v-else
    :id="id"
    class="words"
    :model-value="text"
    :aria-label="label"
    :aria-invalid="invalid || undefined"
    :placeholder="placeholder"
    :inputmode="numeric ? 'numeric' : undefined"
    :style="{ '--characters': Math.max(text.length, placeholder?.length ?? 0, 2) }"
    autocomplete="off"
    @update:model-value="onInput"
    @blur="save"
    @keydown.enter.prevent="save"
  />
</template>
