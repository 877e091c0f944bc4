<script setup lang="ts">
import { computed } from 'vue';

/** A file that was brought in: what is wrong with it, row by row, or what it would change, in the slots. */
const {
  name,
  place = 'Row',
  faults,
  count,
} = defineProps<{
  name: string;
  /** What a fault is found by. */
  place?: string;
  faults: { row: number; column: string; sentence: string }[];
  /** How many faults there are in all. */
  count?: number;
}>();

const FEW = 200;
const total = computed(() => count ?? faults.length);
</script>

<template>
  <section class="brought" aria-label="What was brought in">
    <h2>{{ name }}</h2>
    <slot name="before" />
    <template v-if="total">
      <p role="status">
        {{ total === 1 ? 'One thing keeps it' : `${total.toLocaleString()} things keep it` }} from being taken. Mend the file and bring it
        in again; nothing was changed.
      </p>
      <table>
        <thead>
          <tr>
            <th scope="col">{{ place }}</th>
            <th scope="col">Column</th>
            <th scope="col">What is wrong</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(fault, i) in faults.slice(0, FEW)" :key="i">
            <td>{{ fault.row || '–' }}</td>
            <td>{{ fault.column }}</td>
            <td>{{ fault.sentence }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="total > FEW" class="soft">and {{ (total - FEW).toLocaleString() }} more</p>
    </template>
    <slot v-else />
    <p class="ways"><slot name="ways" /></p>
  </section>
</template>

<style scoped>
.brought {
  border: 1px solid var(--rule-strong);
  background: var(--sheet);
  padding: 8px 14px;
  margin: 10px 0;
  position: sticky;
  left: 0;
  max-height: 60vh;
  overflow: auto;
}
/* However long the list is, what can be done about it stays in sight. */
.ways {
  display: flex;
  gap: 16px;
  position: sticky;
  bottom: -8px;
  margin: 0 -14px -8px;
  padding: 8px 14px;
  background: var(--sheet);
  border-top: 1px solid var(--rule);
}
.brought :deep(table) {
  border-collapse: collapse;
  width: 100%;
}
.brought :deep(th),
.brought :deep(td) {
  text-align: left;
  vertical-align: top;
  padding: 3px 12px 3px 0;
  border-bottom: 1px solid var(--rule);
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
</style>
