<script setup lang="ts">
import { computed, defineAsyncComponent, nextTick, ref, useTemplateRef } from 'vue';
import { dayInWords, type OpenDays } from '../days';
import { say } from '../../shared/wording';

/** A day: typed as the language writes it, or picked from a calendar that knows which can be chosen. The server reads what is typed. */
const { id, label, days, required, describedBy, invalid } = defineProps<{
  id: string;
  /** What it is the day of. */
  label: string;
  days?: OpenDays | null;
  required: boolean;
  describedBy?: string;
  invalid: boolean;
}>();
const model = defineModel<string>({ required: true });

// Loaded where somebody wants it.
const DayCalendar = defineAsyncComponent(() => import('./DayCalendar.vue'));

const typed = ref<string>();
const open = ref(false);
const input = useTemplateRef('input');
const shown = computed(() => typed.value ?? dayInWords(model.value));

function onInput(event: Event): void {
  typed.value = (event.target as HTMLInputElement).value;
  model.value = typed.value;
}

async function close(day?: string): Promise<void> {
  typed.value = undefined;
  if (day) model.value = day;
  open.value = false;
  await nextTick();
  input.value?.focus();
}
</script>

<template>
  <div class="entry-day" @keydown.esc="open && ($event.stopPropagation(), close())">
    <input
      :id="id"
      ref="input"
      class="entry-input"
      type="text"
      autocomplete="off"
      :value="shown"
      :required="required"
      :aria-describedby="describedBy"
      :aria-invalid="invalid || undefined"
      @input="onInput"
      @blur="typed = undefined"
    />
    <button type="button" class="entry-button" :aria-expanded="open" @click="open ? close() : (open = true)">
      <svg width="18" height="18" viewBox="0 0 18 18" aria-hidden="true" fill="none" stroke="currentColor" stroke-width="1.5">
        <path d="M1.5 3.5h15v13h-15zM1.5 7.5h15M5.5 1v4M12.5 1v4M5 10.5h2M8 10.5h2M11 10.5h2M5 13.5h2M8 13.5h2" />
      </svg>
      <span class="visually-hidden">{{ say('form.calendar_for', label) }}</span>
    </button>
    <DayCalendar v-if="open" :value="model" :days="days" :label="label" @pick="close" />
  </div>
</template>
