<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, onMounted, ref, useTemplateRef } from 'vue';
import type { ToldUnit } from './answers';
import { say, sayCount } from '../shared/wording';

/** Asks which ones go when the quantity falls: only the shopper knows. Afterwards the focus is where it was. */
const { units, quantity } = defineProps<{ units: ToldUnit[]; quantity: number }>();
const emit = defineEmits<{ keep: [ids: string[]]; cancel: [] }>();

const dropped = ref<string[]>([]);
const root = useTemplateRef<HTMLElement>('root');
const excess = computed(() => units.length - quantity);
let before: Element | null = null;

onMounted(async () => {
  await nextTick();
  before = document.activeElement;
  root.value?.focus();
});
onBeforeUnmount(() => {
  const back = before;
  if (back instanceof HTMLElement && back !== document.body) void nextTick(() => back.isConnected && back.focus());
});
</script>

<template>
  <fieldset ref="root" class="entry-drop" tabindex="-1">
    <legend>{{ sayCount('form.which_go', excess) }}</legend>
    <label v-for="unit in units" :key="unit.id">
      <input v-model="dropped" type="checkbox" :value="unit.id" :disabled="!dropped.includes(unit.id) && dropped.length >= excess" />
      {{ unit.name }} <span class="entry-optional">{{ unit.told || say('form.nothing_filled_in') }}</span>
    </label>
    <button
      type="button"
      class="entry-take"
      :disabled="dropped.length !== excess"
      @click="
        emit(
          'keep',
          units.map((u) => u.id).filter((id) => !dropped.includes(id)),
        )
      "
    >
      {{ sayCount('form.take_out', excess) }}
    </button>
    <button type="button" class="entry-clear" @click="emit('cancel')">{{ say('form.keep_all', units.length) }}</button>
  </fieldset>
</template>
