<script setup lang="ts">
import { computed, nextTick, useTemplateRef } from 'vue';
import type { Schemas } from '../../shared/api/client';
import BringIn from '../parts/BringIn.vue';
import BroughtIn from '../parts/BroughtIn.vue';
import { useBrought } from './brought';

// The manager decides here whether a file of products is taken, and needs to see how far it is read, what is wrong with it by row and column, and what
// it would change.
const emit = defineEmits<{ taken: [said: string] }>();

const FEW = 200;
const chooser = useTemplateRef('chooser');

/** What a file does, in words. */
function words({ new: fresh, changed, same }: Schemas['ProductImportOutcome']): string {
  const some = (count: number, what: string) => (count ? [`${count.toLocaleString()} ${count === 1 ? 'is' : 'are'} ${what}`] : []);
  const parts = [...some(fresh, 'new'), ...some(changed, 'changed')];
  return `${parts.join(', ')}${same ? `, ${same.toLocaleString()} ${same === 1 ? 'stays' : 'stay'} as ${same === 1 ? 'it is' : 'they are'}` : ''}.`;
}

const { brought, busy, failure, isUnderWay, bring, take, leave } = useBrought((outcome) => {
  chooser.value?.focus();
  emit('taken', `Products were put in: ${words(outcome)}`);
});
const outcome = computed(() => brought.value?.outcome);
const isReady = computed(() => !isUnderWay(brought.value) && !!outcome.value?.difference_count && !outcome.value.fault_count);

async function go(): Promise<void> {
  await leave();
  await nextTick();
  chooser.value?.focus();
}
</script>

<template>
  <p class="small ways">
    <BringIn ref="chooser" words="bring a file in" accept=".csv,.json,text/csv,application/json" :busy="busy" @file="bring">
      <span class="soft">All products:</span>
      <a class="act" href="/api/console/v1/products/csv" download="products.csv">take them out as CSV</a>
      <a class="act" href="/api/console/v1/products/json" download="products.json">as JSON</a>
    </BringIn>
  </p>
  <p v-if="failure && !brought" class="call" role="alert">{{ failure }}</p>
  <BroughtIn
    v-if="brought"
    :name="brought.name"
    :place="brought.is_json ? 'Product' : 'Row'"
    :faults="isUnderWay(brought) ? [] : (outcome?.faults ?? [])"
    :count="isUnderWay(brought) ? 0 : (outcome?.fault_count ?? 0)"
  >
    <template #before
      ><p v-if="failure || brought.failed" class="call" role="alert">{{ failure || brought.failed }}</p></template
    >
    <p v-if="isUnderWay(brought)">
      <label
        >{{ brought.state === 'reading' ? 'It is read' : 'It is put in' }}:
        <progress :value="brought.count ? brought.done : undefined" :max="brought.count || undefined"></progress>
        <template v-if="brought.count"
          >{{ ' ' }}{{ Math.min(brought.done, brought.count).toLocaleString() }} of {{ brought.count.toLocaleString() }}</template
        ></label
      >
      <span class="soft"> You can leave this page meanwhile.</span>
    </p>
    <template v-else-if="outcome">
      <p v-if="!outcome.difference_count" role="status">
        {{ outcome.same ? 'It says what the shop has. There is nothing to put in.' : 'There is no product in it.' }}
      </p>
      <template v-else>
        <p role="status">Of these products {{ words(outcome) }}</p>
        <table>
          <thead>
            <tr>
              <th scope="col">Product</th>
              <th scope="col">What</th>
              <th scope="col">Was</th>
              <th scope="col">Becomes</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(d, i) in outcome.differences.slice(0, FEW)" :key="i">
              <td class="mono">
                {{ d.code }}<template v-if="d.variant"> · {{ d.variant }}</template>
              </td>
              <td>{{ d.column || 'new' }}</td>
              <td>{{ d.before || '–' }}</td>
              <td>{{ d.after || '–' }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="outcome.difference_count > FEW" class="soft">and {{ (outcome.difference_count - FEW).toLocaleString() }} more</p>
      </template>
    </template>
    <template #ways>
      <button v-if="isReady" type="button" class="act" :disabled="busy" @click="take">
        Put {{ outcome!.new + outcome!.changed === 1 ? 'it' : `all ${(outcome!.new + outcome!.changed).toLocaleString()}` }} into the shop
      </button>
      <button type="button" class="act quiet" @click="go">Leave it</button>
    </template>
  </BroughtIn>
</template>

<style scoped>
.ways {
  margin: 0 0 6px;
  position: sticky;
  left: 0;
  width: max-content;
}
progress {
  accent-color: var(--brass);
  vertical-align: middle;
}
</style>
