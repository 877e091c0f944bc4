<script setup lang="ts">
import Select from 'primevue/select';
import { computed } from 'vue';
import {
  asGroup,
  isOver,
  isTest,
  joinOf,
  joins,
  partsOf,
  quantifiers,
  relationIn,
  testOf,
  type Condition,
  type Explained,
  type Group,
  type Join,
  type Over,
} from './condition';
import ConditionTest from './ConditionTest.vue';
import type { Draft, Level } from './draft';
import WordInput from './WordInput.vue';

/** Conditions joined, bound by a rule at the left; groups within groups, and what is tested of lines or units. */
const { draft, level, explained, outer } = defineProps<{ draft: Draft; level: Level; explained?: Explained; outer?: boolean }>();
const condition = defineModel<Group | Over>({ required: true });
const emit = defineEmits<{ remove: [] }>();

const over = computed(() => (isOver(condition.value) ? condition.value : undefined));
const group = computed(() => (over.value ? asGroup(over.value.where) : (condition.value as Group)));
const parts = computed(() => partsOf(group.value));
const inner = computed<Level>(() => (!over.value ? level : over.value.units !== undefined ? 'unit' : 'line'));
const quantifier = computed(() => over.value?.lines ?? over.value?.units ?? 'any');
const counted = computed(() => (over.value ? relationIn(over.value) : []));
const join = computed({ get: () => joinOf(group.value), set: (kind: Join) => put({ [kind]: parts.value }) });
const explainedOf = (i: number) => explained?.parts[i];

const joinOptions = Object.entries(joins).map(([key, name]) => ({ key, name }));
const quantifierOptions = computed(() =>
  Object.entries(quantifiers).map(([key, name]) => ({ key, name: key === 'count' ? name : `${name} ${inner.value}` })),
);
const comparisons = computed(() => (draft.relations.number ?? []).filter((r) => r.takes_value));

function put(next: Group): void {
  condition.value = over.value ? { ...over.value, where: partsOf(next).length ? next : null } : next;
}

const setParts = (next: Condition[]) => put({ [join.value]: next });
const setPart = (i: number, part: Condition) => setParts(parts.value.map((p, j) => (j === i ? part : p)));
const removePart = (i: number) => setParts(parts.value.filter((_, j) => j !== i));

function addTest(): void {
  const first = draft.facts.find((f) => f.key === (inner.value === 'order' ? 'group' : 'product'))!;
  setParts([...parts.value, testOf(first.key, 'is', null)]);
}

function setQuantifier(key: string): void {
  if (key === 'count') setOver(key, 'at_least', 1);
  else setOver(key);
}

function setCount(text: string): void {
  const value = Math.trunc(Number(text));
  if (Number.isFinite(value) && value >= 0) setOver('count', counted.value[0] ?? 'at_least', value);
}

function setOver(key: string, relation?: string, value?: unknown): void {
  const member = over.value?.units !== undefined ? 'units' : 'lines';
  condition.value = { [member]: key, ...(relation ? { [relation]: value } : {}), where: over.value?.where } as Over;
}
</script>

<template>
  <div class="group" role="group" aria-label="Conditions">
    <p class="join">
      <template v-if="over">
        of
        <Select
          class="words"
          :model-value="quantifier"
          :options="quantifierOptions"
          option-label="name"
          option-value="key"
          aria-label="Of how many"
          @update:model-value="setQuantifier"
        />
        <template v-if="quantifier === 'count'">
          {{ inner }}s
          <Select
            class="words"
            :model-value="counted[0]"
            :options="comparisons"
            option-label="words"
            option-value="key"
            aria-label="How the number is compared"
            @update:model-value="setOver('count', $event, counted[1])"
          />
          <WordInput :value="String(counted[1] ?? 1)" label="With which number" numeric @save="setCount" />
        </template>
        <template v-if="parts.length"> hold</template>
      </template>
      <Select
        v-if="!over || parts.length > 1"
        v-model="join"
        class="words"
        :options="joinOptions"
        option-label="name"
        option-value="key"
        aria-label="How they are joined"
      />
      <span v-if="over && explained" class="seen" :class="{ holds: explained.holds }"
        >{{ explained.holds ? 'holds' : 'does not hold' }}: {{ explained.saw }}</span
      >
    </p>
    <template v-for="(part, i) in parts" :key="i">
      <ConditionTest
        v-if="isTest(part)"
        :model-value="part"
        :draft="draft"
        :level="inner"
        :explained="explainedOf(i)"
        @update:model-value="setPart(i, $event)"
        @remove="removePart(i)"
      />
      <ConditionGroup
        v-else
        :model-value="part"
        :draft="draft"
        :level="inner"
        :explained="explainedOf(i)"
        @update:model-value="setPart(i, $event)"
        @remove="removePart(i)"
      />
    </template>
    <p class="more">
      <button class="act" @click="addTest">add a test</button>
      <button class="act" @click="setParts([...parts, { either: [] }])">add a group</button>
      <button class="act" @click="setParts([...parts, { lines: 'any' }])">of the lines</button>
      <button v-if="inner !== 'unit'" class="act" @click="setParts([...parts, { units: 'any' }])">of each one</button>
      <button v-if="!outer" class="act" @click="emit('remove')">take this group away</button>
      <slot />
    </p>
  </div>
</template>

<style scoped>
.group {
  border-left: 2px solid var(--thread);
  padding-left: 13px;
  margin: 2px 0;
}
.join,
.more {
  margin: 0;
}
.more {
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
  font-size: var(--size-small);
}
.seen {
  font-size: var(--size-small);
  color: var(--ink-soft);
}
.seen.holds {
  font-weight: 650;
  color: var(--ink);
}
</style>
