<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import Select from 'primevue/select';
import { computed } from 'vue';
import { api, ask, sentenceOf, type Schemas } from '../../shared/api/client';
import { useWork } from '../../shared/work';
import CommitInput from '../parts/CommitInput.vue';
import InvoiceNumbers from './InvoiceNumbers.vue';
import LetterheadPicture from './LetterheadPicture.vue';

/** In whose name e-mail is sent, papers are printed and invoices are issued, how long things are kept, and when somebody is told. */
type Values = Schemas['ShopSettingValues'];
const client = useQueryClient();
const query = useQuery({ queryKey: ['shop', 'settings'], queryFn: () => ask(api.GET('/api/console/v1/shop/settings')) });
const shipped = useQuery({ queryKey: ['shop', 'languages'], queryFn: () => ask(api.GET('/api/console/v1/shop/languages')) });
const languages = computed(() => shipped.data.value ?? []);
const { failure, run } = useWork();

// One after the other: what is typed while another change is on its way is not lost.
let saving = Promise.resolve();
function set(name: keyof Values, typed: string | boolean): Promise<void> {
  return change(name, (before) => (typeof typed === 'boolean' ? typed : typeof before === 'number' ? Number(typed) || 0 : typed.trim()));
}

// What it becomes is worked out once all before it is done.
function change<Name extends keyof Values>(name: Name, become: (before: Values[Name]) => Values[keyof Values]): Promise<void> {
  return (saving = saving.then(async () => {
    await run(() => ask(api.PATCH('/api/console/v1/shop/settings', { body: { [name]: become(query.data.value![name]) } })));
    await client.invalidateQueries({ queryKey: ['shop'] });
  }));
}

// What was refused stands as it was.
async function setReverseCharge(box: HTMLInputElement): Promise<void> {
  await set('reverse_charge', box.checked);
  box.checked = query.data.value!.reverse_charge;
}

// The first is for whoever prefers none of them; what was refused stands as it was.
async function setLanguage(tag: string, box: HTMLInputElement): Promise<void> {
  const wanted = box.checked;
  await change('languages', (before) => [...before.filter((l) => l !== tag), ...(wanted ? [tag] : [])]);
  box.checked = query.data.value!.languages.includes(tag);
}

const sums: { key: Values['product_sum']; name: string }[] = [
  { key: 'rows', name: 'all of it, row by row' },
  { key: 'added', name: 'what the answers add' },
  { key: 'total', name: 'the total alone' },
  { key: 'nothing', name: 'nothing' },
];

const days: { name: keyof Values; before: string; after: string }[] = [
  { name: 'cart_days', before: 'A cart that nobody touches is cleared away after', after: 'days.' },
  { name: 'personal_days', before: 'What an order says of persons goes, with its files and papers, after', after: 'days.' },
  { name: 'artefact_days', before: 'The bytes of messages and of what systems got, kept as evidence, go after', after: 'days.' },
  { name: 'book_days', before: 'What is left of an order for the books goes after', after: 'days.' },
  { name: 'tell_after_minutes', before: 'Whoever answers for a destination is told of what is stuck after', after: 'minutes.' },
];
</script>

<template>
  <section class="shop-part" aria-label="Sender and keep times">
    <h2>Sender and keep times</h2>
    <p v-if="query.error.value ?? shipped.error.value" class="call" role="alert">
      {{ sentenceOf(query.error.value ?? shipped.error.value) }}
    </p>
    <template v-if="query.data.value">
      <p class="sentence">
        E-mail is sent as
        <CommitInput :value="query.data.value.sender_name" label="The sender’s name" @save="set('sender_name', $event)" />
        from
        <CommitInput :value="query.data.value.sender_address" label="The sender’s address" @save="set('sender_address', $event)" />.
      </p>
      <p class="sentence letterhead">
        <label for="letterhead">Under the name of the shop, its papers say</label>
        <textarea
          id="letterhead"
          rows="3"
          :value="query.data.value.letterhead_lines"
          @change="set('letterhead_lines', ($event.target as HTMLTextAreaElement).value)"
        ></textarea>
      </p>
      <LetterheadPicture />
      <p class="sentence">
        Its invoices say that it is at
        <CommitInput :value="query.data.value.street" label="Street and number of the shop" @save="set('street', $event)" />,
        <CommitInput :value="query.data.value.postcode" label="Postcode of the shop" @save="set('postcode', $event)" />
        <CommitInput :value="query.data.value.town" label="Town of the shop" @save="set('town', $event)" />, and pays tax under the number
        <CommitInput :value="query.data.value.tax_number" label="Tax number of the shop" @save="set('tax_number', $event)" />.
      </p>
      <p class="sentence">
        <label>
          <input type="checkbox" :checked="query.data.value.reverse_charge" @change="setReverseCharge($event.target as HTMLInputElement)" />
          An organisation abroad, whose tax number the registry knows and whose invoice goes there, owes the tax itself: it is charged what
          stands without tax.
        </label>
      </p>
      <InvoiceNumbers />
      <p class="sentence">
        It speaks
        <label v-for="language in languages" :key="language.tag" class="language" :lang="language.tag">
          <input
            type="checkbox"
            :checked="query.data.value.languages.includes(language.tag)"
            @change="setLanguage(language.tag, $event.target as HTMLInputElement)"
          />
          {{ language.name }}
        </label>
        and {{ languages.find((l) => l.tag === query.data.value!.languages[0])?.name }} to whoever prefers none of these.
        <RouterLink to="/wording">See what it says</RouterLink>
      </p>
      <p class="sentence">
        The page of a product shows of what it comes to
        <Select
          class="words"
          :model-value="query.data.value.product_sum"
          :options="sums"
          option-label="name"
          option-value="key"
          aria-label="What the page of a product shows of what it comes to"
          @update:model-value="set('product_sum', $event)"
        />
      </p>
      <p v-for="d in days" :key="d.name" class="sentence">
        {{ d.before }}
        <CommitInput :value="String(query.data.value[d.name])" :label="`${d.before} … ${d.after}`" numeric @save="set(d.name, $event)" />
        {{ d.after }}
      </p>
    </template>
    <p v-if="failure" class="call" role="alert">{{ failure }}</p>
  </section>
</template>

<style scoped>
.sentence {
  margin: 4px 0;
}
.language {
  margin-right: 10px;
}
.letterhead {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
}
textarea {
  width: 320px;
  max-width: 100%;
  font: inherit;
  color: inherit;
  background: var(--sheet);
  border: 1px solid var(--rule-strong);
  padding: 4px 8px;
}
</style>
