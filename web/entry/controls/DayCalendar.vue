<script setup lang="ts">
import { computed, h, onMounted, ref, useTemplateRef } from 'vue';
import { isIsoDay, isLeftOut, type OpenDays } from '../days';
import { monthTurns } from './monthTurns';
import { locale, say } from '../../shared/wording';

/** A month of days to pick from, with a list of years where months alone would take long. */
const { value, days, label } = defineProps<{ value: string; days?: OpenDays | null; label: string }>();
const emit = defineEmits<{ pick: [day: string] }>();

const FURTHEST = 110;
const SOON = 20;
const today = new Date();
const iso = (date: Date) => date.toISOString().slice(0, 10);
const within = (day: string) => (days?.from && day < days.from ? days.from : days?.to && day > days.to ? days.to : day);

const root = useTemplateRef<HTMLElement>('root');
const chosen = computed(() => (isIsoDay(value) ? value : ''));
const focused = ref(within(chosen.value || iso(today)));
const years = computed(() => {
  const first = days?.from ? Number(days.from.slice(0, 4)) : today.getFullYear() - FURTHEST;
  const last = days?.to ? Number(days.to.slice(0, 4)) : today.getFullYear() + SOON;
  return Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => first + i);
});

function turnTo(year: string): void {
  const [, month, day] = focused.value.split('-');
  // The 28th is there in every month.
  focused.value = within(`${year.padStart(4, '0')}-${month}-${Number(day) > 28 ? '28' : day}`);
}

// An element of its own: its months, and the keys in them, are those of the library.
const Month = () =>
  h(
    'calendar-date',
    {
      value: chosen.value,
      min: days?.from ?? '',
      max: days?.to ?? '',
      locale: locale(),
      firstDayOfWeek: 1,
      focusedDate: focused.value,
      isDateDisallowed: (day: Date) => isLeftOut(day, days),
      onFocusday: (event: CustomEvent<Date>) => (focused.value = iso(event.detail)),
      onChange: (event: Event) => emit('pick', (event.target as HTMLInputElement).value),
    },
    [...monthTurns(), h('calendar-month')],
  );

// Once its days are drawn, which is after this is.
onMounted(() => requestAnimationFrame(() => root.value?.querySelector<HTMLElement>('calendar-date')?.focus()));
</script>

<template>
  <div ref="root" class="entry-calendar" role="group" :aria-label="say('form.calendar_for', label)">
    <label v-if="years.length > 2" class="entry-year"
      >{{ say('form.year') }}
      <select class="entry-input" :value="Number(focused.slice(0, 4))" @change="turnTo(($event.target as HTMLSelectElement).value)">
        <option v-for="year in years" :key="year" :value="year">{{ year }}</option>
      </select></label
    >
    <Month />
  </div>
</template>
