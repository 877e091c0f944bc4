<script setup lang="ts">
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { ref } from 'vue';
import { sentenceOf } from '../../shared/api/client';
import SealOfSexton from '../parts/SealOfSexton.vue';
import { session, signIn } from '../session';

const email = ref('');
const password = ref('');
const busy = ref(false);
const failure = ref('');

async function submit(): Promise<void> {
  busy.value = true;
  failure.value = '';
  try {
    await signIn(email.value, password.value);
  } catch (error) {
    failure.value = sentenceOf(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <main class="gate">
    <form @submit.prevent="submit">
      <h1><SealOfSexton /> Sexton</h1>
      <p class="soft">{{ session?.shop }}: the register of what is asked, and where the answers go.</p>
      <label for="email">E-mail</label>
      <InputText id="email" v-model="email" class="line" type="email" autocomplete="username" required />
      <label for="password">Password</label>
      <InputText id="password" v-model="password" class="line" type="password" autocomplete="current-password" required />
      <p class="call" role="alert">{{ failure }}</p>
      <Button class="button main" type="submit" :disabled="busy">Sign in</Button>
    </form>
  </main>
</template>

<style scoped>
.gate.gate {
  display: grid;
  place-items: center;
  min-height: 100%;
}
form {
  width: min(340px, 100% - 2 * var(--edge));
  border-top: 2px solid var(--ink);
  border-bottom: 1px solid var(--rule-strong);
  padding: 20px 0 26px;
}
h1 {
  display: flex;
  align-items: center;
  gap: 9px;
}
label {
  display: block;
  margin-top: 14px;
  color: var(--ink-soft);
  font-size: var(--size-small);
}
[role='alert'] {
  min-height: 1.35em;
}
</style>
