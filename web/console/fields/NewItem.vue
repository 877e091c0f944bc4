<script lang="ts">
import { ref } from 'vue';
import type { Schemas } from '../../shared/api/client';

// Fields are mostly made one after another, of the same goods.
const before = ref<{ level: Schemas['Level']; scope: Schemas['ProductScope'] }>({ level: 'line', scope: { all: false, products: [] } });
</script>

<script setup lang="ts">
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import Select from 'primevue/select';
import Textarea from 'primevue/textarea';
import { computed, onMounted, useTemplateRef } from 'vue';
import { ApiError, sentenceOf } from '../../shared/api/client';
import type { Draft, DraftField, Level } from './draft';
import { useDraft } from './draft';
import { useProposedKey } from './proposedKey';
import { labelsIn, withLabels } from './choices';
import ScopeChoice from './ScopeChoice.vue';
import StarterSets from './StarterSets.vue';

/** A new field, section or step: what the shopper reads, and how often it is asked. The rest is said in its paragraph. */
const { draft, what, into, askedOf, like } = defineProps<{
  draft: Draft;
  /** What is added, where it is no field. */
  what?: 'section' | 'step';
  into?: string;
  /** Of which products it is asked at first. */
  askedOf?: Schemas['ProductScope'];
  /** The field that it begins as. */
  like?: DraftField;
}>();
const emit = defineEmits<{ added: [key: string]; cancel: []; begin: [set: string] }>();
const { addField, addSection, addStep } = useDraft();

const kind = ref<'field' | 'section' | 'step'>(what ?? 'field');
const kinds = [
  { key: 'field', name: 'A new field' },
  { key: 'section', name: 'A new section' },
  { key: 'step', name: 'A new step' },
];
const label = ref('');
const type = ref('line_text');
// What is called as is typed comes before what is said to be so.
const sought = ref('');
const types = computed(() => {
  const isCalledSo = (t: Schemas['TypeView']) => t.name.toLowerCase().includes(sought.value.trim().toLowerCase());
  return [...draft.types.filter(isCalledSo), ...draft.types.filter((t) => !isCalledSo(t))];
});
const must = ref(false);
const choices = ref('');
const answer = computed(() => draft.types.find((t) => t.key === type.value));
const offersList = computed(() => answer.value?.settings.some((s) => s.kind === 'choices'));
const isEntered = computed(() => !answer.value?.asks_nothing && !answer.value?.is_worked_out);
const level = ref<Level>(before.value.level);
const section = ref<string | null>(into ?? null);
const scope = ref<Schemas['ProductScope']>(askedOf ?? before.value.scope);
const after = ref('cart');
const failure = ref<{ setting: string; sentence: string }>();
const busy = ref(false);
const root = useTemplateRef<HTMLElement>('root');
const { key, propose, settle, type: typeKey } = useProposedKey((sentence) => (failure.value = { setting: 'key', sentence }));

const inSection = computed(() => draft.sections.find((s) => s.section.key === section.value));
const sections = computed(() => [
  { key: null, name: 'no section' },
  ...draft.sections.map((s) => ({ key: s.section.key, name: `“${s.section.heading.en}”` })),
]);
const levels = [
  { key: 'order', name: 'every order' },
  { key: 'line', name: 'every line' },
  { key: 'unit', name: 'each one of a line' },
];
const musts = [
  { key: false, name: 'never' },
  { key: true, name: 'always' },
];
const predecessors = computed(() =>
  draft.steps.filter((s) => ['cart', 'contact', 'delivery'].includes(s.key)).map((s) => ({ key: s.key, name: s.name.toLowerCase() })),
);

function onLabel(text: string | undefined): void {
  label.value = text ?? '';
  propose(label.value);
}

/** What is set of a field from the start. */
function beginning(): Record<string, unknown> {
  const labels = labelsIn(choices.value);
  return {
    ...(must.value && isEntered.value ? { required: true } : {}),
    ...(offersList.value && labels.length ? { 'settings.choices': withLabels([], labels) } : {}),
  };
}

async function submit(): Promise<void> {
  busy.value = true;
  failure.value = undefined;
  try {
    await settle(label.value);
    const added =
      kind.value === 'section'
        ? await addSection({ heading: label.value, key: key.value, level: level.value })
        : kind.value === 'step'
          ? await addStep({ name: label.value, key: key.value, after: after.value })
          : await addField({
              label: label.value,
              key: key.value,
              type: type.value,
              level: level.value,
              asked_of: scope.value,
              section: section.value,
              like: like?.field.key,
              with: like ? undefined : beginning(),
            });
    if (kind.value === 'field' && !like && !inSection.value) before.value = { level: level.value, scope: scope.value };
    emit('added', added);
  } catch (error) {
    failure.value = { setting: (error instanceof ApiError && error.problem.setting) || '', sentence: sentenceOf(error) };
  } finally {
    busy.value = false;
  }
}

