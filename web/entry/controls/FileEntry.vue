<script setup lang="ts">
import { computed, inject, nextTick, onMounted, ref, useTemplateRef, watch } from 'vue';
import type { Answer, Asked } from '../answers';
import { begin, filesKey, known, UNDER_WAY, uploads, type ShownFile } from '../files';
import { say, sayCount } from '../../shared/wording';

// The shopper decides here what to hand in: which files are there, how far one is, what is taken, and how one is taken out again.
const { asked, id, describedBy, invalid, part } = defineProps<{
  asked: Asked;
  id: string;
  describedBy?: string;
  invalid: boolean;
  part?: string | null;
}>();
const model = defineModel<Answer | undefined>();
const keeper = inject(filesKey, undefined);

const ids = computed(() => (Array.isArray(model.value) ? model.value : []));
const setting = <T,>(name: string) => asked.settings[name] as T;
const most = computed(() => setting<number>('most'));
const accept = computed(() => [...setting<string[]>('media_types'), ...setting<string[]>('endings')].join(','));
const isPicture = computed(() => asked.type === 'picture');
const room = computed(() => most.value - ids.value.length);
const hints = computed(() =>
  [
    setting<string>('kinds_in_words'),
    say(most.value > 1 ? 'form.up_to_mb_each' : 'form.up_to_mb', setting<number>('bytes') / 1e6),
    setting<number>('shorter_side') > 1 ? say('form.at_least_pixels', setting<number>('shorter_side')) : '',
  ]
    .filter(Boolean)
    .join('; '),
);
const hasCamera = matchMedia('(pointer: coarse)').matches;
const over = ref(false);
const said = ref('');
const chooser = useTemplateRef<HTMLInputElement>('chooser');

const gone: ShownFile = { name: say('form.file_gone'), size: '', small: '' };
const rows = computed(() =>
  ids.value.map((file) => {
    const upload = uploads.get(file);
    const share = upload ? Math.floor((100 * upload.sent) / Math.max(1, upload.file.size)) : 100;
    return {
      id: file,
      upload,
      share,
      shown: upload ? { name: upload.file.name, size: '', small: '' } : (known.get(file) ?? { name: file, size: '', small: '' }),
      wrong: invalid && part === file,
    };
  }),
);

// Each one that is there and not known is looked up once; one that was under way when the page went away is gone.
async function look(): Promise<void> {
  const kept = ids.value.filter((file) => !file.startsWith(UNDER_WAY) || uploads.has(file));
  if (kept.length < ids.value.length) model.value = kept;
  for (const file of kept) if (keeper && !known.has(file) && !uploads.has(file)) known.set(file, (await keeper.find(file)) ?? gone);
}
onMounted(look);

// One that is done stands for itself from then on. It is taken out of what is under way at once, so that no other turn of this finds it half done.
watch(
  () => ids.value.filter((file) => uploads.get(file)?.done),
  (done) => {
    for (const file of done) {
      const { done: there, file: chosen } = uploads.get(file)!;
      uploads.delete(file);
      known.set(there, { name: chosen.name, size: '', small: '' });
      model.value = ids.value.map((each) => (each === file ? there : each));
      said.value = say('form.file_there', chosen.name);
      void keeper!.find(there).then((found) => known.set(there, found ?? gone));
    }
  },
  { immediate: true },
);

function take(files: Iterable<File>): void {
  const chosen = [...files].slice(0, Math.max(0, room.value));
  said.value = [...files].length > chosen.length ? sayCount('form.only_taken', most.value) : '';
  if (keeper && chosen.length) model.value = [...ids.value, ...chosen.map((file) => begin(keeper, file, asked.field))];
}

function onChosen(event: Event): void {
  const input = event.target as HTMLInputElement;
  take(input.files ?? []);
  // So that the same file can be chosen again.
  input.value = '';
}

function onDrop(event: DragEvent): void {
  over.value = false;
  take(event.dataTransfer?.files ?? []);
}

async function remove(file: string): Promise<void> {
  said.value = say('form.file_out', rows.value.find((row) => row.id === file)?.shown.name);
  uploads.get(file)?.stop.abort();
  uploads.delete(file);
  model.value = ids.value.filter((each) => each !== file);
  if (keeper && !file.startsWith(UNDER_WAY)) void keeper.drop(file).catch(() => undefined);
  await nextTick();
  chooser.value?.focus();
}

const again = (file: string) => keeper && begin(keeper, uploads.get(file)!.file, asked.field, file);
// Nobody uploads anything in a preview: a sample stands in.
const sample = () => (model.value = [...ids.value, setting<string>('sample').replace('1', String(ids.value.length + 1))]);
</script>

<template>
  <div
    :id="id"
    class="entry-files"
    :class="{ over }"
    role="group"
    :aria-labelledby="`${id}-label`"
    :aria-describedby="describedBy"
    @dragover.prevent="over = room > 0"
    @dragleave="over = false"
    @drop.prevent="onDrop"
  >
    <ul v-if="rows.length">
      <li v-for="row in rows" :key="row.id" :class="{ wrong: row.wrong || row.upload?.refused }">
        <img v-if="row.shown.small" :src="row.shown.small" alt="" width="56" height="56" />
        <div class="entry-file">
          <span class="entry-file-name">{{ row.shown.name }}</span>
          <span v-if="row.shown.size" class="entry-file-size">{{ row.shown.size }}</span>
          <template v-if="row.upload && !row.upload.refused">
            <progress :value="row.share" max="100" :aria-label="say('form.on_its_way', row.shown.name)"></progress>
            <span class="entry-file-size">{{
              row.upload.waiting ? say('form.connection_lost') : row.share < 100 ? `${row.share} %` : say('form.looked_at')
            }}</span>
          </template>
          <span v-if="row.upload?.refused" class="entry-problem" role="alert">{{ row.upload.refused }}</span>
        </div>
        <button v-if="row.upload?.refused" type="button" class="entry-clear" @click="again(row.id)">
          {{ say('form.try_again') }}<span class="visually-hidden"> {{ row.shown.name }}</span>
        </button>
        <button type="button" class="entry-clear" @click="remove(row.id)">
          {{ row.upload && !row.upload.refused ? say('form.cancel') : say('form.take_file_out')
          }}<span class="visually-hidden"> {{ row.shown.name }}</span>
        </button>
      </li>
    </ul>
    <p v-show="room > 0" class="entry-choose">
      <template v-if="keeper">
        <label class="entry-button">
          <input
            ref="chooser"
            class="visually-hidden"
            type="file"
            :accept="accept"
            :multiple="most > 1"
            :aria-invalid="(invalid && !part) || undefined"
            :aria-describedby="`${id}-hints`"
            :aria-label="`${asked.label}: ${say(isPicture ? 'form.choose_picture' : 'form.choose_file')}`"
            @change="onChosen"
          />
          {{ say(isPicture ? 'form.choose_picture' : 'form.choose_file') }}
        </label>
        <label v-if="isPicture && hasCamera" class="entry-button">
          <input
            class="visually-hidden"
            type="file"
            accept="image/*"
            capture="environment"
            :aria-label="`${asked.label}: ${say('form.photograph')}`"
            @change="onChosen"
          />
          {{ say('form.photograph') }}
        </label>
        <span v-else class="entry-or">{{ say('form.or_drop') }}</span>
      </template>
      <button v-else type="button" class="entry-button" @click="sample">{{ say('form.sample') }}</button>
    </p>
    <p :id="`${id}-hints`" class="entry-count entry-hints">{{ hints }}</p>
    <p class="visually-hidden" role="status">{{ said }}</p>
  </div>
</template>
