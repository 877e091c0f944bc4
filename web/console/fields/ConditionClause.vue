<script setup lang="ts">
import Select from 'primevue/select';
import { computed } from 'vue';
import { asGroup, isOver, isTest, partsOf, type Condition, type Explained, type Group, type Over } from './condition';
import ConditionGroup from './ConditionGroup.vue';
import type { Draft, Level } from './draft';

/** A condition: one plain sentence, and under it the ruled rows that it is changed in. */
const { draft, level, sentence, explained, ofKey } = defineProps<{
  draft: Draft;
  level: Level;
  sentence?: string;
  explained?: Explained;
  ofKey: string;
}>();
const condition = defineModel<Condition | null | undefined>({ required: true });

const group = computed(() => asGroup(condition.value));
// A single test is explained as the only part of the group that it is shown in.
const shown = computed<Explained | undefined>(() =>
  explained && condition.value && (isTest(condition.value) || isOver(condition.value))
    ? { holds: explained.holds, saw: '', parts: [explained] }
    : explained,
);

function set(next: Group | Over): void {
  condition.value = !isOver(next) && partsOf(next).length === 0 ? null : next;
}

const others = computed(() => draft.fields.filter((f) => f.field.key !== ofKey && f.field.when && f.field.level === level));
const nameOf = (f: (typeof others.value)[number]): string => f.field.staff_label || f.field.label.en || f.field.key;
</script>

<template>
  <template v-if="condition">{{ sentence }}</template>
  <ConditionGroup class="rows" :model-value="group" :draft="draft" :level="level" :explained="shown" outer @update:model-value="set">
    <Select
      v-if="others.length > 3"
      class="words"
      :model-value="null"
      :options="others"
      :option-label="nameOf"
      placeholder="take over from …"
      aria-label="Take over the condition of another field"
      @update:model-value="condition = $event.field.when as Condition"
    />
    <template v-else>
      <button v-for="other in others" :key="other.field.key" class="act" @click="condition = other.field.when as Condition">
        take over from {{ nameOf(other) }}
      </button>
    </template>
    <button v-if="condition" class="act" @click="condition = null">take it all away</button>
  </ConditionGroup>
</template>

<style scoped>
.rows {
  margin-top: 6px;
}
</style>
