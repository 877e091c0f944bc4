<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, ref } from 'vue';
import { api, ask, sentenceOf, type Schemas } from '../../shared/api/client';
import { useDraft } from '../fields/draft';
import WhatFollows from '../parts/WhatFollows.vue';
import MarkSign from '../parts/MarkSign.vue';
import { dayAndTime, inFull } from '../parts/when';

// The manager decides here whether the draft comes into force, and needs to see in words what changes, whom it touches, and what is still wrong.
const client = useQueryClient();
const query = useQuery({ queryKey: ['versions'], queryFn: () => ask(api.GET('/api/console/v1/versions')), shallow: true });
const view = computed(() => query.data.value);

const note = ref('');
const busy = ref(false);
const failure = ref('');
const said = ref('');

type Change = Schemas['ChangeView'];

// What is new stands with all of its clauses under what is asked, a destination under where answers go; what was changed may stand in both parts.
const isRoute = (change: Change) => change.clauses.length > 0 && change.clauses.every((c) => c.about_route);
const parts = computed(() =>
  [
    { title: 'Asked of shoppers', route: false },
    { title: 'Where answers go', route: true },
  ]
    .map((part) => ({
      ...part,
      changes: (view.value?.changes ?? [])
        .map((c) => ({
          ...c,
          shown: c.clauses.filter((x) => (c.kind === 'added' ? isRoute(c) === part.route : x.about_route === part.route)),
        }))
        .filter((c) => c.shown.length > 0 || (!part.route && c.kind === 'removed')),
    }))
    .filter((part) => part.changes.length > 0),
);
const problemsOf = (change: Change) => view.value?.problems.filter((p) => p.field === change.field) ?? [];
// What the shop says stands in a table of its own.
const placeOf = (key: string) => (key === 'own-sentences' ? '/wording' : `/fields/${key}`);
const consequenceOf = (change: Change, route: boolean) => (route ? 'from now on, for orders not sent yet' : change.consequence);
const wait = computed(() => {
  const count = view.value?.problems.length ?? 0;
  if (count > 0) return `${count} ${count === 1 ? 'problem' : 'problems'} must be mended first.`;
  if (view.value?.changes.length === 0) return 'There is nothing to publish.';
  return '';
});

const asking = ref(false);
const { putBack, putClauseBack, refused } = useDraft();

// What stands in something is put back after it, and what is new goes before that: what cannot yet is tried again behind the others.
async function back(changes: Change[]): Promise<void> {
  busy.value = true;
  failure.value = said.value = '';
  let [left, before] = [changes.map((c) => c.field), changes.length + 1];
  while (left.length && left.length < before) {
    before = left.length;
    const again: string[] = [];
    for (const key of left) if (!(await putBack(key))) again.push(key);
    left = again;
  }
  busy.value = false;
  if (left.length) failure.value = refused.value?.sentence ?? '';
  else said.value = changes.length === 1 ? `“${changes[0]!.label}” is as the shop has it.` : 'The draft is as the shop has it.';
  await client.invalidateQueries({ queryKey: ['versions'] });
}

async function clauseBack(change: Change, clause: Change['clauses'][number]): Promise<void> {
  busy.value = true;
  failure.value = said.value = '';
  if (await putClauseBack(change.field, clause)) said.value = `That of “${change.label}” is as the shop has it.`;
  else failure.value = refused.value?.sentence ?? '';
  busy.value = false;
  await client.invalidateQueries({ queryKey: ['versions'] });
}

async function publish(): Promise<void> {
  if (!view.value) return;
  busy.value = true;
  failure.value = said.value = '';
  try {
    const version = await ask(
      api.POST('/api/console/v1/versions', { body: { number: view.value.next, seen: view.value.seen, note: note.value } }),
    );
    said.value = `Version ${version.number} is in force.`;
    note.value = '';
  } catch (error) {
    failure.value = sentenceOf(error);
  } finally {
    busy.value = false;
    await Promise.all([client.invalidateQueries({ queryKey: ['versions'] }), client.invalidateQueries({ queryKey: ['draft'] })]);
  }
}
</script>

