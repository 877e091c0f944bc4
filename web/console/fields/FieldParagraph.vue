<script setup lang="ts">
import Select from 'primevue/select';
import { computed, ref } from 'vue';
import type { Schemas } from '../../shared/api/client';
import ChoicesEditor from './ChoicesEditor.vue';
import ClauseNotes from './ClauseNotes.vue';
import type { Condition } from './condition';
import CodeClause from './CodeClause.vue';
import ConditionClause from './ConditionClause.vue';
import CostsClause from './CostsClause.vue';
import type { Draft, DraftField, Level } from './draft';
import { useDraft } from './draft';
import MarkSign from '../parts/MarkSign.vue';
import { explained } from './standIn';
import RouteConditions from './RouteConditions.vue';
import ScopeChoice from './ScopeChoice.vue';
import SettingClause from './SettingClause.vue';
import UsesClause from './UsesClause.vue';
import ValueInput from './ValueInput.vue';
import WordInput from './WordInput.vue';
import FormulaEditor from './FormulaEditor.vue';

const { field, draft } = defineProps<{ field: DraftField; draft: Draft }>();
const { change, remove, refused, switchLive } = useDraft();

const f = computed(() => field.field);
const key = computed(() => f.value.key);
const type = computed(() => draft.types.find((t) => t.key === f.value.type));
const section = computed(() => draft.sections.find((s) => s.section.key === f.value.section));
const scope = computed(() => f.value.asked_of ?? { all: true });
const isEntered = computed(() => !type.value?.asks_nothing && !type.value?.is_worked_out);
const fact = computed(() => draft.facts.find((x) => x.key === `answer.${key.value}`));
const destinations = computed(() => draft.destinations.filter((d) => f.value.goes_to?.includes(d.key)));
const phraseOf = (destination: string) => draft.destinations.find((d) => d.key === destination)?.phrase ?? destination;
const fixed = computed(() => !!f.value.built_in);
const unpublished = computed(() => field.live_since === null && !fixed.value);
const isRefused = (setting: string) => refused.value?.field === key.value && refused.value.setting === setting;
const set = (setting: string, value: unknown) => void change(key.value, setting, value);

// What is not set is offered and not shown.
const wanted = ref<string[]>([]);
const isSet = (name: string) => f.value.settings?.[name] !== undefined;
const shownSettings = computed(
  () =>
    type.value?.settings.filter(
      (s) =>
        s.kind !== 'choices' && s.kind !== 'working' && s.kind !== 'toggle' && (!s.offer || isSet(s.name) || wanted.value.includes(s.name)),
    ) ?? [],
);
const toggles = computed(() => type.value?.settings.filter((s) => s.kind === 'toggle') ?? []);
const offered = computed(
  () => type.value?.settings.filter((s) => s.kind !== 'toggle' && s.offer && !isSet(s.name) && !wanted.value.includes(s.name)) ?? [],
);
const choices = computed(() => type.value?.settings.find((s) => s.kind === 'choices'));
/** Whether a setting of every field that says itself how it is drawn is so. */
const isOn = (name: string) => (f.value as unknown as Record<string, unknown>)[name] === true;

const working = computed(() => type.value?.settings.find((s) => s.kind === 'working'));
const valueOf = (setting: Schemas['SettingView']) => f.value.settings?.[setting.name] ?? setting.default;

const levels = [
  { key: 'order', name: 'every order' },
  { key: 'line', name: 'every line' },
  { key: 'unit', name: 'each one of a line' },
];
const steps = computed(() => draft.steps.map((s) => ({ key: s.key, name: s.name.toLowerCase() })));
const sections = computed(() => [
  { key: null, name: 'no section' },
  ...draft.sections
    .filter((s) => s.section.level === f.value.level)
    .map((s) => ({ key: s.section.key, name: `“${s.section.heading.en}”` })),
]);

const ALWAYS = 'always';
const NEVER = 'never';
const WHEN = 'when …';
const opening = ref(false);
const requiring = ref(false);
const required = computed(() => (f.value.required ? ALWAYS : f.value.required_when || requiring.value ? WHEN : NEVER));

async function setRequired(choice: string): Promise<void> {
  requiring.value = choice === WHEN;
  if (choice !== WHEN && f.value.required_when) await change(key.value, 'required_when', null);
  await change(key.value, 'required', choice === ALWAYS);
}

