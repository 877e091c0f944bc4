<script setup lang="ts">
import { computed, nextTick, onMounted, ref, useTemplateRef } from 'vue';
import type { Unit } from './answers';

/** Asks which ones go when the quantity falls: only the shopper knows. */
const { units, names, quantity } = defineProps<{ units: Unit[]; names: { id: string; name: string }[]; quantity: number }>();
const emit = defineEmits<{ keep: [units: Unit[]]; cancel: [] }>();

const dropped = ref<string[]>([]);
const root = useTemplateRef<HTMLElement>('root');
const excess = computed(() => units.length - quantity);
const nameOf = (id: string) => names.find((n) => n.id === id)?.name ?? id;
const told = (unit: Unit) => Object.values(unit.answers).filter((a) => typeof a === 'string' && a.trim()).slice(0, 3).join(', ');

onMounted(async () => {
  await nextTick();
  root.value?.focus();
});
</script>

<template>
  <fieldset ref="root" class="entry-drop" tabindex="-1">
    <legend>{{ excess === 1 ? 'Which one goes?' : `Which ${excess} go?` }}</legend>
    <label v-for="unit in units" :key="unit.id">
      <input v-model="dropped" type="checkbox" :value="unit.id" :disabled="!dropped.includes(unit.id) && dropped.length >= excess" />
      {{ nameOf(unit.id) }} <span class="entry-optional">{{ told(unit) || 'nothing filled in' }}</span>
    </label>
    <button type="button" class="entry-take" :disabled="dropped.length !== excess" @click="emit('keep', units.filter((u) => !dropped.includes(u.id)))">Take {{ excess === 1 ? 'it' : 'them' }} out</button>
    <button type="button" class="entry-clear" @click="emit('cancel')">Keep {{ units.length }}</button>
  </fieldset>
</template>