const isWrong = (...settings: string[]) => settings.some((s) => failure.value?.setting.startsWith(s)) || undefined;
onMounted(() => root.value?.querySelector('input')?.focus());
</script>

<template>
  <form ref="root" :aria-label="kinds.find((k) => k.key === kind)?.name" @submit.prevent="submit" @keydown.esc="emit('cancel')">
    <header class="paragraph-head">
      <h2 v-if="like">Another like “{{ like.field.staff_label || like.field.label.en }}”</h2>
      <h2 v-else>
        <Select v-model="kind" class="words" :options="kinds" option-label="name" option-value="key" aria-label="What is added" />
      </h2>
      <p class="small soft">
        <template v-if="like">It begins with all that is set of that one; change in its paragraph what should differ.</template>
        <template v-else-if="kind === 'field'"
          >It goes everywhere at first; switch off where it should not go. Or begin with a set for
          <StarterSets :draft="draft" @begin="emit('begin', $event)" />.</template
        >
        <template v-else-if="kind === 'section'">Fields under one heading, asked or not as one.</template>
        <template v-else>A page of its own on the way to the order, shown only when something on it is asked.</template>
      </p>
    </header>
    <dl class="clauses">
      <dt>{{ kind === 'field' ? 'Asks' : 'Says' }}</dt>
      <dd>
        <template v-if="kind === 'field' && !like"
          >for
          <Select
            v-model="type"
            class="words"
            :options="types"
            option-label="name"
            option-value="key"
            filter
            :filter-fields="['name', 'line']"
            reset-filter-on-hide
            aria-label="Kind of answer"
            @filter="sought = $event.value"
            @hide="sought = ''"
          >
            <template #option="{ option }">
              <span
                >{{ option.name }} <span class="small soft block">{{ option.line }}</span></span
              >
            </template> </Select
          >:
        </template>
        “<InputText
          id="new-label"
          class="words wide"
          :model-value="label"
          aria-label="Label"
          placeholder="what the shopper reads"
          autocomplete="off"
          :aria-invalid="isWrong('label', 'heading', 'name')"
          @update:model-value="onLabel"
        />”<template v-if="kind === 'field' && !like && isEntered"
          >, must be given
          <Select
            v-model="must"
            class="words"
            :options="musts"
            option-label="name"
            option-value="key"
            aria-label="When an answer must be given"
        /></template>
        <Textarea
          v-if="kind === 'field' && !like && offersList"
          v-model="choices"
          class="list"
          rows="5"
          aria-label="Choices, one a line"
          placeholder="its choices, one a line, typed or pasted"
          :aria-invalid="isWrong('settings')"
          @keydown.esc.stop
        />
      </dd>
      <dt>Key</dt>
      <dd>
        <InputText
          :model-value="key"
          class="words mono"
          aria-label="Key"
          autocomplete="off"
          :aria-invalid="isWrong('key')"
          @update:model-value="typeKey($event ?? '')"
        />
        <span class="small soft"> never changes once published</span>
      </dd>
      <template v-if="kind === 'step'">
        <dt>Where</dt>
        <dd>
          after the
          <Select
            v-model="after"
            class="words"
            :options="predecessors"
            option-label="name"
            option-value="key"
            aria-label="After which step"
          />
        </dd>
      </template>
      <template v-else-if="!like">
        <dt>Of whom</dt>
        <dd>
          <template v-if="kind === 'field' && inSection">as the section says</template>
          <template v-else>
            once for
            <Select
              v-model="level"
              class="words"
              :options="levels"
              option-label="name"
              option-value="key"
              aria-label="How often it is asked"
            />
            <template v-if="kind === 'field' && level !== 'order'"> of <ScopeChoice v-model="scope" :draft="draft" /></template>
          </template>
          <div v-if="kind === 'field' && draft.sections.length">
            in
            <Select
              v-model="section"
              class="words"
              :options="sections"
              option-label="name"
              option-value="key"
              aria-label="In which section"
              placeholder="no section"
            />
          </div>
        </dd>
      </template>
    </dl>
    <p v-if="failure" class="call say" role="alert">{{ failure.sentence }}</p>
    <p class="say">
      <Button class="button main" type="submit" :disabled="busy || !label.trim()">Add it to the draft</Button>
      <button class="act" type="button" @click="emit('cancel')">Leave it</button>
    </p>
  </form>
</template>

<style scoped>
.block {
  display: block;
}
.wide {
  min-width: 200px;
}
.list {
  display: block;
  width: 100%;
  margin-top: 6px;
}
.say {
  margin: 10px var(--edge);
  display: flex;
  gap: 16px;
}
</style>
