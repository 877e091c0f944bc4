<script setup lang="ts">
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, nextTick, onMounted, onUnmounted, ref, useTemplateRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { sentenceOf, type Schemas } from '../../shared/api/client';
import DestinationList from '../fields/DestinationList.vue';
import DestinationParagraph from '../fields/DestinationParagraph.vue';
import DestinationShown from '../fields/DestinationShown.vue';
import { useDraft, type DraftField } from '../fields/draft';
import { singleKeyOf } from '../parts/singleKeys';
import FieldMap from '../fields/FieldMap.vue';
import FieldParagraph from '../fields/FieldParagraph.vue';
import FieldPreview from '../fields/FieldPreview.vue';
import { isFound, nameOf } from '../fields/groups';
import NewDestination from '../fields/NewDestination.vue';
import NewItem from '../fields/NewItem.vue';
import NewSet from '../fields/NewSet.vue';
import StarterSets from '../fields/StarterSets.vue';
import MapLegend from '../fields/MapLegend.vue';
import ProductMap from '../fields/ProductMap.vue';
import ProductsBrought from '../products/ProductsBrought.vue';
import ProductParagraph from '../fields/ProductParagraph.vue';
import ProductPreview from '../fields/ProductPreview.vue';
import SectionParagraph from '../fields/SectionParagraph.vue';
import StepParagraph from '../fields/StepParagraph.vue';
import { keepInSight } from '../parts/keepInSight';

// The manager decides here what is asked, of which products, and where each answer goes, and needs to see every field's thread,
// the settings of what is at hand, and what the shopper sees of it.
const { field: chosen } = defineProps<{ field?: string }>();
const route = useRoute();
const router = useRouter();
const { query, draft, done, change, undo, refuse: say, lookFor } = useDraft();

const filter = ref('');
/** What is being added: into which section, of which products, or like which field; or what kind of destination. */
const adding = ref<{
  set?: string;
  what?: 'section' | 'step';
  into?: string;
  of?: Schemas['ProductScope'];
  like?: DraftField;
  destination?: string;
}>();
const map = useTemplateRef('map');
const right = useTemplateRef('right');

const face = computed(() => (route.query.by === 'products' || route.query.by === 'destinations' ? route.query.by : 'fields'));
const section = computed(() => draft.value?.sections.find((s) => s.section.key === chosen));
const step = computed(() => draft.value?.own_steps.find((s) => s.step.key === chosen));
const destination = computed(
  () =>
    draft.value?.destinations.find((d) => d.key === chosen) ??
    (face.value === 'destinations' ? draft.value?.destinations.findLast((d) => d.names_answers) : undefined),
);
const field = computed(
  () =>
    draft.value?.fields.find((f) => f.field.key === chosen) ?? draft.value?.fields.find((f) => !f.field.built_in) ?? draft.value?.fields[0],
);
const at = computed(() => section.value?.section.key ?? step.value?.step.key ?? destination.value?.key ?? field.value?.field.key);
/** Whether what a destination gets stands beside its paragraph, in place of the list: sheets and messages want the room. */
const beside = computed(() => face.value === 'destinations' && route.query.beside === '1' && destination.value?.is_delivered);
/** The others of its family, so that one goes from paper to paper without the list. */
const relatives = computed(() => draft.value?.destinations.filter((d) => d.family === destination.value?.family && d.is_delivered) ?? []);
const turnBeside = () => router.replace({ path: route.path, query: { ...route.query, beside: beside.value ? undefined : '1' } });
// A product is at hand while its face is open and no field was chosen since.
const product = computed(() => (face.value === 'products' ? draft.value?.products.find((p) => p.code === route.query.product) : undefined));
const hasNone = computed(() => !draft.value?.fields.some((f) => !f.field.built_in));
const finds = { fields: 'Find a field', products: 'Find a product', destinations: 'Find one' };
const nothingFound = computed(() => {
  const word = filter.value.trim().toLowerCase();
  return (
    word &&
    face.value !== 'destinations' &&
    !draft.value?.fields.some((f) => nameOf(f).toLowerCase().includes(word) || f.field.key.includes(word)) &&
    !(face.value === 'products' && draft.value?.products.some((p) => isFound(p, word)))
  );
});

async function open(key: string): Promise<void> {
  adding.value = undefined;
  await router.replace({ path: `/fields/${key}`, query: { ...route.query, product: undefined } });
  bringIntoSight();
}

async function openProduct(code: string): Promise<void> {
  adding.value = undefined;
  await router.replace({ path: route.path, query: { ...route.query, product: code } });
  bringIntoSight();
}

// Where the paragraph stands below the map, it would open out of sight.
function bringIntoSight(): void {
  if (right.value && right.value.getBoundingClientRect().top > innerHeight - 200) right.value.scrollIntoView();
}

// What cannot be said of a field is told in its paragraph.
async function refuse(key: string, sentence: string): Promise<void> {
  await open(key);
  say(key, 'asked_of', sentence);
}

// Of a large catalogue only some products are at hand: what is looked for, and what is opened, comes in addition.
watch(
  () => [face.value, filter.value, String(route.query.product ?? ''), !!draft.value] as const,
  ([by, word, code]) => by === 'products' && lookFor(word, code ? [code] : []),
  { immediate: true },
);

