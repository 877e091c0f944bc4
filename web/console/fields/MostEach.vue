<script setup lang="ts">
import { ref } from 'vue';
import WordInput from './WordInput.vue';

/** Of how many of a line it can be asked: more of it cannot be ordered at once. */
const { value } = defineProps<{ value: number | null | undefined }>();
const emit = defineEmits<{ save: [most: number | null] }>();

const wanted = ref(false);

function save(text: string): void {
  wanted.value = text !== '';
  // What is no number is refused where every change is.
  emit('save', text === '' ? null : Number(text));
}
</script>

<template>
  <template v-if="value || wanted"
    >, of at most
    <WordInput :value="String(value ?? '')" label="The most of a line that it is asked of" placeholder="any number" numeric @save="save" />
    of a line</template
  >
  <template v-else>, <button class="act" type="button" @click="wanted = true">of any number of a line</button></template>
</template>
