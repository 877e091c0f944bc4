<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, ref } from 'vue';
import { api, ask, sentenceOf, type Schemas } from '../../shared/api/client';
import { useWork } from '../../shared/work';
import NoteForm from '../parts/NoteForm.vue';
import { dayAndTime, inFull } from '../parts/when';

/** The ways out to other systems, with their secrets: given, turned over, never shown. */
type Connection = Schemas['ConnectionView'];
const client = useQueryClient();
const query = useQuery({ queryKey: ['shop', 'connections'], queryFn: () => ask(api.GET('/api/console/v1/shop/connections')) });
const { failure, busy, run } = useWork();
const writing = ref(false);
const form = ref({ key: '', name: '', address: '', revision: 0 });
const giving = ref<string>();
const secret = ref('');
const made = ref(false);
const reached = ref<{ key: string; detail: string; answers: boolean; host_key?: string | null }>();
const given = computed(() => query.data.value?.find((c) => c.key === giving.value));
const isForFiles = (c?: Connection) => !!c?.address.startsWith('sftp:');

async function act(work: () => Promise<unknown>): Promise<boolean> {
  await run(work);
  await client.invalidateQueries({ queryKey: ['shop'] });
  return !failure.value;
}

const at = (key: string) => ({ params: { path: { key } } });

function begin(c?: Connection): void {
  form.value = c ? { key: c.key, name: c.name, address: c.address, revision: c.revision } : { key: '', name: '', address: '', revision: 0 };
  writing.value = true;
}

async function write(): Promise<void> {
  const { key, ...body } = form.value;
  if (await act(() => ask(api.PUT('/api/console/v1/shop/connections/{key}', { ...at(key), body })))) writing.value = false;
}

function beginGiving(key: string): void {
  [giving.value, secret.value, made.value] = [key, '', false];
}

/** A key to sign events with, of 32 bytes as Standard Webhooks writes them: shown, since the other side needs it too. */
function make(): void {
  secret.value = 'whsec_' + btoa(String.fromCharCode(...crypto.getRandomValues(new Uint8Array(32))));
  made.value = true;
}

async function give(key: string): Promise<void> {
  const body = { secret: secret.value };
  if (await act(() => ask(api.PUT('/api/console/v1/shop/connections/{key}/secret', { ...at(key), body })))) giving.value = undefined;
}

async function trust(key: string, fingerprint: string): Promise<void> {
  const body = { fingerprint };
  if (await act(() => ask(api.PUT('/api/console/v1/shop/connections/{key}/host-key', { ...at(key), body })))) await reach(key);
}

const remove = (key: string) => act(() => ask(api.DELETE('/api/console/v1/shop/connections/{key}', at(key))));
const forget = (key: string) => act(() => ask(api.DELETE('/api/console/v1/shop/connections/{key}/secrets/before', at(key))));

async function reach(key: string): Promise<void> {
  const reply = await run(() => ask(api.POST('/api/console/v1/shop/connections/{key}/reach', at(key))));
  reached.value = reply && { key, ...reply };
}
</script>

<template>
  <section class="shop-part" aria-label="Connections">
    <h2>Connections</h2>
    <p class="small soft">
      By these makers, back offices, whoever is told events, and places for files (sftp) are reached. A secret is kept encrypted and never
      shown again; after another is given, the one before still counts until you take it away: it is shown where the new one is refused, and
      events are signed with both.
    </p>
    <p v-if="query.error.value" class="call" role="alert">{{ sentenceOf(query.error.value) }}</p>
    <p v-if="query.data.value?.length === 0">None yet: the back office goes by the connection of the installation.</p>
    <table v-if="query.data.value?.length" class="ruled">
      <thead>
        <tr>
          <th>Name</th>
          <th>Address</th>
          <th>Secret</th>
          <th><span class="visually-hidden">What can be done</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="c in query.data.value" :key="c.key">
          <td>
            {{ c.name }} <span class="mono soft">{{ c.key }}</span>
          </td>
          <td>
            <span class="mono">{{ c.address }}</span>
            <div v-if="reached?.key === c.key" class="small" :class="{ call: !reached.answers }" role="status">
              {{ reached.detail }}
              <button v-if="reached.host_key" class="act" :disabled="busy" @click="trust(c.key, reached.host_key)">
                trust this host key
              </button>
            </div>
            <div v-else-if="isForFiles(c) && !c.host_key" class="small soft">its host key is not trusted yet: reach it, and compare</div>
          </td>
          <td>
            <template v-if="c.secret_at"
              >given <span :title="inFull(c.secret_at)">{{ dayAndTime(c.secret_at) }}</span></template
            ><span v-else class="soft">none</span>
            <div v-if="c.has_secret_before" class="small">
              the one before still counts <button class="act" :disabled="busy" @click="forget(c.key)">take it away</button>
            </div>
          </td>
          <td>
            <button class="act" :disabled="busy" :aria-label="`Reach ${c.name}`" @click="reach(c.key)">reach it</button> ·
            <button class="act" :aria-label="`Change ${c.name}`" @click="begin(c)">change</button> ·
            <button class="act" :aria-label="`Give ${c.name} a secret`" @click="beginGiving(c.key)">
              {{ c.secret_at ? 'another secret' : 'a secret' }}
            </button>
            · <button class="act" :disabled="busy" :aria-label="`Take out ${c.name}`" @click="remove(c.key)">take out</button>
          </td>
        </tr>
      </tbody>
    </table>
    <NoteForm
      v-if="giving"
      v-model="secret"
      :label="`The secret of ${given?.name}${isForFiles(given) ? ': a password, or a private key' : ''}`"
      action="Give it"
      :secret="!made"
      :lines="isForFiles(given)"
      :failure="failure"
      :busy="busy"
      @say="give(giving)"
      @cancel="giving = undefined"
    >
      <p v-if="!isForFiles(given)" class="small soft note-line">
        To sign events with:
        <button type="button" class="act" @click="make()">make one</button>
        <template v-if="made">{{ ' ' }}and give it to whoever is told, too: it is not shown again</template>
      </p>
    </NoteForm>
    <form v-else-if="writing" class="shop-form" @submit.prevent="write()">
      <label>Name <InputText v-model="form.name" required /></label>
      <label>Key <InputText v-model="form.key" class="mono" :disabled="!!form.revision" required /></label>
      <label
        >Address
        <InputText
          v-model="form.address"
          class="mono"
          placeholder="https://jobs.example/v1 or sftp://shop@files.example/inbox"
          size="40"
          required
      /></label>
      <Button type="submit" class="button" :disabled="busy">{{ form.revision ? 'Change it' : 'Make the connection' }}</Button>
      <button type="button" class="act" @click="writing = false">leave it</button>
    </form>
    <p v-else class="small"><button class="act" @click="begin()">make a connection</button></p>
    <p v-if="failure && !giving" class="call" role="alert">{{ failure }}</p>
  </section>
</template>

<style scoped>
.note-line {
  flex-basis: 100%;
  margin: 0;
}
</style>