<template>
  <p v-if="query.error.value && !view" class="plate call" role="alert">{{ sentenceOf(query.error.value) }}</p>
  <div v-else-if="view" class="versions">
    <div class="plate">
      <div class="title-row">
        <h1>Draft of version {{ view.next }}</h1>
        <span class="soft small">
          {{ view.changes.length === 1 ? '1 change' : `${view.changes.length} changes` }}
          <template v-if="view.versions[0]"
            >since version {{ view.versions[0].number }},
            <span :title="inFull(view.versions[0].at)">{{ dayAndTime(view.versions[0].at) }}</span></template
          >
        </span>
      </div>
      <p v-if="said" class="live" role="status"><MarkSign sign="sealed_sheet" /> {{ said }}</p>
      <p v-if="view.changes.length === 0">
        The draft says the same as the version that is in force. <RouterLink to="/fields">Go to the fields</RouterLink>
      </p>
      <section v-for="part in parts" :key="part.title">
        <h2>{{ part.title }}</h2>
        <div v-for="change in part.changes" :key="change.field" class="change">
          <RouterLink class="name" :to="placeOf(change.field)">{{ change.label }}</RouterLink>
          <p>
            <ins v-if="change.kind === 'added'">New:</ins>
            <template v-if="change.kind === 'removed'">No longer asked.</template>
            <template v-for="(clause, i) in change.shown" :key="i">
              <template v-if="i > 0 || change.kind === 'added'">{{ i > 0 ? '; ' : ' ' }}</template>{{ clause.lead
              }}<del v-if="clause.before">{{ clause.before }}</del
              >{{ clause.before ? ' ' : '' }}<ins v-if="clause.after && change.kind !== 'added'">{{ clause.after }}</ins
              ><template v-else>{{ clause.after }}</template
              >{{ clause.tail
              }}<template v-if="change.kind === 'changed' && change.clauses.length > 1"
                >{{ ' '
                }}<button class="act small" type="button" :disabled="busy" @click="clauseBack(change, clause)">
                  put back<span class="visually-hidden"> “{{ change.label }}”, {{ clause.lead }}{{ clause.after }}{{ clause.tail }}</span>
                </button></template
              ></template
            >.
          </p>
          <span class="soft small"
            >{{ consequenceOf(change, part.route) }}
            <button class="act" type="button" :disabled="busy" @click="back([change])">
              {{ change.kind === 'added' ? 'take out' : 'put back' }}<span class="visually-hidden"> “{{ change.label }}”</span>
            </button>
          </span>
          <div
            v-for="problem in part.route && change.kind === 'added' ? [] : problemsOf(change)"
            :key="problem.code + problem.setting"
            class="note"
          >
            <MarkSign sign="raised_flag" />
            <div>
              <b>{{ problem.sentence }}</b>{{ ' ' }}
              <RouterLink :to="{ path: `/fields/${change.field}`, query: { mend: problem.setting } }">Mend it</RouterLink>
            </div>
          </div>
        </div>
      </section>
      <section v-if="view.changes.length > 0">
        <p v-if="view.changes.length > 1">
          <button class="act" type="button" :disabled="busy" @click="asking = true">put the whole draft back</button>
        </p>
        <WhatFollows
          v-if="asking"
          :sentence="`All ${view.changes.length} changes go, those of others too. Each can be undone by whoever does this, one by one.`"
          act="put it back"
          @do="((asking = false), back(view.changes))"
          @leave="asking = false"
        />
        <h2>Stays as it is</h2>
        <p class="soft">{{ view.unchanged }} fields. Orders already placed keep the labels, prices and codes of their own version.</p>
      </section>
      <section>
        <h2>Published</h2>
        <table class="ruled">
          <thead>
            <tr>
              <th>Version</th>
              <th>What it was for</th>
              <th>What it changed</th>
              <th>By</th>
              <th>When</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(version, i) in view.versions" :key="version.number">
              <td>{{ version.number }} <span v-if="i === 0" class="soft">in force</span></td>
              <td>{{ version.note }}</td>
              <td class="soft">{{ version.changed.join(', ') }}</td>
              <td>{{ version.by }}</td>
              <td :title="inFull(version.at)">{{ dayAndTime(version.at) }}</td>
            </tr>
          </tbody>
        </table>
      </section>
    </div>
    <form @submit.prevent="publish">
      <div>
        <label for="note">What is this version for?</label>
        <InputText
          id="note"
          v-model="note"
          class="line"
          autocomplete="off"
          maxlength="200"
          :aria-invalid="!!failure || undefined"
          aria-describedby="failure"
        />
        <p id="failure" class="call" role="alert">{{ failure }}</p>
      </div>
      <div>
        <Button class="button main whole" type="submit" :disabled="busy || !!wait">Publish version {{ view.next }}</Button>
        <p class="soft small">{{ wait || 'It is in force for every shopper at once.' }}</p>
      </div>
    </form>
  </div>
</template>

<style scoped>
/* What one clause can be put back by is not louder than what it says. */
.change p .act {
  font-size: var(--size-small);
}
.versions {
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  height: 100%;
}
h2 {
  margin-top: 16px;
  border-bottom: 1px solid var(--rule-strong);
  padding-bottom: 4px;
}
.change {
  display: grid;
  grid-template-columns: 210px 1fr 250px;
  gap: 6px 18px;
  border-bottom: 1px solid var(--rule);
  padding: 9px 0;
}
.change p {
  margin: 0;
}
.change p::first-letter {
  text-transform: uppercase;
}
.name {
  font-weight: 650;
  text-decoration: none;
}
.name:hover {
  text-decoration: underline;
}
.note {
  grid-column: 2 / -1;
}
ins {
  text-decoration: none;
  background: var(--taken);
  padding: 0 2px;
}
del {
  color: var(--ink-faint);
}
.live {
  display: flex;
  gap: 6px;
  align-items: center;
}
form {
  background: var(--sheet);
  border-top: 2px solid var(--ink);
  display: grid;
  grid-template-columns: 1fr 300px;
  gap: 30px;
  padding: 14px var(--edge) 12px;
}
label {
  font-weight: 600;
}
form p {
  margin: 7px 0 0;
  min-height: 1.35em;
}
.whole {
  width: 100%;
  justify-content: center;
}
/* Where there is little room, as at twice the size, what is published is read before it is named. */
@media (max-height: 600px) {
  .versions {
    height: auto;
  }
}
@media (max-width: 900px) {
  .change,
  form {
    grid-template-columns: 1fr;
  }
  .note {
    grid-column: 1;
  }
}
</style>
