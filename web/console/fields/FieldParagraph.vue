<script setup lang="ts">
import Select from 'primevue/select';
import { computed } from 'vue';
import MarkSign from '../parts/MarkSign.vue';
import type { Draft, DraftField } from './draft';
import { useDraft } from './draft';
import ProductChoice from './ProductChoice.vue';
import WordInput from './WordInput.vue';

const { field, draft } = defineProps<{ field: DraftField; draft: Draft }>();
const { change, remove, refused } = useDraft();

const EVERY = 'every product';
const LISTED = 'these products';

const key = computed(() => field.field.key);
const type = computed(() => draft.types.find((t) => t.key === field.field.type));
const step = computed(() => draft.steps.find((s) => s.key === field.field.step)?.name.toLowerCase());
const scope = computed(() => field.field.asked_of ?? { all: true, products: [] });
const asking = computed(() => (scope.value.all ? draft.products.length : (scope.value.products?.length ?? 0)));
const places = computed(() => draft.destinations.filter((d) => field.field.goes_to?.includes(d.key)).map((d) => d.phrase));
const problems = computed(() => draft.problems.filter((p) => p.field === key.value));

// A problem stands under the clause that has the setting it is about.
const clauseOf = (setting: string) => setting.split('.')[0];
const under = (...clauses: string[]) => problems.value.filter((p) => clauses.includes(clauseOf(p.setting) ?? ''));
const refusal = (...clauses: string[]) => (refused.value?.field === key.value && clauses.includes(clauseOf(refused.value.setting) ?? '') ? refused.value.sentence : '');
const isRefused = (setting: string) => refused.value?.field === key.value && refused.value.setting === setting;

const set = (setting: string, value: unknown) => void change(key.value, setting, value);
const settingValue = (name: string, fallback: number) => String(field.field.settings?.[name] ?? fallback);

// What is no number is sent as it was typed: the server says what it wants, and nothing typed is lost.
function setNumber(name: string, text: string): void {
  const number = Number(text);
  set(`settings.${name}`, text.trim() !== '' && Number.isFinite(number) ? number : text);
}

function setScope(choice: string): void {
  set('asked_of', choice === EVERY ? { all: true, products: [] } : { all: false, products: scope.value.products ?? [] });
}

const clauses = ['asks', 'whom', 'answer', 'goes'] as const;
const notes = computed(() => ({
  asks: { problems: under('label', 'help', 'placeholder', 'key', 'type', 'step'), refusal: refusal('label', 'help', 'placeholder') },
  whom: { problems: under('asked_of'), refusal: refusal('asked_of') },
  answer: { problems: under('required', 'settings'), refusal: refusal('required', 'settings') },
  goes: { problems: under('goes_to'), refusal: refusal('goes_to') },
}));
</script>

<template>
  <section :aria-label="`The field ${key}`">
    <header class="paragraph-head">
      <h2>{{ field.field.label.en }} <span class="mono soft">{{ key }}</span></h2>
      <p class="small soft">
        <template v-if="field.field.built_in">A question of the shop’s own · </template>
        <template v-if="field.live_since">Live since version {{ field.live_since }}<template v-if="field.changed">, changed in this draft</template></template>
        <template v-else>New in this draft</template>
        <template v-if="field.field.level === 'line'"> · asked of {{ asking }} of {{ draft.products.length }} products</template>
        <template v-if="!field.live_since && !field.field.built_in"> · <button class="act" @click="remove(key)">take it out</button></template>
      </p>
    </header>
    <dl class="clauses">
      <template v-for="clause in clauses" :key="clause">
        <dt>{{ { asks: 'Asks', whom: 'Of whom', answer: 'Answer', goes: 'Goes to' }[clause] }}</dt>
        <dd>
          <template v-if="clause === 'asks'">
            for {{ type?.name }}: <span class="whole">“<WordInput :value="field.field.label.en ?? ''" label="Label" :invalid="isRefused('label.en')" @save="set('label.en', $event)" />”</span><br />
            help <span class="whole">“<WordInput :value="field.field.help?.en ?? ''" label="Help" placeholder="none" @save="set('help.en', $event)" />”</span>,
            <template v-if="field.field.type !== 'postal_address'">
              example <span class="whole">“<WordInput :value="field.field.placeholder?.en ?? ''" label="Example in the empty control" placeholder="none" @save="set('placeholder.en', $event)" />”</span>
            </template>
          </template>
          <template v-else-if="clause === 'whom'">
            <template v-if="field.field.level === 'line'">
              once for every line of
              <Select class="words" :model-value="scope.all ? EVERY : LISTED" :options="[EVERY, LISTED]" aria-label="Of which products" @update:model-value="setScope" />
              <template v-if="!scope.all">:
                <ProductChoice :model-value="scope.products ?? []" :products="draft.products" @update:model-value="set('asked_of', { all: false, products: $event })" />
              </template>, on the {{ step }}
            </template>
            <template v-else>once for every order, at {{ step }}</template>
          </template>
          <template v-else-if="clause === 'answer'">
            must be given
            <Select
              v-if="field.optional"
              class="words"
              :model-value="field.field.required ? 'always' : 'never'"
              :options="['always', 'never']"
              aria-label="When an answer must be given"
              @update:model-value="set('required', $event === 'always')"
            />
            <template v-else>always</template>
            <template v-for="setting in type?.settings" :key="setting.name"
              >; {{ setting.clause.split('{}')[0] }}
              <WordInput :value="settingValue(setting.name, setting.default)" numeric :label="setting.clause.replace('{}', 'how many')" :invalid="isRefused(`settings.${setting.name}`)" @save="setNumber(setting.name, $event)" />
              {{ setting.clause.split('{}')[1] }}
            </template>
          </template>
          <template v-else>
            <template v-if="places.length">{{ places.length === 1 ? '1 place' : `${places.length} places` }}: {{ places.join(', ') }}</template>
            <template v-else>nothing</template>
          </template>
          <p v-if="notes[clause].refusal" class="call small" role="alert">{{ notes[clause].refusal }}</p>
          <div v-for="problem in notes[clause].problems" :key="problem.code + problem.setting" class="note" role="note">
            <MarkSign sign="raised_flag" />
            <div>
              <b>{{ problem.sentence }}</b>
              {{ ' ' }}<button v-for="remedy in problem.remedies" :key="remedy.label" class="act" @click="set(remedy.setting, remedy.value)">{{ remedy.label }}</button>
            </div>
          </div>
        </dd>
      </template>
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
dd p {
  margin: 0;
}
.whole {
  white-space: nowrap;
}
.note {
  margin: 8px 0 -9px -72px;
}
</style>
