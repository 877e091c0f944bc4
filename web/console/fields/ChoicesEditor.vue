<script setup lang="ts">
import { computed, ref } from 'vue';
import { labelsIn, withLabels } from './choices';
import type { Condition, Explained } from './condition';
import ConditionClause from './ConditionClause.vue';
import type { Draft, Level } from './draft';
import PictureInput from './PictureInput.vue';
import WordInput from './WordInput.vue';

/** The list that a field offers: ruled rows, one a choice; many at once pasted from a list. */
interface Choice {
  key: string;
  label: Record<string, string>;
  picture?: string;
  picture_words?: Record<string, string>;
  colour?: string;
  code?: string;
  weight_grams?: number;
  excludes?: boolean;
  when?: Condition | null;
}

const { draft, level, choices, several, fixed, explained, ofKey } = defineProps<{
  draft: Draft;
  level: Level;
  choices: Choice[];
  several: boolean;
  /** Whether they are the shop's own: called, ordered and offered as it likes, and none more or less. */
  fixed?: boolean;
  explained?: Record<string, Explained>;
  ofKey: string;
}>();
const emit = defineEmits<{ save: [choices: Choice[]] }>();

const opened = ref('');
const pasting = ref(false);
const pasted = ref('');
const count = computed(() => linesOf(pasted.value).length);

const linesOf = (text: string) => labelsIn(text).filter((label) => !choices.some((c) => c.label.en === label));
const add = (labels: string[]) => emit('save', withLabels(choices, labels));

function paste(): void {
  add(linesOf(pasted.value));
  pasted.value = '';
  pasting.value = false;
}

const set = (key: string, part: Partial<Choice>) =>
  emit(
    'save',
    choices.map((c) => (c.key === key ? { ...c, ...part } : c)),
  );
function setWeight(key: string, typed: string): void {
  const grams = Math.trunc(Number(typed));
  if (grams >= 0) set(key, { weight_grams: grams });
}

const remove = (key: string) =>
  emit(
    'save',
    choices.filter((c) => c.key !== key),
  );

function move(from: number, by: number): void {
  const next = [...choices];
  const [taken] = next.splice(from, 1);
  next.splice(from + by, 0, taken!);
  emit('save', next);
}
</script>

<template>
  <ol class="choices">
    <li v-for="(choice, i) in choices" :key="choice.key">
      <div class="row">
        <span v-if="choice.colour" class="swatch" :style="{ background: choice.colour }"></span>
        <WordInput
          :value="choice.label.en ?? ''"
          :label="`Choice ${i + 1}`"
          @save="set(choice.key, { label: { ...choice.label, en: $event } })"
        />
        <span class="mono soft small">{{ choice.key }}</span>
        <span v-if="choice.excludes" class="small soft">excludes the others</span>
        <span v-if="choice.when" class="small soft">under a condition</span>
        <span class="push"></span>
        <button class="act" :disabled="i === 0" :aria-label="`Move up: ${choice.label.en}`" @click="move(i, -1)">↑</button>
        <button class="act" :disabled="i === choices.length - 1" :aria-label="`Move down: ${choice.label.en}`" @click="move(i, 1)">
          ↓
        </button>
        <button class="act" :aria-expanded="opened === choice.key" @click="opened = opened === choice.key ? '' : choice.key">
          more<span class="visually-hidden"> of {{ choice.label.en }}</span>
        </button>
        <button v-if="!fixed" class="act" :aria-label="`Take out: ${choice.label.en}`" title="take out" @click="remove(choice.key)">
          ×
        </button>
      </div>
      <div v-if="opened === choice.key" class="more">
        <p>
          picture
          <PictureInput
            :name="choice.picture ?? ''"
            :words="choice.picture_words?.en ?? ''"
            label="Picture of the choice"
            @save="set(choice.key, { picture: $event })"
            @say="set(choice.key, { picture_words: { ...choice.picture_words, en: $event } })"
          />, colour
          <WordInput
            :value="choice.colour ?? ''"
            label="Colour of the choice"
            placeholder="none"
            @save="set(choice.key, { colour: $event.toLowerCase() })"
          />
          ; in the item code
          <WordInput
            :value="choice.code ?? ''"
            label="Code of the choice"
            placeholder="nothing"
            @save="set(choice.key, { code: $event })"
          />, adds
          <WordInput
            :value="String(choice.weight_grams ?? 0)"
            label="Weight of the choice in grams"
            numeric
            @save="setWeight(choice.key, $event)"
          />
          g
          <template v-if="several"
            >;
            <label
              ><input type="checkbox" :checked="choice.excludes" @change="set(choice.key, { excludes: !choice.excludes })" /> “none of
              these”: it excludes the others</label
            ></template
          >
        </p>
        <p>offered <template v-if="!choice.when">always</template><template v-else>when</template></p>
        <ConditionClause
          :model-value="choice.when"
          :draft="draft"
          :level="level"
          :explained="explained?.[`choice.${choice.key}`]"
          :of-key="ofKey"
          @update:model-value="set(choice.key, { when: $event ?? null })"
        />
      </div>
    </li>
  </ol>
  <form v-if="pasting" class="paste" @submit.prevent="paste">
    <textarea v-model="pasted" rows="5" aria-label="Choices, one a line" placeholder="one choice a line"></textarea>
    <button class="act" :disabled="!count">add {{ count }}</button>{{ ' ' }}
    <button class="act" type="button" @click="pasting = false">leave it</button>
  </form>
  <p v-else-if="!fixed" class="add">
    <button class="act" @click="add(['New choice'])">add a choice</button> <button class="act" @click="pasting = true">paste a list</button>
  </p>
</template>

<style scoped>
.choices {
  list-style: none;
  margin: 2px 0 0;
  padding: 0;
  border-top: 1px solid var(--rule);
}
li {
  border-bottom: 1px solid var(--rule);
}
.row {
  display: flex;
  align-items: baseline;
  gap: 8px;
}
.push {
  flex: 1;
}
.swatch {
  width: 12px;
  height: 12px;
  border: 1px solid var(--rule-strong);
  align-self: center;
}
.more {
  padding: 0 0 6px 13px;
}
.more p,
.add {
  margin: 0;
}
.paste textarea {
  width: 100%;
  font: inherit;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule-strong);
  padding: 4px 6px;
}
.row .act {
  min-width: 22px;
  min-height: 24px;
}
</style>
