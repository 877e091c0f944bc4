<script setup lang="ts">
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, nextTick, onMounted, onUnmounted, ref, useTemplateRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import { sentenceOf } from '../../shared/api/client';
import { useDraft } from '../fields/draft';
import FieldMap from '../fields/FieldMap.vue';
import FieldParagraph from '../fields/FieldParagraph.vue';
import FieldPreview from '../fields/FieldPreview.vue';
import NewField from '../fields/NewField.vue';
import MapLegend from '../fields/MapLegend.vue';

// The manager decides here what is asked and where each answer goes, and needs to see every field's thread,
// the settings of the one at hand, and what the shopper sees of it.
const { field: chosen } = defineProps<{ field?: string }>();
const router = useRouter();
const { query, draft, done, change, undo } = useDraft();

const filter = ref('');
const adding = ref(false);
const map = useTemplateRef('map');

const field = computed(() => draft.value?.fields.find((f) => f.field.key === chosen) ?? draft.value?.fields.find((f) => !f.field.built_in) ?? draft.value?.fields[0]);
const live = computed(() => draft.value?.fields.filter((f) => f.live_since).length);

function open(key: string): void {
  adding.value = false;
  void router.replace(`/fields/${key}`);
}

async function added(key: string): Promise<void> {
  open(key);
  await nextTick();
  map.value?.focus();
}

function onKey(event: KeyboardEvent): void {
  if ((event.target as HTMLElement).closest('input, textarea, [role="combobox"], [role="listbox"]')) return;
  if ((event.ctrlKey || event.metaKey) && event.key === 'z') void undo();
  else if (event.ctrlKey || event.metaKey || event.altKey) return;
  else if (event.key === '/') document.getElementById('find')?.focus();
  else if (event.key === 'n') adding.value = true;
  else return;
  event.preventDefault();
}

// What was said is read out once and does not stand there for ever.
watch(done, (text) => {
  if (text) setTimeout(() => done.value === text && (done.value = ''), 4000);
});

onMounted(() => window.addEventListener('keydown', onKey));
onUnmounted(() => window.removeEventListener('keydown', onKey));
</script>

<template>
  <p v-if="query.error.value && !draft" class="plate call" role="alert">{{ sentenceOf(query.error.value) }}</p>
  <div v-else-if="draft" class="fields">
    <section class="left" aria-label="The map">
      <div class="title-row">
        <h1>Fields</h1>
        <span class="soft small">{{ draft.fields.length }} fields, {{ live }} live · draft of version {{ draft.next }}</span>
        <span class="push"></span>
        <InputText id="find" v-model="filter" class="find" type="search" placeholder="Find a field or a key" aria-label="Find a field or a key" @keydown.esc="filter = ''" @keydown.enter="map?.focus()" />
        <Button class="button" @click="adding = true">Add a field</Button>
      </div>
      <div class="scroll">
        <FieldMap ref="map" :draft="draft" :selected="field?.field.key" :filter="filter" @open="open" @switch="(key, destination, on) => change(key, `goes_to.${destination}`, on)" />
        <p v-if="filter && !draft.fields.some((f) => (f.field.label.en ?? '').toLowerCase().includes(filter.toLowerCase()) || f.field.key.includes(filter.toLowerCase()))">
          No field is called that. <button class="act" @click="adding = true">Add one</button>
        </p>
      </div>
      <footer>
        <MapLegend />
        <span class="said" role="status">{{ done }}</span>
      </footer>
    </section>
    <div class="right">
      <div class="paragraph">
        <NewField v-if="adding" :draft="draft" @added="added" @cancel="adding = false" />
        <FieldParagraph v-else-if="field" :key="field.field.key" :field="field" :draft="draft" />
      </div>
      <FieldPreview v-if="field && !adding" :field="field" :draft="draft" />
    </div>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 432px;
  height: 100%;
}
.left {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto;
  padding-left: var(--edge);
  min-width: 0;
}
.title-row {
  padding-right: var(--edge);
  align-items: center;
}
.find.p-inputtext {
  width: 190px;
  font: inherit;
  border: 0;
  border-bottom: 1px solid var(--ink);
  border-radius: 0;
}
.scroll {
  overflow: auto;
  padding-right: var(--edge);
}
footer {
  display: flex;
  gap: 16px;
  align-items: center;
  min-height: 34px;
  font-size: var(--size-small);
  color: var(--ink-soft);
}
.said {
  margin-left: auto;
  padding-right: var(--edge);
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
  overflow: auto;
}
@media (max-width: 1100px) {
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
