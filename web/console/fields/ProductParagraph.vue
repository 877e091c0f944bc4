<script setup lang="ts">
import Select from 'primevue/select';
import { computed } from 'vue';
import type { Schemas } from '../../shared/api/client';
import MarkSign from '../parts/MarkSign.vue';
import PickSeveral from '../parts/PickSeveral.vue';
import type { Draft, DraftField } from './draft';
import { useDraft } from './draft';
import { nameOf, stepOf } from './groups';
import PictureInput from './PictureInput.vue';
import { TOO_MANY, withProduct } from './scope';

/** A product as a paragraph. The manager decides here what it asks, and sees that in the order in which the shopper does. */
const { code, draft } = defineProps<{ code: string; draft: Draft }>();
const emit = defineEmits<{ open: [key: string]; add: [scope: Schemas['ProductScope']] }>();
const { change, changeProduct, refused, refuse } = useDraft();

const product = computed(() => draft.products.find((p) => p.code === code)!);
const isAsked = (f: DraftField) => !f.field.retired && !f.field.switched_off && f.field.level !== 'order' && f.asks.includes(code);
const asked = computed(() => draft.fields.filter(isAsked));
const steps = computed(() =>
  draft.steps.map((s) => ({ ...s, fields: asked.value.filter((f) => stepOf(draft, f) === s.key) })).filter((s) => s.fields.length),
);

// What a section says of all its fields is not said of one of them.
const free = computed(() => draft.fields.filter((f) => !f.field.retired && f.field.level !== 'order' && !f.field.section));
const put = computed(() => free.value.filter((f) => f.asks.includes(code)).map((f) => f.field.key));
const choices = computed(() => free.value.map((f) => ({ key: f.field.key, name: nameOf(f) })));
const others = computed(() => draft.products.filter((p) => p.code !== code && free.value.some((f) => f.asks.includes(p.code))));

async function setAsked(keys: string[]): Promise<void> {
  for (const field of free.value) {
    const on = keys.includes(field.field.key);
    if (on !== field.asks.includes(code)) {
      const put = withProduct(field, code, on, draft);
      if (put) await change(field.field.key, 'asked_of', put);
      else refuse(field.field.key, 'asked_of', TOO_MANY);
    }
  }
}

const takeOff = (key: string) => setAsked(put.value.filter((k) => k !== key));
const asAnother = (other: string) =>
  setAsked([...new Set([...put.value, ...free.value.filter((f) => f.asks.includes(other)).map((f) => f.field.key)])]);
</script>

<template>
  <section :aria-label="`The product ${code}`">
    <header class="paragraph-head">
      <h2>
        {{ product.name }} <span class="mono soft">{{ code }}</span>
      </h2>
      <p class="small soft">
        {{ product.categories.join(', ') }}<template v-if="product.tags.length"> · {{ product.tags.join(', ') }}</template> ·
        {{ product.price }} · <a class="act" :href="`/products/${encodeURIComponent(code)}`" target="_blank">see it in the shop</a> ·
        <button class="act" @click="emit('add', { all: false, products: [code] })">add a new field to it</button>
      </p>
    </header>
    <dl class="clauses">
      <dt>Asks</dt>
      <dd>
        <template v-if="!steps.length">nothing of its own</template>
        <div v-for="step in steps" :key="step.key">
          <span class="small soft">{{ step.name }}</span>
          <ol class="ruled">
            <li v-for="f in step.fields" :key="f.field.key">
              <span>
                <MarkSign :sign="f.field.required ? (f.conditional ? 'must_if' : 'must') : f.conditional ? 'asked_if' : 'asked'" />
                {{ ' ' }}
                <button class="act" @click="emit('open', f.field.key)">{{ nameOf(f) }}</button>
                <span v-if="f.field.level === 'unit'" class="small soft">{{ ' ' }}of each one</span>
              </span>
              <button
                v-if="!f.field.section"
                class="act out"
                :aria-label="`Take off: ${nameOf(f)}`"
                title="take it off"
                @click="takeOff(f.field.key)"
              >
                ×
              </button>
            </li>
          </ol>
        </div>
        <p v-if="refused" class="call" role="alert">{{ refused.sentence }}</p>
      </dd>
      <dt>Put on it</dt>
      <dd>
        <PickSeveral
          :value="put"
          :options="choices"
          option-value="key"
          filter
          placeholder="no field"
          aria-label="The fields that it asks"
          @save="setAsked"
        />
        <template v-if="others.length"
          >, and all that
          <Select
            class="words"
            :model-value="null"
            :options="others"
            option-label="name"
            option-value="code"
            :filter="others.length > 8"
            placeholder="another product"
            aria-label="Ask what another product asks"
            @update:model-value="asAnother"
          />
          asks</template
        >
      </dd>
      <dt>Picture</dt>
      <dd>
        <PictureInput
          :name="product.picture"
          :words="product.picture_words"
          label="Picture of the product"
          @save="changeProduct(code, { picture: $event })"
          @say="changeProduct(code, { picture_words: $event })"
        />
      </dd>
    </dl>
  </section>
</template>
