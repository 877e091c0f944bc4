<script setup lang="ts">
import InputText from 'primevue/inputtext';
import { ref, watch } from 'vue';

/** A text typed in place that counts when it is left or Enter is pressed, and not before: what it sets acts at once. */
const { value, label, numeric } = defineProps<{ value: string; label: string; numeric?: boolean }>();
const emit = defineEmits<{ save: [value: string] }>();
const text = ref(value);
watch(
  () => value,
  (next) => (text.value = next),
);

function save(): void {
  if (text.value.trim() !== value) emit('save', text.value.trim());
}
</script>

<template>
  <InputText
    v-model="text"
    class="words"
    :aria-label="label"
    :inputmode="numeric ? 'numeric' : undefined"
    :style="{ '--characters': Math.max(text.length, text ? 2 : 4) }"
    autocomplete="off"
    placeholder="none"
    @blur="save()"
    @keydown.enter.prevent="save()"
    @keydown.escape="text = value"
  />
</template>
