<script setup lang="ts">
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import Textarea from 'primevue/textarea';
import { onMounted, useId, useTemplateRef } from 'vue';

/** Asks for a line before something is done: a reason, or a secret, which nobody should read over a shoulder. */
const { label, action, failure, busy, secret, lines } = defineProps<{
  label: string;
  action: string;
  failure: string;
  busy: boolean;
  secret?: boolean;
  /** Whether it may have several lines, as a private key has. */
  lines?: boolean;
}>();
const emit = defineEmits<{ say: [text: string]; cancel: [] }>();
const text = defineModel<string>({ default: '' });
const id = useId();
const form = useTemplateRef('form');

onMounted(() => form.value?.querySelector<HTMLElement>('input, textarea')?.focus());
</script>

<template>
  <form ref="form" class="note" @submit.prevent="emit('say', text)" @keydown.escape="emit('cancel')">
    <slot></slot>
    <label :for="id">{{ label }}</label>
    <Textarea v-if="lines" :id="id" v-model="text" class="mono" rows="3" maxlength="10000" autocomplete="off" :invalid="!!failure" />
    <InputText
      v-else
      :id="id"
      v-model="text"
      :type="secret ? 'password' : 'text'"
      :autocomplete="secret ? 'new-password' : 'off'"
      maxlength="500"
      :invalid="!!failure"
    />
    <Button type="submit" class="button" :disabled="busy || !text.trim()">{{ action }}</Button>
    <button type="button" class="act" @click="emit('cancel')">leave it</button>
    <span v-if="failure" class="call" role="alert">{{ failure }}</span>
  </form>
</template>

<style scoped>
.note {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: center;
  padding: 8px 0;
  border-bottom: 1px solid var(--rule-strong);
}
.note .p-inputtext,
.note .p-textarea {
  flex: 1 1 260px;
}
</style>
