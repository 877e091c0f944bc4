<script setup lang="ts">
import { computed } from 'vue';
import FileList from '../../shared/FileList.vue';
import type { Schemas } from '../../shared/api/client';

/** Answers as a page tells them: of a line and of each one of it, or of the order. */
const {
  entries,
  line = null,
  units = [],
} = defineProps<{ entries: Schemas['EntryView'][]; line?: string | null; units?: { id: string; name: string }[] }>();

const groups = computed(() => {
  const own = entries.filter((e) => e.line_id === line);
  return [
    { id: '', name: '', told: own.filter((e) => e.unit_id === null) },
    ...units.map((u) => ({ ...u, told: own.filter((e) => e.unit_id === u.id) })),
  ].filter((g) => g.told.length);
});
</script>

<template>
  <div v-for="group in groups" :key="group.id" class="told-group">
    <h3 v-if="group.name">{{ group.name }}</h3>
    <dl class="told">
      <template v-for="entry in group.told" :key="entry.slot">
        <dt>{{ entry.name }}</dt>
        <dd :data-slot="entry.slot">
          <FileList v-if="entry.files.length" :files="entry.files" /><template v-else>{{ entry.text }}</template>
        </dd>
      </template>
    </dl>
  </div>
</template>

<style scoped>
h3 {
  font: 600 1rem var(--work);
  margin: 0.4rem 0 0.1rem;
}
.told {
  margin: 0;
}
</style>
