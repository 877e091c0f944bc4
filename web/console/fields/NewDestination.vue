<script setup lang="ts">
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import Select from 'primevue/select';
import { computed, onMounted, ref, useTemplateRef } from 'vue';
import { ApiError, sentenceOf } from '../../shared/api/client';
import type { Draft, DraftDestination } from './draft';
import { useDraft } from './draft';
import { useProposedKey } from './proposedKey';

/** A new destination: what it is and what it is called; or a copy of another, with all that goes there. The rest is said in its paragraph. */
const { draft, kind: first, copyOf } = defineProps<{ draft: Draft; kind?: string; copyOf?: DraftDestination }>();
const emit = defineEmits<{ added: [key: string]; cancel: [] }>();
const { addDestination } = useDraft();

const kinds = computed(() => draft.destination_kinds.filter((k) => k.can_be_made));
const kind = ref(copyOf?.destination.kind ?? first ?? kinds.value[0]!.key);
const name = ref('');
const failure = ref<{ setting: string; sentence: string }>();
const busy = ref(false);
const root = useTemplateRef<HTMLElement>('root');
const { key, propose, settle, type } = useProposedKey((sentence) => (failure.value = { setting: 'key', sentence }));

function onName(text: string | undefined): void {
  name.value = text ?? '';
  propose(name.value);
}

async function submit(): Promise<void> {
  busy.value = true;
  failure.value = undefined;
  try {
    await settle(name.value);
    emit('added', await addDestination({ name: name.value, key: key.value, kind: kind.value, copy_of: copyOf?.key ?? null }));
  } catch (error) {
    failure.value = { setting: (error instanceof ApiError && error.problem.setting) || '', sentence: sentenceOf(error) };
  } finally {
    busy.value = false;
  }
}

const isWrong = (setting: string) => failure.value?.setting.startsWith(setting) || undefined;
onMounted(() => root.value?.querySelector('input')?.focus());
</script>

<template>
  <form
    ref="root"
    :aria-label="copyOf ? `A copy of ${copyOf.name}` : 'A new destination'"
    @submit.prevent="submit"
    @keydown.esc="emit('cancel')"
  >
    <header class="paragraph-head">
      <h2>{{ copyOf ? `A copy of ${copyOf.name}` : 'A new destination' }}</h2>
      <p class="small soft">
        {{ copyOf ? 'It begins with all that goes there, under the same names.' : 'Nothing goes there until it is switched on.' }}
      </p>
    </header>
    <dl class="clauses">
      <template v-if="!copyOf">
        <dt>As</dt>
        <dd>
          <Select
            v-model="kind"
            class="words"
            :options="kinds"
            :option-label="(k) => `${k.name} (${k.family.name.toLowerCase()})`"
            option-value="key"
            aria-label="What it is"
          />
        </dd>
      </template>
      <dt>Called</dt>
      <dd>
        “<InputText
          class="words wide"
          :model-value="name"
          aria-label="Name"
          placeholder="what staff call it"
          autocomplete="off"
          :aria-invalid="isWrong('name')"
          @update:model-value="onName"
        />”
      </dd>
      <dt>Key</dt>
      <dd>
        <InputText
          class="words mono"
          :model-value="key"
          aria-label="Key"
          autocomplete="off"
          :aria-invalid="isWrong('key')"
          @update:model-value="type($event ?? '')"
        />
        <span class="small soft"> never changes</span>
      </dd>
    </dl>
    <p v-if="failure" class="call say" role="alert">{{ failure.sentence }}</p>
    <p class="say">
      <Button class="button main" type="submit" :disabled="busy || !name.trim()">Add it to the draft</Button>
      <button class="act" type="button" @click="emit('cancel')">Leave it</button>
    </p>
  </form>
</template>

<style scoped>
.wide {
  min-width: 200px;
}
.say {
  margin: 10px var(--edge);
  display: flex;
  gap: 16px;
}
</style>
