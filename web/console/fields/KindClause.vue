<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import type { Schemas } from '../../shared/api/client';
import ClauseNotes from './ClauseNotes.vue';
import type { Draft, DraftDestination } from './draft';
import { useDraft } from './draft';
import OtherLanguages from './OtherLanguages.vue';
import SettingClause from './SettingClause.vue';

/** What a destination is, with the settings that its kind has. */
const { item, draft, trials } = defineProps<{
  item: DraftDestination;
  draft: Draft;
  /** Whether those are meant that say where it is tried out. */
  trials?: boolean;
}>();
const { change, refused } = useDraft();

const kind = computed(() => draft.destination_kinds.find((k) => k.key === item.destination.kind));
const valueOf = (name: string) => item.destination.settings?.[name] ?? null;
const settings = computed(() =>
  (kind.value?.settings ?? []).filter((s) => s.for_trials === !!trials && (!s.only_with || valueOf(s.only_with) !== null)),
);
const wanted = ref<string[]>([]);
watch(
  () => item.key,
  () => (wanted.value = []),
);
const shown = computed(() =>
  settings.value.filter((s) => valueOf(s.name) !== null || s.default !== null || !s.offer || wanted.value.includes(s.name)),
);
const offered = computed(() => settings.value.filter((s) => !shown.value.includes(s)));

const set = (setting: string, value: unknown) => void change(item.key, setting, value);
const isWording = (setting: Schemas['SettingView']) => setting.kind === 'wording' || setting.kind === 'long_wording';

// Of a wording, what it says by itself in a language stands there until something else is said in that one.
function said(setting: Schemas['SettingView']): unknown {
  const own = valueOf(setting.name);
  return isWording(setting) ? { ...(setting.default as object | null), ...(own as object | null) } : (own ?? setting.default);
}

// One language at a time: what is typed in two of them at once is both kept.
function setWhole(setting: Schemas['SettingView'], value: unknown): void {
  if (isWording(setting)) set(`settings.${setting.name}.en`, (value as Record<string, string> | null)?.en ?? '');
  else set(`settings.${setting.name}`, value);
}

const isRefused = (setting: string) =>
  refused.value?.field === item.key && (refused.value.setting === setting || refused.value.setting.startsWith(setting + '.'));

// What is only so or not is said as soon as it is asked for.
function add(setting: Schemas['SettingView']): void {
  if (setting.kind === 'toggle') set(`settings.${setting.name}`, true);
  else wanted.value.push(setting.name);
}
</script>

<template>
  <dd>
    {{ trials ? (shown.length ? 'tried out' : 'nowhere yet') : kind?.name.toLowerCase()
    }}<template v-for="setting in shown" :key="setting.name"
      ><SettingClause
        :setting="setting"
        :value="said(setting)"
        :invalid="isRefused(`settings.${setting.name}`)"
        :draft="draft"
        @save="setWhole(setting, $event)" /><OtherLanguages
        v-if="isWording(setting)"
        :texts="(said(setting) ?? {}) as Record<string, string>"
        :label="setting.clause.replace('{}', '…')"
        :lines="setting.kind === 'long_wording'"
        @save="(language, text) => set(`settings.${setting.name}.${language}`, text)" /></template
    ><template v-if="item.destination.takes_new_fields && !trials"
      >; new fields go there by themselves <button class="act small" @click="set('takes_new_fields', false)">no longer</button></template
    >
    <div v-if="offered.length || !(item.destination.takes_new_fields || trials)" class="offers small">
      add:
      <button v-for="setting in offered" :key="setting.name" class="act" @click="add(setting)">{{ setting.offer }}</button>
      <button v-if="!item.destination.takes_new_fields && !trials" class="act" @click="set('takes_new_fields', true)">
        that new fields go there by themselves
      </button>
    </div>
    <ClauseNotes v-if="!trials" :of="item.key" :problems="draft.problems" :settings="['settings', 'takes_new_fields']" />
  </dd>
</template>
