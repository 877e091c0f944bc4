<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue';
import { dayInWords } from '../../entry/days';

/** Single days, picked from a calendar. */
const { days, label } = defineProps<{ days: string[]; label: string }>();
const emit = defineEmits<{ save: [days: string[] | null] }>();

const DaysCalendar = defineAsyncComponent(() => import('./DaysCalendar.vue'));

const open = ref(false);
const sorted = computed(() => [...days].sort());
const save = (next: string[]) => emit('save', next.length ? [...new Set(next)].sort() : null);
</script>

<template>
  <span role="group" :aria-label="label" @keydown.esc="open = false">
    <span v-for="day in sorted" :key="day" class="day">
      {{ dayInWords(day) }}
      <button class="act" type="button" :aria-label="`Take out ${dayInWords(day)}`" @click="save(days.filter((d) => d !== day))">×</button>
    </span>
    <template v-if="!days.length">none yet</template>
    <button class="act" type="button" :aria-expanded="open" @click="open = !open">{{ open ? 'close the calendar' : 'pick them' }}</button>
    <DaysCalendar v-if="open" :days="sorted" @pick="save" />
  </span>
</template>

<style scoped>
.day {
  white-space: nowrap;
  margin-right: 10px;
}
</style>
