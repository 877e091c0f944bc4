<script setup lang="ts">
import MultiSelect from 'primevue/multiselect';
import { ref } from 'vue';

/**
 * Several of a list, saved as they are picked. While it is open what was picked here counts, and not what comes back of earlier picks meanwhile: else who picks
 * faster than it is saved would lose one.
 */
const { value } = defineProps<{ value: readonly string[] }>();
const emit = defineEmits<{ save: [value: string[]] }>();
defineSlots<{ value?(props: { placeholder: string }): unknown }>();
const picked = ref<string[]>();

function pick(now: string[]): void {
  picked.value = now;
  emit('save', now);
}
</script>

<template>
  <MultiSelect
    class="words"
    :model-value="picked ?? [...value]"
    option-label="name"
    :show-toggle-all="false"
    @update:model-value="pick"
    @hide="picked = undefined"
    ><template v-if="$slots.value" #value="{ placeholder }"><slot name="value" :placeholder="placeholder"></slot></template
  ></MultiSelect>
</template>
