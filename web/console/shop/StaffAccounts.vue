<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import Select from 'primevue/select';
import { ref } from 'vue';
import { api, ask, sentenceOf, type Schemas } from '../../shared/api/client';
import { useWork } from '../../shared/work';
import NoteForm from '../parts/NoteForm.vue';
import { session } from '../session';

/** Who works with Sexton, and what each may do. */
const client = useQueryClient();
const query = useQuery({ queryKey: ['shop', 'accounts'], queryFn: () => ask(api.GET('/api/console/v1/shop/accounts')) });
const roles = [
  { key: 'manager', name: 'manager: everything' },
  { key: 'packer', name: 'packer: prepares lines, reads orders' },
  { key: 'support', name: 'support: orders, evidence, deliveries' },
  { key: 'viewer', name: 'viewer: reads orders and deliveries' },
];
const { failure, busy, run } = useWork();
const making = ref(false);
const made = ref({ email: '', name: '', role: 'packer', password: '' });
const resetting = ref<string>();

async function act(work: () => Promise<unknown>): Promise<void> {
  await run(work);
  await client.invalidateQueries({ queryKey: ['shop'] });
}

const change = (account: Schemas['AccountView'], to: Partial<Schemas['AccountChange']>) =>
  act(() =>
    ask(
      api.PUT('/api/console/v1/shop/accounts/{id}', {
        params: { path: { id: account.id } },
        body: { name: account.name, role: account.role, disabled: account.disabled, ...to },
      }),
    ),
  );

async function make(): Promise<void> {
  await act(() => ask(api.POST('/api/console/v1/shop/accounts', { body: made.value })));
  if (!failure.value) {
    making.value = false;
    made.value = { email: '', name: '', role: 'packer', password: '' };
  }
}

async function reset(id: string, password: string): Promise<void> {
  await act(() => ask(api.PUT('/api/console/v1/shop/accounts/{id}/password', { params: { path: { id } }, body: { password } })));
  if (!failure.value) resetting.value = undefined;
}
</script>

<template>
  <section class="shop-part" aria-label="People">
    <h2>People</h2>
    <p v-if="query.error.value" class="call" role="alert">{{ sentenceOf(query.error.value) }}</p>
    <table class="ruled">
      <thead>
        <tr>
          <th>Name</th>
          <th>Signs in as</th>
          <th>May</th>
          <th><span class="visually-hidden">What can be done</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="account in query.data.value ?? []" :key="account.id" :class="{ soft: account.disabled }">
          <td>
            {{ account.name }}<span v-if="account.disabled"> (disabled)</span><span v-if="account.name === session?.name"> (you)</span>
          </td>
          <td>{{ account.email }}</td>
          <td>
            <Select
              class="words"
              :model-value="account.role"
              :options="roles"
              option-label="name"
              option-value="key"
              :aria-label="`What ${account.name} may do`"
              :disabled="busy"
              @update:model-value="change(account, { role: $event })"
            />
          </td>
          <td>
            <button class="act" :disabled="busy" @click="change(account, { disabled: !account.disabled })">
              {{ account.disabled ? 'enable' : 'disable' }}<span class="visually-hidden"> {{ account.name }}</span>
            </button>
            ·
            <button class="act" @click="resetting = account.id">
              another password<span class="visually-hidden"> for {{ account.name }}</span>
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <NoteForm
      v-if="resetting"
      :label="`Another password for ${query.data.value?.find((a) => a.id === resetting)?.name}, 12 characters or more`"
      action="Give it"
      secret
      :failure="failure"
      :busy="busy"
      @say="reset(resetting, $event)"
      @cancel="resetting = undefined"
    />
    <form v-else-if="making" class="shop-form" @submit.prevent="make()">
      <label>Name <InputText v-model="made.name" required /></label>
      <label>E-mail address <InputText v-model="made.email" type="email" required /></label>
      <label>May <Select v-model="made.role" :options="roles" option-label="name" option-value="key" aria-label="May" /></label>
      <label
        >Password, 12 characters or more <InputText v-model="made.password" type="password" autocomplete="new-password" required
      /></label>
      <Button type="submit" class="button" :disabled="busy">Make the account</Button>
      <button type="button" class="act" @click="making = false">leave it</button>
    </form>
    <p v-else class="small"><button class="act" @click="making = true">make an account</button></p>
    <p v-if="failure && !resetting" class="call" role="alert">{{ failure }}</p>
  </section>
</template>
