<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, onMounted, onUnmounted, ref, watchEffect } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { api, ask, sentenceOf } from '../shared/api/client';
import { useDraft } from './fields/draft';
import KeyHelp from './parts/KeyHelp.vue';
import SealOfSexton from './parts/SealOfSexton.vue';
import { singleKeyOf } from './parts/singleKeys';
import SignInPage from './pages/SignInPage.vue';
import { isManager, may, readSession, session, signOut } from './session';

const route = useRoute();
const router = useRouter();
const failure = ref('');
const keys = ref(false);
const client = useQueryClient();

const signedIn = computed(() => !!session.value?.name);
const { draft } = useDraft(computed(() => signedIn.value && isManager.value));
const attention = useQuery({
  queryKey: ['orders', 'attention'],
  queryFn: () => ask(api.GET('/api/console/v1/orders/attention')),
  enabled: signedIn,
  refetchInterval: 15_000,
});
const stuck = useQuery({
  queryKey: ['deliveries', 'attention'],
  queryFn: () => ask(api.GET('/api/console/v1/deliveries/attention')),
  enabled: computed(() => signedIn.value && may('deliveries')),
  refetchInterval: 5_000,
});
const views = computed(() => [
  ...(isManager.value
    ? [
        { key: 'fields', name: 'Fields', to: '/fields', figure: draft.value?.unpublished ? `${draft.value.unpublished} changed` : '' },
        { key: 'wording', name: 'Wording', to: '/wording', figure: '' },
        { key: 'versions', name: 'Versions', to: '/versions', figure: '' },
      ]
    : []),
  {
    key: 'orders',
    name: 'Orders',
    to: '/orders',
    figure: attention.data.value?.orders ? `${attention.data.value.orders} need attention` : '',
  },
  ...(may('papers') ? [{ key: 'papers', name: 'Papers', to: '/papers', figure: '' }] : []),
  ...(may('deliveries')
    ? [
        {
          key: 'deliveries',
          name: 'Deliveries',
          to: '/deliveries',
          figure: stuck.data.value?.deliveries ? `${stuck.data.value.deliveries}` : '',
        },
      ]
    : []),
  ...(may('shop') ? [{ key: 'shop', name: 'The shop', to: '/shop', figure: '' }] : []),
]);

// Where somebody has no place they come in at the orders, which everybody has.
const mayBeHere = computed(() => views.value.some((v) => v.key === route.meta.view));
watchEffect(() => {
  if (signedIn.value && route.meta.view && !mayBeHere.value) void router.replace('/orders');
});

async function load(): Promise<void> {
  failure.value = '';
  try {
    await readSession();
  } catch (error) {
    failure.value = sentenceOf(error);
  }
}

async function leave(): Promise<void> {
  await signOut();
  client.clear();
}

function onKey(event: KeyboardEvent): void {
  if (singleKeyOf(event) === '?') keys.value = !keys.value;
}

onMounted(() => {
  window.addEventListener('keydown', onKey);
  void load();
});
onUnmounted(() => window.removeEventListener('keydown', onKey));
</script>

<template>
  <p v-if="failure" class="plate call" role="alert">{{ failure }} <button class="act" @click="load">Try again</button></p>
  <SignInPage v-else-if="session && !signedIn" />
  <div v-else-if="session" class="desk">
    <header>
      <RouterLink class="mark" to="/"
        ><SealOfSexton /> Sexton <small>{{ session.shop }}</small></RouterLink
      >
      <nav aria-label="Places">
        <RouterLink
          v-for="view in views"
          :key="view.key"
          :to="view.to"
          :class="{ here: route.meta.view === view.key }"
          :aria-current="route.meta.view === view.key ? 'page' : undefined"
        >
          {{ view.name }} <b v-if="view.figure">{{ view.figure }}</b>
        </RouterLink>
      </nav>
      <div class="who">
        <button class="act quiet" :aria-expanded="keys" @click="keys = !keys"><kbd>?</kbd> keys</button>
        <span>{{ session.name }}</span>
        <button class="act quiet" @click="leave">Sign out</button>
      </div>
    </header>
    <main class="view"><RouterView v-if="mayBeHere" /></main>
    <KeyHelp v-if="keys" :view="String(route.meta.view)" @close="keys = false" />
  </div>
</template>

<style scoped>
.desk {
  display: grid;
  grid-template: auto minmax(0, 1fr) / minmax(0, 1fr);
  height: 100%;
}
header {
  display: flex;
  align-items: stretch;
  min-height: 46px;
  border-bottom: 2px solid var(--ink);
  padding: 0 var(--edge);
}
.mark {
  display: flex;
  align-items: center;
  gap: 9px;
  font: 600 17px var(--title);
  padding-right: 20px;
  text-decoration: none;
}
.mark small {
  font: 12.5px var(--work);
  color: var(--ink-soft);
  border-left: 1px solid var(--rule-strong);
  padding-left: 9px;
}
nav {
  display: flex;
}
nav a {
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 0 13px;
  text-decoration: none;
  border-left: 1px solid var(--rule);
  position: relative;
}
nav a:last-child {
  border-right: 1px solid var(--rule);
}
nav a.here {
  background: var(--sheet);
  font-weight: 650;
}
nav a.here::after {
  content: '';
  position: absolute;
  inset: auto 0 -2px;
  height: 2px;
  background: var(--sheet);
}
nav b {
  font-size: 12px;
  font-weight: 650;
  line-height: 1.2;
  border-bottom: 2px solid var(--brass);
}
.who {
  margin-left: auto;
  display: flex;
  align-items: center;
  gap: 14px;
  color: var(--ink-soft);
  font-size: 13px;
}
.quiet {
  text-decoration: none;
}
.quiet:hover {
  text-decoration: underline;
}
.view {
  min-height: 0;
}
@media (max-width: 900px) {
  header,
  nav {
    flex-wrap: wrap;
  }
  nav a {
    min-height: 40px;
  }
}
</style>
