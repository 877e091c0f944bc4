<script setup lang="ts">
import { nextTick, ref, useTemplateRef } from 'vue';
import { api, ask, type Schemas } from '../../shared/api/client';
import { useWork } from '../../shared/work';
import BringIn from '../parts/BringIn.vue';
import BroughtIn from '../parts/BroughtIn.vue';

/** A table of texts that was brought in: what it would change, all of it or nothing, and what keeps it from being taken. */
const emit = defineEmits<{ taken: [count: number] }>();

const FEW = 200;
const file = ref<{ name: string; csv: string }>();
const read = ref<Schemas['TextsReadView']>();
const chooser = useTemplateRef('chooser');
const { busy, failure, run } = useWork();

const bring = async (chosen: File) => compare({ name: chosen.name, csv: await chosen.text() });

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
  await leave();
  emit('taken', changes.length);
}

async function leave(): Promise<void> {
  file.value = read.value = undefined;
  await nextTick();
  chooser.value?.focus();
}
</script>

<template>
  <BringIn ref="chooser" accept=".csv,text/csv" :busy="busy" @file="bring">
    <a class="act" href="/api/console/v1/draft/texts/csv" download="texts.csv">Take it out as CSV</a>
  </BringIn>
  <BroughtIn v-if="file" :name="file.name" :faults="read?.errors ?? []">
    <template #before
      ><p v-if="failure" class="call" role="alert">{{ failure }}</p></template
    >
    <p v-if="read && !read.changes.length" role="status">It says what the draft says. There is nothing to put in.</p>
    <template v-else-if="read">
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
    <template #ways>
      <button v-if="read?.changes.length && !read.errors.length" type="button" class="act" :disabled="busy" @click="take">
        Put {{ read.changes.length === 1 ? 'it' : `all ${read.changes.length}` }} into the draft
      </button>
      <button type="button" class="act quiet" @click="leave">Leave it</button>
    </template>
  </BroughtIn>
</template>