async function broughtIn(what: string): Promise<void> {
  await query.refetch();
  done.value = what;
}

async function added(key: string): Promise<void> {
  await open(key);
  await nextTick();
  map.value?.focus();
}

// A problem is mended where its clause stands: in sight, with the focus in it.
watch(
  () => [route.query.mend, !!draft.value] as const,
  async ([setting, there]) => {
    if (!setting || !there) return;
    await nextTick();
    const clause = right.value?.querySelector(`[data-setting="${CSS.escape(String(setting))}"]`)?.closest<HTMLElement>('dd');
    clause?.querySelector<HTMLElement>('input, textarea, [role="combobox"], button')?.focus();
    if (clause) keepInSight(clause, clause.closest('.paragraph')!);
    await router.replace({ path: route.path, query: { ...route.query, mend: undefined } });
  },
  { immediate: true, flush: 'post' },
);

function onKey(event: KeyboardEvent): void {
  const key = singleKeyOf(event);
  const isTyping = !!(event.target as HTMLElement).closest('input, textarea, [role="combobox"], [role="listbox"]');
  if ((event.ctrlKey || event.metaKey) && event.key === 'z' && !isTyping) void undo();
  else if (key === '/') document.getElementById('find')?.focus();
  else if (key === '+') adding.value = face.value === 'destinations' ? { destination: '' } : {};
  else return;
  event.preventDefault();
}

// What was said is read out once and does not stand there for ever.
let gone = 0;
watch(done, (text) => {
  // The same said again stands as long again.
  window.clearTimeout(gone);
  if (text) gone = window.setTimeout(() => (done.value = ''), 4000);
});

onMounted(() => window.addEventListener('keydown', onKey));
onUnmounted(() => window.removeEventListener('keydown', onKey));
</script>

