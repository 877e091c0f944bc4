<script setup lang="ts">
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { onMounted, ref, useId, useTemplateRef } from 'vue';

/** Asks for a line before something is done: a reason, or a secret, which nobody should read over a shoulder. */
const { label, action, failure, busy, secret } = defineProps<{
  label: string;
  action: string;
  failure: string;
  busy: boolean;
  secret?: boolean;
}>();
const emit = defineEmits<{ say: [text: string]; cancel: [] }>();
const text = ref('');
const id = useId();
const form = useTemplateRef('form');

onMounted(() => form.value?.querySelector('input')?.focus());
</script>

<template>
  <form ref="form" class="note" @submit.prevent="emit('say', text)" @keydown.escape="emit('cancel')">
    <slot></slot>
    <label :for="id">{{ label }}</label>
    <InputText
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
.note .p-inputtext {
  flex: 1 1 260px;
}
</style>
