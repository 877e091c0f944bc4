<script setup lang="ts">
import { computed, ref } from 'vue';
import { api, ask } from '../../shared/api/client';
import { useWork } from '../../shared/work';
import MarkSign from '../parts/MarkSign.vue';
import { dayAndTime, inFull } from '../parts/when';
import type { Draft } from './draft';
import { useDraft } from './draft';

/** What stands under a clause: its problems with their remedies, what was accepted because it is meant, and what was refused of the last change. */
const {
  of,
  problems,
  settings,
  elsewhere = [],
} = defineProps<{
  of: string;
  problems: Draft['problems'];
  settings: string[];
  /** Of those, what another clause is about. */
  elsewhere?: string[];
}>();
const { change, refused, draft, refresh } = useDraft();

const accepting = ref('');
const reason = ref('');
const { failure, run } = useWork();
const accepted = computed(() => draft.value?.accepted ?? []);
const keyOf = (problem: Draft['problems'][number]) => `${problem.code} ${problem.setting}`;

async function accept({ code, field, setting, basis }: Draft['problems'][number]): Promise<void> {
  await run(async () => {
    await ask(api.PUT('/api/console/v1/draft/accepted', { body: { code, field, setting, basis: basis ?? '', reason: reason.value } }));
    accepting.value = '';
  });
  // Refused, too: somebody changed or accepted it meanwhile.
  await refresh();
}

async function withdraw({ code, field, setting }: { code: string; field: string; setting: string }): Promise<void> {
  await run(async () => {
    await ask(api.DELETE('/api/console/v1/draft/accepted', { params: { query: { code, field, setting } } }));
    await refresh();
  });
}

const isHere = (setting: string) =>
  !elsewhere.includes(setting) && (settings.includes(setting.split('.')[0] ?? '') || settings.includes(setting));
</script>

<template>
  <div
    v-for="problem in problems.filter((p) => p.field === of && isHere(p.setting))"
    :key="problem.setting + problem.sentence"
    class="note"
    :data-setting="problem.setting"
  >
    <MarkSign sign="raised_flag" />
    <div>
      <b>{{ problem.sentence }}</b>
      <template v-for="remedy in problem.remedies" :key="remedy.label"
        >{{ ' ' }}<button class="act" @click="change(of, remedy.setting, remedy.value)">{{ remedy.label }}</button></template
      >
      <template v-if="problem.basis">
        {{ ' '
        }}<button v-if="accepting !== keyOf(problem)" class="act" @click="((accepting = keyOf(problem)), (reason = ''))">
          this is intended
        </button>
        <form v-else @submit.prevent="accept(problem)">
          <label>Why this is intended <input v-model="reason" required maxlength="200" /></label>
          <button class="act">accept it</button>{{ ' ' }}
          <button class="act" type="button" @click="accepting = ''">leave it</button>
        </form>
        <p v-if="failure && accepting === keyOf(problem)" class="call" role="alert">{{ failure }}</p>
      </template>
    </div>
  </div>
  <p v-for="meant in accepted.filter((p) => p.field === of && isHere(p.setting))" :key="meant.setting + meant.code" class="soft small">
    Intended: {{ meant.reason }} ({{ meant.by }}, <span :title="inFull(meant.at)">{{ dayAndTime(meant.at) }}</span>)
    <button class="act" :title="meant.sentence" @click="withdraw(meant)">no longer accept it</button>
  </p>
  <p v-if="refused?.field === of && isHere(refused.setting)" class="call" role="alert">{{ refused.sentence }}</p>
</template>

<style scoped>
.note {
  margin: 8px 0 -9px -72px;
}
p {
  margin: 0;
}
</style>
