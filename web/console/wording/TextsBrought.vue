<script setup lang="ts">
import { ref, useTemplateRef } from 'vue';
import { api, ask, type Schemas } from '../../shared/api/client';
import { useWork } from '../../shared/work';

/** A table of texts that was brought in: what it would change, all of it or nothing, and what keeps it from being taken. */
const emit = defineEmits<{ taken: [count: number] }>();

const FEW = 200;
const file = ref<{ name: string; csv: string }>();
const read = ref<Schemas['TextsReadView']>();
const chooser = useTemplateRef('chooser');
const { busy, failure, run } = useWork();

async function bring(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const chosen = input.files?.[0];
  // So that the same file can be chosen again, once it was mended.
  input.value = '';
  if (chosen) await compare({ name: chosen.name, csv: await chosen.text() });
}

async function compare(brought: { name: string; csv: string }): Promise<void> {
  file.value = brought;
  read.value = await run(() => ask(api.POST('/api/console/v1/draft/texts/csv/difference', { body: { csv: brought.csv } })));
}

async function take(): Promise<void> {
  const { csv } = file.value!;
  const { digest, changes } = read.value!;
  const done = await run(() => ask(api.POST('/api/console/v1/draft/texts/csv', { body: { csv, seen: digest } })).then(() => true));
  if (!done) {
    // Why is said; what it would change now is shown.
    const why = failure.value;
    await compare(file.value!);
    failure.value = why;
    return;
  }
  leave();
  emit('taken', changes.length);
}

function leave(): void {
  file.value = read.value = undefined;
  chooser.value?.focus();
}
</script>

<template>
  <span class="ways">
    <a class="act" href="/api/console/v1/draft/texts/csv" download="texts.csv">Take it out as CSV</a>
    <label class="act"
      >Bring one in<input ref="chooser" class="visually-hidden" type="file" accept=".csv,text/csv" :disabled="busy" @change="bring"
    /></label>
  </span>
  <section v-if="file" class="brought" aria-label="What was brought in">
    <h2>{{ file.name }}</h2>
    <p v-if="failure" class="call" role="alert">{{ failure }}</p>
    <template v-if="read">
      <template v-if="read.errors.length">
        <p role="status">
          {{ read.errors.length === 1 ? 'One thing keeps it' : `${read.errors.length} things keep it` }} from being taken. Mend the file and
          bring it in again; nothing was changed.
        </p>
        <table>
          <thead>
            <tr>
              <th scope="col">Row</th>
              <th scope="col">Column</th>
              <th scope="col">What is wrong</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(error, i) in read.errors.slice(0, FEW)" :key="i">
              <td>{{ error.row }}</td>
              <td>{{ error.column }}</td>
              <td>{{ error.sentence }}</td>
            </tr>
          </tbody>
        </table>
      </template>
      <p v-else-if="!read.changes.length" role="status">It says what the draft says. There is nothing to put in.</p>
      <template v-else>
        <p role="status">{{ read.changes.length === 1 ? 'One text becomes' : `${read.changes.length} texts become` }} another.</p>
        <table>
          <thead>
            <tr>
              <th scope="col">Where</th>
              <th scope="col">Was</th>
              <th scope="col">Becomes</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="change in read.changes.slice(0, FEW)" :key="`${change.key} ${change.language}`">
              <td>
                {{ change.where }} <span class="soft small">{{ change.key }}, {{ change.language }}</span>
              </td>
              <td :lang="change.language">{{ change.before || '–' }}</td>
              <td :lang="change.language">{{ change.after || '–' }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="read.changes.length > FEW" class="soft">and {{ read.changes.length - FEW }} more</p>
      </template>
    </template>
    <p>
      <button v-if="read?.changes.length && !read.errors.length" type="button" class="act" :disabled="busy" @click="take">
        Put {{ read.changes.length === 1 ? 'it' : `all ${read.changes.length}` }} into the draft
      </button>
      <button type="button" class="act quiet" @click="leave">Leave it</button>
    </p>
  </section>
</template>

<style scoped>
.ways {
  display: inline-flex;
  flex-wrap: wrap;
  gap: 4px 16px;
}
.ways label:focus-within {
  outline: 2px solid var(--ink);
  outline-offset: 2px;
}
.brought {
  border: 1px solid var(--rule-strong);
  background: var(--sheet);
  padding: 8px 14px;
  margin: 10px 0;
  max-height: 60vh;
  overflow: auto;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: left;
  vertical-align: top;
  padding: 3px 12px 3px 0;
  border-bottom: 1px solid var(--rule);
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
</style>