<template>
  <p v-if="query.error.value && !draft" class="plate call" role="alert">{{ sentenceOf(query.error.value) }}</p>
  <div v-else-if="draft" class="fields" :class="[face, { beside }]">
    <section v-show="!beside" class="left" aria-label="The map">
      <div class="title-row">
        <h1>{{ face === 'destinations' ? 'Destinations' : 'Fields' }}</h1>
        <span class="soft small count">{{
          face === 'destinations' ? draft.destinations.length : `${draft.fields.length} fields · draft of version ${draft.next}`
        }}</span>
        <InputText
          id="find"
          v-model="filter"
          class="find"
          type="search"
          :placeholder="finds[face]"
          aria-label="Find"
          @keydown.esc="filter = ''"
          @keydown.enter="map?.focus()"
        />
        <span class="small faces">
          by
          <RouterLink :to="{ path: route.path, query: {} }" :aria-current="face === 'fields' ? 'true' : undefined"
            >where it goes</RouterLink
          >
          ·
          <RouterLink :to="{ path: route.path, query: { by: 'products' } }" :aria-current="face === 'products' ? 'true' : undefined"
            >products</RouterLink
          >
          ·
          <RouterLink :to="{ path: route.path, query: { by: 'destinations' } }" :aria-current="face === 'destinations' ? 'true' : undefined"
            >destinations</RouterLink
          >
        </span>
        <Button v-if="face !== 'destinations'" class="button" @click="adding = {}">Add a field</Button>
        <Button v-else class="button" @click="adding = { destination: '' }">Add a destination</Button>
      </div>
      <div class="scroll">
        <ProductsBrought v-if="face === 'products'" @taken="broughtIn" />
        <FieldMap
          v-if="face === 'fields'"
          ref="map"
          :draft="draft"
          :selected="at"
          :filter="filter"
          @open="open"
          @column="(key) => router.push({ path: `/fields/${key}`, query: { by: 'destinations' } })"
          @switch="(key, destination, on) => change(key, `goes_to.${destination}`, on)"
          @add="(what) => (adding = { what })"
        />
        <ProductMap
          v-else-if="face === 'products'"
          ref="map"
          :draft="draft"
          :selected="product ? undefined : at"
          :product="product?.code"
          :filter="filter"
          @open="open"
          @scope="(key, scope) => change(key, 'asked_of', scope)"
          @add="(of) => (adding = { of })"
          @refuse="(key, sentence) => refuse(key, sentence)"
          @product="openProduct"
        />
        <DestinationList
          v-else
          ref="map"
          :draft="draft"
          :selected="at"
          :filter="filter"
          @open="open"
          @add="(kind) => (adding = { destination: kind })"
        />
        <p v-if="hasNone && face !== 'destinations'" class="first">
          The shop asks only its own questions so far. <button class="act" @click="adding = {}">Add a field</button>, or begin with a set
          for <StarterSets :draft="draft" @begin="(set) => (adding = { set })" />.
        </p>
        <p v-if="nothingFound">No field has that name. <button class="act" @click="adding = {}">Add a field</button></p>
      </div>
      <footer>
        <MapLegend :face="face" />
        <span class="said" role="status">{{ done }}</span>
      </footer>
    </section>
    <div ref="right" class="right">
      <div class="paragraph">
        <h1 v-if="beside" class="visually-hidden">Destinations</h1>
        <NewDestination
          v-if="adding?.destination !== undefined"
          :key="`destination ${adding.destination}`"
          :draft="draft"
          :kind="adding.destination || undefined"
          @added="added"
          @cancel="adding = undefined"
        />
        <NewSet
          v-else-if="adding?.set"
          :key="`set ${adding.set}`"
          :draft="draft"
          :of="adding.set"
          :asked-of="adding.of"
          @added="added"
          @cancel="adding = undefined"
        />
        <NewItem
          v-else-if="adding"
          :key="`${adding.what}${adding.into}${JSON.stringify(adding.of)}${adding.like?.field.key}`"
          :draft="draft"
          :what="adding.what"
          :into="adding.into"
          :asked-of="adding.of"
          :like="adding.like"
          @begin="(set) => (adding = { set, of: adding?.of })"
          @added="added"
          @cancel="adding = undefined"
        />
        <ProductParagraph
          v-else-if="product"
          :key="product.code"
          :code="product.code"
          :draft="draft"
          @open="open"
          @add="(of) => (adding = { of })"
        />
        <SectionParagraph
          v-else-if="section"
          :key="section.section.key"
          :item="section"
          :draft="draft"
          @open="open"
          @add="(into) => (adding = { into })"
        />
        <StepParagraph v-else-if="step" :key="step.step.key" :item="step" :draft="draft" />
        <DestinationParagraph v-else-if="destination" :key="destination.key" :item="destination" :draft="draft" @open="open" />
        <FieldParagraph v-else-if="field" :key="field.field.key" :field="field" :draft="draft" @like="adding = { like: field }" />
      </div>
      <footer v-if="beside" class="relatives">
        <nav v-if="relatives.length > 1" aria-label="Others of its family">
          <button
            v-for="d in relatives"
            :key="d.key"
            class="act"
            :aria-current="d.key === destination?.key || undefined"
            @click="open(d.key)"
          >
            {{ d.name }}
          </button>
        </nav>
        <span class="said" role="status">{{ done }}</span>
      </footer>
      <ProductPreview v-if="product && !adding" :key="product.code" :product="product" :draft="draft" />
      <FieldPreview v-else-if="at && !adding && !step && !destination" :of="at" :draft="draft" />
      <DestinationShown
        v-else-if="destination?.is_delivered && !adding"
        :key="destination.key"
        :item="destination"
        :draft="draft"
        :beside="!!beside"
        @turn="turnBeside()"
      />
    </div>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 500px;
  grid-template-rows: minmax(0, 1fr);
  height: 100%;
}
.left {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto;
  padding-left: var(--edge);
  min-width: 0;
  min-height: 0;
}
.title-row {
  padding-right: var(--edge);
  align-items: center;
}
@media (min-width: 1101px) {
  .title-row {
    flex-wrap: nowrap;
  }
  .title-row > * {
    flex: none;
  }
}
/* Where there is no room for all, what one does comes before what is counted. */
.title-row > .count {
  flex: 0 1 auto;
  min-width: 0;
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
}
.find.p-inputtext {
  margin-left: auto;
  width: 118px;
  font: inherit;
  border: 0;
  border-bottom: 1px solid var(--ink);
  border-radius: 0;
}
.first {
  max-width: 60ch;
}
.faces a {
  color: var(--ink-soft);
  text-decoration: none;
  padding: 4px 1px;
}
.faces a[aria-current] {
  color: var(--ink);
  text-decoration: underline;
  text-underline-offset: 3px;
}
/* What is only read out stands within what scrolls, or the whole page would grow by it. */
.scroll {
  position: relative;
  overflow: auto;
  padding-right: var(--edge);
  /* What has the focus comes out from under the names of rows and columns, which stay. */
  scroll-padding: 190px 0 0 260px;
}
footer {
  display: flex;
  gap: 16px;
  align-items: center;
  min-height: 34px;
  margin-right: var(--edge);
  border-top: 1px solid var(--rule);
  font-size: var(--size-small);
  color: var(--ink-soft);
}
.said {
  margin-left: auto;
  color: var(--ink);
}
.right {
  background: var(--sheet);
  border-left: 2px solid var(--ink);
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  min-height: 0;
}
.paragraph {
  position: relative;
  overflow: auto;
}
.beside {
  grid-template-columns: minmax(0, 1fr);
}
.beside .right {
  border-left: 0;
  grid-template-columns: 500px minmax(0, 1fr);
}
.relatives {
  margin: 0;
  padding: 2px var(--edge);
  background: var(--sheet);
}
.relatives nav {
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
}
.relatives [aria-current] {
  color: var(--ink);
  font-weight: 650;
  text-decoration: none;
}
@media (max-width: 1100px) {
  .beside .right {
    grid-template-columns: minmax(0, 1fr);
  }
  .fields {
    grid-template-columns: 1fr;
    grid-template-rows: auto auto;
    height: auto;
  }
  .right {
    border-left: 0;
    border-top: 2px solid var(--ink);
  }
}
</style>
