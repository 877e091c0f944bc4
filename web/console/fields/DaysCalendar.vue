<script setup lang="ts">
import { h } from 'vue';
import { monthTurns } from '../../entry/controls/monthTurns';
import { locale } from '../../shared/wording';

/** A calendar in which several days are picked, two months at a time. */
const { days } = defineProps<{ days: string[] }>();
const emit = defineEmits<{ pick: [days: string[]] }>();

// An element of its own: its months, and the keys in them, are those of the library.
const Months = () =>
  h(
    'calendar-multi',
    {
      value: days.join(' '),
      months: 2,
      locale: locale(),
      firstDayOfWeek: 1,
      onChange: (event: Event) => emit('pick', (event.target as HTMLInputElement).value.split(' ').filter(Boolean)),
    },
    [...monthTurns(), h('div', { class: 'months' }, [h('calendar-month'), h('calendar-month', { offset: 1 })])],
  );
</script>

<template>
  <div class="calendar"><Months /></div>
</template>

<style scoped>
.calendar {
  margin: 6px 0;
  padding: 8px 10px;
  border: 1px solid var(--rule-strong);
  background: var(--sheet);
  width: max-content;
  max-width: 100%;
  overflow: auto;
}
.calendar :deep(.months) {
  display: flex;
  gap: 16px;
}
.calendar :deep(calendar-month) {
  --color-accent: var(--ink);
  --color-text-on-accent: var(--sheet);
}
.calendar :deep(calendar-month)::part(button) {
  border-radius: 0;
}
</style>