function setWhenMode(choice: string): void {
  opening.value = choice === WHEN;
  if (choice === ALWAYS && f.value.when) set('when', null);
}

// Where it stands: before which of the others of its group.
const siblings = computed(() =>
  draft.fields
    .filter((x) => x.field.section === f.value.section && x.field.step === f.value.step && x.field.level === f.value.level)
    .map((x) => x.field),
);
const at = computed(() => siblings.value.findIndex((x) => x.key === key.value));

function move(by: -1 | 1): void {
  const all = draft.fields.map((x) => x.field.key);
  if (by < 0) set('position', siblings.value[at.value - 1]!.key);
  else set('position', all[all.indexOf(siblings.value[at.value + 1]!.key) + 1] ?? null);
}

const more = ref(false);
</script>

<template>
  <section :aria-label="`The field ${key}`">
    <header class="paragraph-head">
      <h2>
        {{ f.staff_label || f.label.en }} <span class="mono soft">{{ key }}</span>
      </h2>
      <p class="small soft">
        <template v-if="fixed">A question of the shop’s own · </template>
        <template v-if="f.retired">Retired: never asked again · </template>
        <template v-else-if="f.switched_off">Switched off · </template>
        <template v-if="field.live_since"
          >In force since version {{ field.live_since }}<template v-if="field.changed">, changed in this draft</template></template
        >
        <template v-else>New in this draft</template>
        <template v-if="f.level !== 'order' || !scope.all">
          · asked of {{ field.asks.length }} of {{ draft.products.length }} products</template
        >
        <template v-if="unpublished"> · <button class="act" @click="remove(key)">take it out</button></template>
        <template v-else-if="!fixed && field.live_since">
          <template v-if="!f.retired">
            ·
            <button class="act" @click="switchLive(key, !!f.switched_off)">
              {{ f.switched_off ? 'switch on for the shop now' : 'switch off for the shop now' }}
            </button></template
          >
          · <button class="act" @click="set('retired', !f.retired)">{{ f.retired ? 'bring it back' : 'retire it' }}</button>
        </template>
      </p>
      <p v-if="refused?.field === key && ['', 'switched_off', 'retired', 'position'].includes(refused.setting)" class="call" role="alert">
        {{ refused.sentence }}
      </p>
    </header>
    <dl class="clauses">
      <dt>Asks</dt>
      <dd>
        for
        <Select
          v-if="unpublished"
          class="words"
          :model-value="f.type"
          :options="draft.types"
          option-label="name"
          option-value="key"
          aria-label="Kind of answer"
          @update:model-value="set('type', $event)"
        />
        <template v-else>{{ type?.name }}</template>:
        <span class="whole"
          >“<WordInput :value="f.label.en ?? ''" label="Label" :invalid="isRefused('label.en')" @save="set('label.en', $event)" />”</span
        >
        <FormulaEditor
          v-if="working"
          :rows="(f.settings?.working as never) ?? []"
          :draft="draft"
          :level="f.level as Level"
          :of-key="key"
          @save="set('settings.working', $event)"
        />
        <ChoicesEditor
          v-if="choices && !fixed"
          :draft="draft"
          :level="f.level"
          :choices="(f.settings?.choices as never) ?? []"
          :several="f.type === 'several_of'"
          :explained="explained"
          :of-key="key"
          @save="set('settings.choices', $event)"
        />
        <div>
          help
          <span class="whole"
            >“<WordInput :value="f.help?.en ?? ''" label="Help" placeholder="none" @save="set('help.en', $event)" />”</span
          >
          <template v-if="type?.takes_placeholder"
            >, example
            <span class="whole"
              >“<WordInput
                :value="f.placeholder?.en ?? ''"
                label="Example in the empty control"
                placeholder="none"
                @save="set('placeholder.en', $event)"
              />”</span
            ></template
          >
        </div>
        <div v-if="more">
          picture <WordInput :value="f.picture ?? ''" label="Picture" placeholder="none" @save="set('picture', $event)" />; staff call it
          <WordInput :value="f.staff_label ?? ''" label="What staff call it" placeholder="the same" @save="set('staff_label', $event)" />;
          notes for staff
          <WordInput :value="f.staff_notes ?? ''" label="Notes for staff" placeholder="none" @save="set('staff_notes', $event)" />
        </div>
        <button class="act small" :aria-expanded="more" @click="more = !more">{{ more ? 'less' : 'picture, staff’s words' }}</button>
        <ClauseNotes
          :of="key"
          :problems="draft.problems"
          :settings="[
            'label',
            'help',
            'placeholder',
            'picture',
            'staff_label',
            'staff_notes',
            'key',
            'type',
            'settings.choices',
            'settings.working',
          ]"
        />
      </dd>
      <dt>Of whom</dt>
      <dd>
        once for
        <Select
          v-if="unpublished && !section"
          class="words"
          :model-value="f.level"
          :options="levels"
          option-label="name"
          option-value="key"
          aria-label="How often it is asked"
          @update:model-value="set('level', $event)"
        />
        <template v-else>{{ levels.find((l) => l.key === f.level)?.name }}</template>
        <template v-if="!fixed">
          of <ScopeChoice :model-value="scope" :draft="draft" @update:model-value="set('asked_of', $event)" /></template
        >,
        <template v-if="section">with “{{ section.section.heading.en }}”</template>
        <template v-else-if="fixed">at {{ steps.find((s) => s.key === f.step)?.name }}</template>
        <template v-else
          >at
          <Select
            class="words"
            :model-value="f.step"
            :options="steps"
            option-label="name"
            option-value="key"
            aria-label="At which step"
            @update:model-value="set('step', $event)"
        /></template>
        <div v-if="!fixed">
          in
          <Select
            class="words"
            :model-value="f.section ?? null"
            :options="sections"
            option-label="name"
            option-value="key"
            aria-label="In which section"
            placeholder="no section"
            @update:model-value="set('section', $event)"
          />
          <template v-if="at > 0"
            >,
            <button class="act" @click="set('shares_row', !f.shares_row)">
              {{ f.shares_row ? 'in one row with the one before' : 'in a row of its own' }}
            </button></template
          >
        </div>
        <div class="small">
          <button v-if="at > 0" class="act" @click="move(-1)">move up</button>{{ ' ' }}
          <button v-if="at < siblings.length - 1" class="act" @click="move(1)">move down</button>
        </div>
        <ClauseNotes :of="key" :problems="draft.problems" :settings="['asked_of', 'step', 'section', 'level', 'shares_row']" />
      </dd>
      <dt>When</dt>
      <dd>
        <template v-if="fixed">{{ field.sentences.when ?? 'always' }}</template>
        <template v-else>
          <Select
            v-if="!f.when"
            class="words"
            :model-value="opening ? WHEN : ALWAYS"
            :options="[ALWAYS, WHEN]"
            aria-label="When it is asked"
            @update:model-value="setWhenMode"
          />
          <ConditionClause
            v-if="f.when || opening"
            :model-value="f.when as Condition | null"
            :draft="draft"
            :level="f.level as Level"
            :sentence="field.sentences.when"
            :explained="explained?.when"
            :of-key="key"
            @update:model-value="((opening = false), set('when', $event ?? null))"
          />
        </template>
        <ClauseNotes :of="key" :problems="draft.problems" :settings="['when']" />
      </dd>
      <dt>{{ type?.asks_nothing ? 'Says' : 'Answer' }}</dt>
      <dd>
        <template v-if="type?.asks_nothing">asks nothing</template>
        <template v-else-if="type?.is_worked_out">is never entered</template>
        <template v-else>must be given </template>
        <Select
          v-if="field.optional && isEntered"
          class="words"
          :model-value="required"
          :options="[ALWAYS, NEVER, WHEN]"
          aria-label="When an answer must be given"
          @update:model-value="setRequired"
        />
        <template v-else-if="isEntered">always</template>
        <ConditionClause
          v-if="required === WHEN && isEntered"
          :model-value="f.required_when as Condition | null"
          :draft="draft"
          :level="f.level as Level"
          :sentence="field.sentences.required_when"
          :explained="explained?.required_when"
          :of-key="key"
          @update:model-value="set('required_when', $event ?? null)"
        />
        <template v-if="f.given_by_page"
          >; given by a script of the page, not by hand
          <button class="act small" @click="set('given_by_page', false)">take away</button></template
        >
        <SettingClause
          v-for="setting in shownSettings"
          :key="setting.name"
          :setting="setting"
          :value="valueOf(setting)"
          :invalid="isRefused(`settings.${setting.name}`)"
          @save="set(`settings.${setting.name}`, $event)"
        />
        <template v-for="toggle in toggles.filter((t) => isSet(t.name))" :key="toggle.name"
          >; {{ toggle.clause }} <button class="act small" @click="set(`settings.${toggle.name}`, null)">take away</button></template
        >
        <template v-if="(fact && !fixed && f.default !== null && f.default !== undefined) || wanted.includes('default')"
          >; holds “<ValueInput
            :model-value="f.default"
            :kind="fact?.kind ?? 'text'"
            :options="fact?.options"
            :list="fact?.kind === 'list'"
            label="What it holds at first"
            @update:model-value="set('default', $event ?? null)"
          />” at first<template v-if="f.default !== null && f.default !== undefined"
            >, which
            <button class="act" @click="set('default_must_change', !f.default_must_change)">
              {{ f.default_must_change ? 'must be changed' : 'may be left so' }}</button>,
            <button class="act small" @click="set('default', null)">hold nothing</button></template
          ></template
        >
        <template v-for="toggle in draft.field_toggles.filter((t) => isOn(t.name))" :key="toggle.name"
          >; {{ toggle.says }} <button class="act small" @click="set(toggle.name, false)">{{ toggle.withdraw }}</button></template
        >
        <div v-if="!type?.asks_nothing" class="offers small">
          add:
          <button v-for="setting in offered" :key="setting.name" class="act" @click="wanted.push(setting.name)">{{ setting.offer }}</button>
          <button
            v-for="toggle in toggles.filter((t) => !isSet(t.name))"
            :key="toggle.name"
            class="act"
            @click="set(`settings.${toggle.name}`, true)"
          >
            {{ toggle.offer }}
          </button>
          <button
            v-if="
              !fixed &&
              isEntered &&
              fact?.kind !== 'other' &&
              (f.default === null || f.default === undefined) &&
              !wanted.includes('default')
            "
            class="act"
            @click="wanted.push('default')"
          >
            what it holds at first
          </button>
          <button v-if="isEntered && !fixed && !f.given_by_page" class="act" @click="set('given_by_page', true)">
            that the page’s script gives it
          </button>
          <button
            v-for="toggle in draft.field_toggles.filter((t) => !isOn(t.name))"
            :key="toggle.name"
            class="act"
            @click="set(toggle.name, true)"
          >
            {{ toggle.offer }}
          </button>
        </div>
        <ClauseNotes
          :of="key"
          :problems="draft.problems"
          :settings="[
            'required',
            'required_when',
            'settings',
            'default',
            'default_must_change',
            'given_by_page',
            ...draft.field_toggles.map((t) => t.name),
          ]"
          :elsewhere="['settings.choices', 'settings.working']"
        />
      </dd>
      <CostsClause v-if="field.pricing" :field="field" :draft="draft" />
      <UsesClause v-if="field.pricing" :field="field" :draft="draft" />
      <CodeClause v-if="field.pricing && f.level === 'line'" :field="field" :draft="draft" />
      <dt v-if="!type?.asks_nothing">Goes to</dt>
      <dd v-if="!type?.asks_nothing">
        <template v-if="destinations.length"
          >{{ destinations.length === 1 ? '1 destination' : `${destinations.length} destinations` }}:
          {{ destinations.map((d) => d.phrase).join(', ') }}</template
        >
        <template v-else>nowhere</template>
        <p v-for="out in field.left_out" :key="`out-${out.destination}`" class="route">
          <MarkSign sign="flagged_hole" /> Left out of {{ phraseOf(out.destination) }}. {{ out.why }} It goes there by itself as soon as it
          can.
          <button class="act" @click="set(`goes_to.${out.destination}`, false)">leave it out for good</button>
        </p>
        <RouteConditions
          :goes-to="f.goes_to"
          :when="f.goes_to_when"
          :draft="draft"
          :level="f.level as Level"
          :sentences="field.sentences"
          :of-key="key"
          @set="(destination, condition) => set(`goes_to_when.${destination}`, condition)"
        />
        <ClauseNotes :of="key" :problems="draft.problems" :settings="['goes_to', 'goes_to_when']" />
      </dd>
    </dl>
  </section>
</template>

<style scoped>
.paragraph-head h2 {
  display: flex;
  align-items: baseline;
  gap: 8px;
  overflow-wrap: anywhere;
}
.paragraph-head .mono {
  font-weight: 400;
}
.whole {
  white-space: nowrap;
}
/* Room for the quotation marks on either side. */
.whole :deep(.p-inputtext) {
  max-width: calc(100% - 1.2em);
}
</style>
