<script setup lang="ts">
import Select from 'primevue/select';
import { computed, ref } from 'vue';
import type { Schemas } from '../../shared/api/client';
import { choicesOf } from './choices';
import ClauseNotes from './ClauseNotes.vue';
import CodeRuleWords from './CodeRuleWords.vue';
import type { Draft, DraftField } from './draft';
import { useDraft } from './draft';
import { nameOf } from './groups';
import { leavings, leavingsOfOne } from './leaving';
import PartsOrder from './PartsOrder.vue';
import WordInput from './WordInput.vue';

/** What answers contribute to the item code of their line. The manager decides here by which code the back office knows it. */
const { field, draft } = defineProps<{ field: DraftField; draft: Draft }>();
const { change, refused, lookFor } = useDraft();

const RULES = 'item-codes';
const code = computed(() => field.field.code);
const rules = computed(() => draft.codes.rules);
const ofShop = ref(false);
const set = (next: Schemas['FieldCode'] | null) => void change(field.field.key, 'code', next);
const setRule = (path: string, rule: Schemas['CodeRule'] | null) => void change(RULES, path, rule);

const asked = computed(() => draft.products.filter((p) => field.asks.includes(p.code)));
const ruled = computed(() => asked.value.filter((p) => rules.value.products?.[p.code]));
const unruled = computed(() => asked.value.filter((p) => !rules.value.products?.[p.code]));
const partsOf = (product?: string) => [
  { key: 'goods', name: 'the code of the product' },
  ...draft.fields
    .filter((f) => f.field.code && !f.field.retired && (!product || f.asks.includes(product)))
    .map((f) => ({ key: f.field.key, name: `“${nameOf(f)}”` })),
];
const systems = computed(() => draft.destinations.filter((d) => d.takes_item_codes));
</script>

<template>
  <dt>Code</dt>
  <dd>
    <template v-if="!code">not part of the item code</template>
    <template v-else>
      puts
      <template v-if="field.pricing?.codes && !code.part">{{
        choicesOf(field).length ? 'the codes of its choices' : 'what is answered'
      }}</template><template v-else
        >“<WordInput
          :value="code.part ?? ''"
          label="What an answer contributes to the code"
          placeholder="nothing"
          @save="set({ ...code!, part: $event })"
        />”</template
      >
      into the item code,
      <CodeRuleWords :model-value="code.rule ?? {}" label="this part" @update:model-value="set({ ...code!, rule: $event })" />
    </template>
    <div class="small offers">
      <button v-if="!code" class="act" @click="set({})">make it part of the item code</button>
      <template v-else>
        <button v-if="field.pricing?.codes && !code.part" class="act" @click="set({ ...code, part: 'X' })">a part of one’s own</button>
        <button v-if="field.pricing?.codes && code.part" class="act" @click="set({ ...code, part: '' })">what is answered</button>
        <button class="act" @click="set(null)">take it out of the code</button>
        <button class="act" :aria-expanded="ofShop" @click="ofShop = !ofShop">{{ ofShop ? 'less' : 'the rules of the shop' }}</button>
      </template>
    </div>
    <div v-if="ofShop && code" class="rules">
      <p>
        everywhere: parts
        <CodeRuleWords whole :model-value="rules.shop ?? {}" label="the shop" @update:model-value="setRule('shop', $event)" />, in the order
      </p>
      <PartsOrder
        :order="rules.shop?.order ?? []"
        :parts="partsOf()"
        label="the shop"
        @save="setRule('shop', { ...rules.shop, order: $event })"
      />
      <div v-for="product in ruled" :key="product.code">
        of {{ product.name }}: parts
        <CodeRuleWords
          whole
          :model-value="rules.products![product.code]!"
          :label="product.name"
          @update:model-value="setRule(`products.${product.code}`, $event)"
        />, in the order
        <PartsOrder
          :order="rules.products![product.code]!.order?.length ? rules.products![product.code]!.order! : (rules.shop?.order ?? [])"
          :parts="partsOf(product.code)"
          :label="product.name"
          @save="setRule(`products.${product.code}`, { ...rules.products![product.code], order: $event })"
        />
        <button class="act" @click="setRule(`products.${product.code}`, null)">take away</button>
      </div>
      <p v-if="unruled.length">
        <Select
          class="words"
          :model-value="null"
          :options="unruled"
          option-label="name"
          option-value="code"
          placeholder="a rule for one product"
          :filter="unruled.length > 12"
          @filter="lookFor($event.value)"
          aria-label="A rule of item codes for a product"
          @update:model-value="setRule(`products.${$event}`, {})"
        />
      </p>
      <p v-if="systems.length">
        a line leaves
        <Select
          class="words"
          :model-value="rules.leaving ?? 'together'"
          :options="leavings"
          option-label="name"
          option-value="key"
          aria-label="How a line leaves"
          @update:model-value="change(RULES, 'leaves', $event)"
        />
      </p>
      <p v-for="system in systems" :key="system.key">
        for {{ system.phrase }}
        <Select
          class="words"
          :model-value="rules.leaves?.[system.key] ?? null"
          :options="leavingsOfOne"
          :placeholder="leavingsOfOne[0]!.name"
          option-label="name"
          option-value="key"
          :aria-label="`How a line leaves for ${system.phrase}`"
          @update:model-value="change(RULES, `leaves.${system.key}`, $event)"
        />
      </p>
      <p v-if="refused?.field === RULES" class="call" role="alert">{{ refused.sentence }}</p>
    </div>
    <ClauseNotes :of="field.field.key" :problems="draft.problems" :settings="['code']" />
  </dd>
</template>

<style scoped>
.rules {
  border-left: 2px solid var(--rule-strong);
  padding-left: 9px;
}
.rules p {
  margin: 0;
}
</style>
