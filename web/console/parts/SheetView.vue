<script setup lang="ts">
import type { PDFDocumentProxy } from 'pdfjs-dist';
import { onUnmounted, shallowRef, useTemplateRef, watch } from 'vue';
import type { Schemas } from '../../shared/api/client';

// The sheets of a paper as they are printed: the answer that is looked for is marked where it stands on them, and each of the others has its outline, to be picked.
const { content, spots, others } = defineProps<{
  content: string;
  spots: Schemas['PageSpot'][];
  others: Schemas['SlotOnSheet'][];
}>();
const emit = defineEmits<{ pick: [slot: string] }>();

interface Sheet {
  number: number;
  width: number;
  height: number;
}

const SCALE = 1.5;
/** No sheet is drawn larger than so many times its own size, or a card would fill the window. */
const LARGEST = 1.4;
const sheets = shallowRef<Sheet[]>([]);
const failure = shallowRef('');
const file = shallowRef('');
const list = useTemplateRef<HTMLElement>('list');
let open: PDFDocumentProxy | undefined;
let turn = 0;

async function show(base64: string): Promise<void> {
  const mine = ++turn;
  try {
    // Big, and only wanted where a paper is looked at.
    const [pdfjs, { default: worker }] = await Promise.all([import('pdfjs-dist'), import('pdfjs-dist/build/pdf.worker.min.mjs?url')]);
    pdfjs.GlobalWorkerOptions.workerSrc = worker;
    const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
    const blob = new Blob([bytes], { type: 'application/pdf' });
    const document = await pdfjs.getDocument({ data: bytes, isEvalSupported: false }).promise;
    if (mine !== turn) return void document.destroy();
    close();
    open = document;
    file.value = URL.createObjectURL(blob);
    const pages = await Promise.all(Array.from({ length: document.numPages }, (_, i) => document.getPage(i + 1)));
    sheets.value = pages.map((page, number) => {
      const { width, height } = page.getViewport({ scale: 1 });
      return { number, width, height };
    });
    failure.value = '';
    await Promise.all(
      pages.map(async (page, i) => {
        const canvas = await drawn(i);
        const viewport = page.getViewport({ scale: SCALE * window.devicePixelRatio });
        if (!canvas || mine !== turn) return;
        [canvas.width, canvas.height] = [viewport.width, viewport.height];
        await page.render({ canvasContext: canvas.getContext('2d')!, viewport }).promise;
      }),
    );
    toSpot();
  } catch (error) {
    if (mine === turn) failure.value = `The sheets cannot be shown: ${String(error)}`;
  }
}

// The canvas of a sheet, once it is there.
async function drawn(number: number): Promise<HTMLCanvasElement | null> {
  await new Promise(requestAnimationFrame);
  return list.value?.querySelectorAll('canvas')[number] ?? null;
}

function toSpot(): void {
  const mark = list.value?.querySelector<HTMLElement>('.spot');
  if (mark && list.value) list.value.scrollTop = mark.offsetTop + mark.parentElement!.offsetTop - list.value.clientHeight / 2;
}

function close(): void {
  void open?.destroy();
  if (file.value) URL.revokeObjectURL(file.value);
  [open, file.value] = [undefined, ''];
}

const place = (sheet: Sheet, spot: Schemas['PageSpot']) => ({
  left: `${(100 * (spot.x - 2)) / sheet.width}%`,
  top: `${(100 * (spot.y - 1)) / sheet.height}%`,
  width: `${(100 * (spot.width + 4)) / sheet.width}%`,
  height: `${(100 * (spot.height + 2)) / sheet.height}%`,
});

watch(() => content, show, { immediate: true });
watch(() => spots, toSpot, { flush: 'post' });
onUnmounted(() => (turn++, close()));
</script>

<template>
  <div class="sheets">
    <p v-if="failure" class="call" role="alert">{{ failure }}</p>
    <div ref="list" class="list" tabindex="0" role="group" aria-label="The sheets, with the answer marked">
      <div
        v-for="sheet in sheets"
        :key="sheet.number"
        class="sheet"
        :style="{ aspectRatio: `${sheet.width} / ${sheet.height}`, maxWidth: `${sheet.width * LARGEST}px` }"
      >
        <canvas role="img" :aria-label="`Sheet ${sheet.number + 1} of ${sheets.length}`"></canvas>
        <template v-for="other in others" :key="other.slot">
          <!-- By keys the same is done beside it: every answer that stands here has its own control there. -->
          <span
            v-for="(spot, i) in other.spots.filter((s) => s.page === sheet.number)"
            :key="i"
            class="other"
            :style="place(sheet, spot)"
            :title="other.name"
            @click="emit('pick', other.slot)"
          ></span>
        </template>
        <span v-for="(spot, i) in spots.filter((s) => s.page === sheet.number)" :key="i" class="spot" :style="place(sheet, spot)"></span>
      </div>
    </div>
    <p v-if="file" class="small">
      <a class="act" :href="file" target="_blank" rel="noopener">open the file</a>
      <span class="soft"> {{ sheets.length === 1 ? 'one sheet' : `${sheets.length} sheets` }}</span>
    </p>
  </div>
</template>

<style scoped>
.sheets {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
}
.list {
  position: relative;
  flex: 1;
  min-height: 150px;
  overflow: auto;
  border: 1px solid var(--rule-strong);
  background: var(--paper);
  padding: 6px;
  display: grid;
  gap: 8px;
  align-content: start;
}
.sheet {
  position: relative;
  width: min(100%, var(--sheet-width, 460px));
  margin: 0 auto;
  background: var(--artefact);
  border: 1px solid var(--rule);
}
canvas {
  width: 100%;
  height: 100%;
  display: block;
}
.other {
  position: absolute;
  cursor: pointer;
  outline: 1px dotted var(--artefact-mark-edge);
}
.spot {
  position: absolute;
  pointer-events: none;
  background: var(--artefact-mark);
  mix-blend-mode: multiply;
  outline: 1.5px solid var(--artefact-mark-edge);
}
p {
  margin: 4px 0 0;
  display: flex;
  gap: 0.6em;
}
</style>
