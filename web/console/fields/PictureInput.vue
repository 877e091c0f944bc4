<script setup lang="ts">
import { ref, useTemplateRef } from 'vue';
import { ask, api, sentenceOf } from '../../shared/api/client';
import WordInput from './WordInput.vue';

/** A picture in a sentence: dropped here, chosen, or pasted; with a word for those who cannot see it. */
const { name, words, label } = defineProps<{ name: string; words: string; label: string }>();
const emit = defineEmits<{ save: [name: string]; say: [words: string] }>();

const MEGABYTE = 1024 * 1024;
const MOST = 12 * MEGABYTE;
const failure = ref('');
const busy = ref(false);
const over = ref(false);
const file = useTemplateRef('file');

async function take(files: FileList | undefined | null): Promise<void> {
  const picture = files?.[0];
  over.value = false;
  if (!picture) return;
  if (picture.size > MOST) {
    failure.value = `“${picture.name}” is larger than ${MOST / MEGABYTE} MB. Choose a smaller one.`;
    return;
  }
  busy.value = true;
  failure.value = '';
  try {
    const kept = await ask(
      api.POST('/api/console/v1/pictures', {
        body: picture as never,
        bodySerializer: (body) => body as never,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
    );
    emit('save', kept.name);
  } catch (error) {
    failure.value = sentenceOf(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <span
    class="picture"
    :class="{ over }"
    role="group"
    :aria-label="label"
    tabindex="-1"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="take($event.dataTransfer?.files)"
    @paste="$event.clipboardData?.files.length && ($event.preventDefault(), take($event.clipboardData.files))"
  >
    <img v-if="name" :src="`/pictures/${name}`" :alt="words" />
    <button class="act" type="button" :disabled="busy" @click="file?.click()">
      {{ busy ? 'being kept …' : name ? 'another' : 'choose, drop or paste one' }}
    </button>
    <input
      ref="file"
      type="file"
      hidden
      accept="image/png,image/jpeg,image/webp"
      @change="take(($event.target as HTMLInputElement).files)"
    />
    <template v-if="name">
      <button class="act" type="button" @click="emit('save', '')">take it away</button>
      for those who cannot see it “<WordInput
        :value="words"
        :label="`What the ${label.toLowerCase()} shows`"
        placeholder="nothing more than the words"
        @save="emit('say', $event)"
      />”
    </template>
    <span v-if="failure" class="call" role="alert">{{ failure }}</span>
  </span>
</template>

<style scoped>
.picture.over {
  outline: 2px solid var(--brass);
}
img {
  height: 40px;
  max-width: 120px;
  object-fit: contain;
  vertical-align: middle;
  margin-right: 8px;
}
.act {
  margin-right: 10px;
}
</style>
