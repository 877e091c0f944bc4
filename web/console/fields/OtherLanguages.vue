<script setup lang="ts">
import Select from 'primevue/select';
import { computed, ref } from 'vue';
import WordInput from './WordInput.vue';

/** A wording in other languages than the first; an order in a language that has none gets the first. */
const { texts, label, lines } = defineProps<{ texts: Record<string, string>; label: string; lines: boolean }>();
const emit = defineEmits<{ save: [language: string, text: string] }>();

const FIRST = 'en';
const tags = 'ar cs da de el es fi fr ga he hi hu it ja ko nb nl pl pt ro ru sk sv th tr uk zh'.split(' ');
const names = new Intl.DisplayNames([FIRST], { type: 'language' });
const nameOf = (tag: string) => names.of(tag) ?? tag;

const begun = ref<string[]>([]);
const shown = computed(() => [...new Set([...Object.keys(texts).filter((tag) => tag !== FIRST), ...begun.value])]);
const others = computed(() =>
  tags
    .filter((tag) => !shown.value.includes(tag))
    .map((tag) => ({ tag, name: nameOf(tag) }))
    .sort((a, b) => a.name.localeCompare(b.name)),
);
const opened = ref(false);

function begin(tag: string): void {
  begun.value.push(tag);
  opened.value = false;
}
</script>

<template>
  <span v-for="tag in shown" :key="tag"
    >, in {{ nameOf(tag) }} “<WordInput
      :value="texts[tag] ?? ''"
      :label="`${label}, in ${nameOf(tag)}`"
      :lines="lines"
      placeholder="the same"
      @save="emit('save', tag, $event)"
    />”</span
  >{{ ' '
  }}<Select
    v-if="opened"
    class="words"
    :model-value="null"
    :options="others"
    option-label="name"
    option-value="tag"
    placeholder="which language"
    filter
    :aria-label="`Another language for: ${label}`"
    @update:model-value="begin"
  /><button v-else class="act small" :aria-label="`In another language: ${label}`" @click="opened = true">in another language</button>
</template>
