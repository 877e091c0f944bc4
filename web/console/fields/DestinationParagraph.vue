<script setup lang="ts">
import { computed, ref } from 'vue';
import CalledClause from './CalledClause.vue';
import ClauseNotes from './ClauseNotes.vue';
import type { Draft, DraftDestination } from './draft';
import { useDraft } from './draft';
import GetsClause from './GetsClause.vue';
import ItemCodes from './ItemCodes.vue';
import KindClause from './KindClause.vue';
import NewDestination from './NewDestination.vue';
import OtherwiseClause from './OtherwiseClause.vue';
import PricesClause from './PricesClause.vue';
import RoutedFields from './RoutedFields.vue';
import WhenClause from './WhenClause.vue';

// The manager decides here which orders and answers go to one destination, under which names, when, and what becomes of what does not fit; and needs to see
// all that goes there side by side, in the order in which it stands there.
const { item, draft } = defineProps<{ item: DraftDestination; draft: Draft }>();
const emit = defineEmits<{ open: [key: string] }>();
const { change, remove, refused } = useDraft();

const kind = computed(() => draft.destination_kinds.find((k) => k.key === item.destination.kind));
const going = computed(() => draft.fields.filter((f) => !f.field.retired && f.field.goes_to?.includes(item.key)).length);
const copying = ref(false);
const set = (setting: string, value: unknown) => void change(item.key, setting, value);
</script>

<template>
  <section :aria-label="`The destination ${item.key}`">
    <header class="paragraph-head">
      <h2>
        {{ item.name }} <span class="mono soft">{{ item.key }}</span>
      </h2>
      <p class="small soft">
        {{ item.since ? `In force since version ${item.since}${item.changed ? ', changed in this draft' : ''}` : 'New in this draft' }} ·
        {{ going === 1 ? '1 field goes' : `${going} fields go` }} there<template v-if="item.destination.retired"> · retired</template
        ><template v-else-if="item.destination.switched_off"> · switched off</template>
      </p>
      <p v-if="kind?.can_be_made" class="small acts">
        <button class="act" @click="copying = true">copy it</button>
        <button v-if="!item.destination.retired" class="act" @click="set('switched_off', !item.destination.switched_off)">
          {{ item.destination.switched_off ? 'switch it on' : 'switch it off' }}
        </button>
        <button v-if="!item.since" class="act" @click="remove(item.key)">take it out</button>
        <button v-else class="act" @click="set('retired', !item.destination.retired)">
          {{ item.destination.retired ? 'no longer retired' : 'retire it' }}
        </button>
      </p>
      <p v-if="refused?.field === item.key && refused.setting === ''" class="call" role="alert">{{ refused.sentence }}</p>
      <ClauseNotes :of="item.key" :problems="draft.problems" :settings="['switched_off', 'retired']" />
    </header>
    <NewDestination
      v-if="copying"
      :draft="draft"
      :copy-of="item"
      @added="((copying = false), emit('open', $event))"
      @cancel="copying = false"
    />
    <dl class="clauses">
      <template v-if="kind?.can_be_made">
        <dt>Called</dt>
        <CalledClause :draft="draft" :item="item" />
      </template>
      <template v-if="item.is_delivered || kind?.can_be_made">
        <dt>Gets</dt>
        <dd v-if="item.follows_another">every invoice that something was changed about since it was issued</dd>
        <GetsClause v-else :item="item" :draft="draft" />
      </template>
      <template v-if="item.is_delivered">
        <dt>When</dt>
        <dd v-if="item.follows_another">when the invoice that takes its place is issued</dd>
        <dd v-else-if="item.tells_events">as soon as it happens, each event in its turn</dd>
        <WhenClause v-else :item="item" :draft="draft" />
      </template>
      <template v-if="kind?.settings.length || kind?.can_be_made">
        <dt>As</dt>
        <KindClause :item="item" :draft="draft" />
      </template>
      <template v-if="item.is_delivered && item.can_leave_out_prices">
        <dt>Leaves out</dt>
        <PricesClause :item="item" :draft="draft" />
      </template>
      <template v-if="item.has_codes_of_its_own">
        <dt>Codes</dt>
        <ItemCodes :item="item" />
      </template>
      <dt>{{ item.names_answers ? 'Names' : 'Shows' }}</dt>
      <RoutedFields :item="item" :draft="draft" @open="emit('open', $event)" />
      <template v-if="item.longest_line_text !== null || item.longest_order_text !== null || item.characters !== null">
        <dt>Otherwise</dt>
        <OtherwiseClause :item="item" :draft="draft" />
      </template>
      <template v-if="kind?.settings.some((s) => s.for_trials)">
        <dt>Tried out</dt>
        <KindClause :item="item" :draft="draft" trials />
      </template>
    </dl>
  </section>
</template>

<style scoped>
.acts {
  display: flex;
  gap: 14px;
}
</style>
