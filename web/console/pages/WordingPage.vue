<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import InputText from 'primevue/inputtext';
import Select from 'primevue/select';
import { computed, onMounted, onUnmounted, ref } from 'vue';
import { api, ask, sentenceOf } from '../../shared/api/client';
import { singleKeyOf } from '../parts/singleKeys';
import TextCell from '../wording/TextCell.vue';
import { chosen, isOwn, lacks, textIn, type Shown, type Text } from '../wording/texts';
import TextsBrought from '../wording/TextsBrought.vue';

// The manager decides here what shoppers read in each language of the shop, and needs to see where it stands, what is shipped, and what is missing.
const client = useQueryClient();
const query = useQuery({ queryKey: ['draft', 'texts'], queryFn: () => ask(api.GET('/api/console/v1/draft/texts')), shallow: true });
const languages = computed(() => query.data.value?.languages ?? []);
const texts = computed(() => query.data.value?.texts ?? []);

const words = ref('');
const shown = ref<Shown>('all');
const ways: { key: Shown; name: string }[] = [
  { key: 'all', name: 'everything' },
  { key: 'missing', name: 'only what is missing' },
  { key: 'written', name: 'only what was written here' },
  { key: 'own', name: 'only what is said otherwise than shipped' },
];
const seen = computed(() => chosen(texts.value, languages.value, shown.value, words.value));
const lacking = computed(() =>
  languages.value.filter((l) => l.spoken).map((l) => ({ ...l, count: texts.value.filter((t) => lacks(t, l)).length })),
);

const refused = ref<{ key: string; sentence: string }>();
const said = ref('');

// One after the other: what is typed while another change is on its way is not lost.
let saving = Promise.resolve();
function save(text: Text, language: string, to: string): void {
  saving = saving.then(async () => {
    refused.value = undefined;
    said.value = '';
    try {
      await ask(
        api.PATCH('/api/console/v1/draft/texts', {
          body: { key: text.key, language, before: textIn(text, language), to },
        }),
      );
      said.value = 'Saved.';
    } catch (error) {
      refused.value = { key: text.key, sentence: sentenceOf(error) };
    }
    await refresh();
  });
}

const refresh = () =>
  Promise.all([client.invalidateQueries({ queryKey: ['draft'] }), client.invalidateQueries({ queryKey: ['versions'] })]);

async function taken(count: number): Promise<void> {
  await refresh();
  said.value = count === 1 ? 'One text was put into the draft.' : `${count} texts were put into the draft.`;
}

function onKey(event: KeyboardEvent): void {
  if (singleKeyOf(event) !== '/') return;
  event.preventDefault();
  document.getElementById('find')?.focus();
}

onMounted(() => window.addEventListener('keydown', onKey));
onUnmounted(() => window.removeEventListener('keydown', onKey));
</script>

<template>
  <p v-if="query.error.value && !query.data.value" class="plate call" role="alert">{{ sentenceOf(query.error.value) }}</p>
  <div v-else-if="query.data.value" class="plate">
    <div class="title-row">
      <h1>Wording</h1>
      <span class="soft small">
        <template v-for="(language, i) in lacking" :key="language.tag"
          >{{ i ? ' · ' : '' }}{{ language.name }}: {{ language.count ? `${language.count} missing` : 'nothing missing' }}</template
        >
      </span>
      <span class="push"></span>
      <InputText
        id="find"
        v-model="words"
        class="find"
        type="search"
        placeholder="Find a text"
        aria-label="Find"
        @keydown.esc="words = ''"
      />
      <Select v-model="shown" class="words" :options="ways" option-label="name" option-value="key" aria-label="Which texts" />
    </div>
    <p class="about">
      What shoppers read, in the draft: it counts once it is published. {{ '{0}' }} to {{ '{3}' }} are filled in.
      <TextsBrought @taken="taken" />
    </p>
    <table>
      <thead>
        <tr>
          <th scope="col">Where it stands</th>
          <th v-for="language in languages" :key="language.tag" scope="col" :lang="language.tag">
            {{ language.name }} <span v-if="!language.spoken" class="soft small" lang="en">not spoken yet</span>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="text in seen" :key="text.key">
          <th scope="row">
            {{ text.where }} <span class="soft small">{{ text.key }}</span>
            <span v-if="refused?.key === text.key" class="call" role="alert">{{ refused.sentence }}</span>
          </th>
          <td v-for="language in languages" :key="language.tag">
            <TextCell
              :text="textIn(text, language.tag)"
              :label="`${text.where}, ${text.key}, ${language.name}`"
              :language="language.tag"
              :missing="lacks(text, language)"
              :usual="isOwn(text, language.tag) ? text.usual[language.tag] : undefined"
              @save="save(text, language.tag, $event)"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="!seen.length">{{ shown === 'missing' ? 'Nothing is missing.' : 'No text has these words.' }}</p>
    <p class="visually-hidden" role="status">{{ said }}</p>
  </div>
</template>

<style scoped>
.about {
  margin: 2px 0 8px;
}
table {
  border-collapse: collapse;
  table-layout: fixed;
  width: 100%;
}
thead th {
  position: sticky;
  top: 0;
  z-index: 1;
  background: var(--sheet);
  border-bottom: 1px solid var(--ink);
}
th,
td {
  text-align: left;
  vertical-align: top;
  padding: 4px 12px 4px 0;
  font-weight: normal;
}
thead th {
  font-weight: 650;
}
tbody tr {
  border-bottom: 1px solid var(--rule);
}
thead th:first-child {
  width: 30%;
}
tbody th {
  overflow-wrap: anywhere;
}
tbody th .soft {
  display: block;
}
@media (max-width: 760px) {
  table,
  tbody,
  tr,
  tbody th,
  td {
    display: block;
    width: auto;
  }
  thead {
    display: none;
  }
}
</style>
