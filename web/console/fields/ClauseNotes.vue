<script setup lang="ts">
import MarkSign from '../parts/MarkSign.vue';
import type { Draft } from './draft';
import { useDraft } from './draft';

/** What stands under a clause: its problems with their remedies, and what was refused of the last change. */
const { of, problems, settings, elsewhere = [] } = defineProps<{
  of: string;
  problems: Draft['problems'];
  settings: string[];
  /** Of those, what another clause is about. */
  elsewhere?: string[];
}>();
const { change, refused } = useDraft();

const isHere = (setting: string) => !elsewhere.includes(setting) && (settings.includes(setting.split('.')[0] ?? '') || settings.includes(setting));
</script>

<template>
  <div v-for="problem in problems.filter((p) => p.field === of && isHere(p.setting))" :key="problem.setting + problem.sentence" class="note">
    <MarkSign sign="raised_flag" />
    <div>
      <b>{{ problem.sentence }}</b>
      <button v-for="remedy in problem.remedies" :key="remedy.label" class="act" @click="change(of, remedy.setting, remedy.value)">{{ remedy.label }}</button>
    </div>
  </div>
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
