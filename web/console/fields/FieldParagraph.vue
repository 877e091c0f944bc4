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
import { stepOf } from './groups';
import MarkSign from '../parts/MarkSign.vue';
import { explained } from './standIn';
import MostEach from './MostEach.vue';
import MustClause from './MustClause.vue';
import PictureInput from './PictureInput.vue';
import RefusedClause from './RefusedClause.vue';
import RouteConditions from './RouteConditions.vue';
import ScopeChoice from './ScopeChoice.vue';
import SettingClause from './SettingClause.vue';
import UsesClause from './UsesClause.vue';
import WhatFollows from '../parts/WhatFollows.vue';
import { readersOf, toldOf } from './follows';
import ValueInput from './ValueInput.vue';
import WordInput from './WordInput.vue';
import FormulaEditor from './FormulaEditor.vue';

const { field, draft } = defineProps<{ field: DraftField; draft: Draft }>();
const emit = defineEmits<{ like: [] }>();
const { change, remove, putBack, refused, switchLive } = useDraft();

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
// One of the shop's own that no order can do without.
const needed = computed(() => fixed.value && !field.optional);
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
        !(s.said_by.length && s.said_by.every(isSet)) &&
        s.kind !== 'choices' &&
        s.kind !== 'working' &&
        s.kind !== 'toggle' &&
        (!s.offer || isSet(s.name) || wanted.value.includes(s.name)),
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
const WHEN = 'when …';
const opening = ref(false);

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

// Where it can stand within an address that is asked beside it.
const places = computed(() =>
  siblings.value
    .filter((x) => x.type === 'postal_address' && x.key !== key.value)
    .flatMap((x) =>
      draft.address_parts.map((part) => ({
        key: `${x.key}.${part.key}`,
        name: `after the ${part.name} of “${x.staff_label || x.label.en}”`,
      })),
    ),
);

const more = ref(false);

// What follows is said before it is done.
const following = ref<'off' | 'retire'>();
const read = computed(() => toldOf(readersOf(draft, key.value)));
const follows = computed(() => ({
  off: {
    sentence: `The shop stops asking it at once, by a version of its own without the rest of this draft. What shoppers answered stays in their carts and goes nowhere.${read.value}`,
    act: 'switch it off',
  },
  retire: {
    sentence: `From the next version on it is asked of nobody, for good. Answers of past orders stay, and go where they went.${read.value}`,
    act: 'retire it',
  },
}));

function follow(): void {
  if (following.value === 'off') void switchLive(key.value, false);
  else set('retired', true);
  following.value = undefined;
}

const askedAt = computed(() => stepOf(draft, field));
// Where the shop asks it: the page of a product that does, or of the step.
const shopPage = computed(() =>
  askedAt.value === 'product_page'
    ? field.asks[0] && `/products/${field.asks[0]}`
    : askedAt.value === 'cart'
      ? '/cart'
      : `/checkout/${askedAt.value}`,
);
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
          >In force since version {{ field.live_since
          }}<template v-if="field.changed"
            >, changed in this draft · <button class="act" @click="putBack(key)">put it back as the shop has it</button></template
          ></template
        >
        <template v-else>New in this draft</template>
        <template v-if="f.level !== 'order' || !scope.all">
          · asked of {{ field.asks_count.toLocaleString() }} of {{ draft.product_count.toLocaleString() }} products</template
        >
        <template v-if="field.live_since && shopPage && !f.switched_off && !f.retired">
          · <a class="act" :href="shopPage" target="_blank">see it in the shop</a></template
        >
        <template v-if="!fixed"> · <button class="act" @click="emit('like')">another like this</button></template>
        <template v-if="unpublished"> · <button class="act" @click="remove(key)">take it out</button></template>
        <template v-else-if="!needed && field.live_since">
          <template v-if="!f.retired">
            ·
            <button class="act" @click="f.switched_off ? switchLive(key, true) : (following = 'off')">
              {{ f.switched_off ? 'switch on for the shop now' : 'switch off for the shop now' }}
            </button></template
          >
          <template v-if="!fixed"> · </template>
          <button v-if="!fixed" class="act" @click="f.retired ? set('retired', false) : (following = 'retire')">
            {{ f.retired ? 'bring it back' : 'retire it' }}
          </button>
        </template>
      </p>
      <WhatFollows
        v-if="following"
        :key="following"
        :sentence="follows[following].sentence"
        :act="follows[following].act"
        @do="follow"
        @leave="following = undefined"
      />
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
        ><MustClause v-if="isEntered" :field="field" :draft="draft" />
        <FormulaEditor
          v-if="working"
          :rows="(f.settings?.working as never) ?? []"
          :draft="draft"
          :level="f.level as Level"
          :of-key="key"
          @save="set('settings.working', $event)"
        />
        <ChoicesEditor
          v-if="choices"
          :fixed="fixed"
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
          picture
          <PictureInput
            :name="f.picture ?? ''"
            :words="f.picture_words?.en ?? ''"
            label="Picture"
            @save="set('picture', $event)"
            @say="set('picture_words.en', $event)"
          />; staff call it
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
            'picture_words',
            'staff_label',
            'staff_notes',
            'key',
            'type',
            'required',
            'required_when',
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
        <template v-if="!needed">
          of <ScopeChoice :model-value="scope" :draft="draft" @update:model-value="set('asked_of', $event)" /></template
        >,
        <template v-if="section">with “{{ section.section.heading.en }}”</template>
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
        <MostEach v-if="f.level === 'unit' && !fixed" :value="f.most_each" @save="set('most_each', $event)" />
        <div>
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
          ><template v-if="places.length || f.stands_after"
            >,
            <Select
              class="words"
              :model-value="f.stands_after ?? null"
              :options="[{ key: null, name: 'by itself' }, ...places]"
              option-label="name"
              option-value="key"
              aria-label="Between the parts of an address"
              placeholder="by itself"
              @update:model-value="set('stands_after', $event)"
          /></template>
        </div>
        <div class="small">
          <button v-if="at > 0" class="act" @click="move(-1)">move up</button>{{ ' ' }}
          <button v-if="at < siblings.length - 1" class="act" @click="move(1)">move down</button>
        </div>
        <ClauseNotes
          :of="key"
          :problems="draft.problems"
          :settings="['asked_of', 'most_each', 'step', 'section', 'level', 'shares_row', 'stands_after']"
        />
      </dd>
      <dt>When</dt>
      <dd>
        <template v-if="needed">{{ field.sentences.when ?? 'always' }}</template>
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
        <template v-else>as it is entered</template>
        <template v-if="f.given_by_page"
          >; given by a script of the page, not by hand, and
          <button class="act" @click="set('kept_off_form', !f.kept_off_form)">
            {{ f.kept_off_form ? 'kept off the form' : 'shown on the form' }}
          </button>
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
        <RefusedClause v-if="f.refused_when || wanted.includes('refused_when')" :field="field" :draft="draft" />
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
          <button
            v-if="!f.refused_when && !wanted.includes('refused_when') && fact?.kind !== 'other'"
            class="act"
            @click="wanted.push('refused_when')"
          >
            when it is refused
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
            'refused_when',
            'refused_saying',
            'settings',
            'default',
            'default_must_change',
            'given_by_page',
            'kept_off_form',
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
