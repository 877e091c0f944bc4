<script setup lang="ts">
import { computed, defineAsyncComponent, nextTick, ref, useTemplateRef, watch } from 'vue';
import { faceOf } from '../parts/faces';
import type { Schemas } from '../../shared/api/client';

const {
  artefact,
  slotId,
  title = 'What was read back',
} = defineProps<{ artefact: Schemas['ArtefactPart'][]; slotId: string; title?: string }>();
const emit = defineEmits<{ pick: [slot: string] }>();
const SheetView = defineAsyncComponent(() => import('../parts/SheetView.vue'));
const part = ref('');

watch(
  () => artefact,
  (parts) => {
    if (!parts.some((p) => p.name === part.value)) part.value = parts[0]?.name ?? '';
  },
  { immediate: true },
);

const shown = computed(() => artefact.find((p) => p.name === part.value));

// The signs of a keypad count as pictographs too, and would stand wide apart.
const KEYPAD = /U\+23, ?U\+2A, ?U\+30-39, ?/i;

/** The font faces of this page that show pictographs. */
function emojiFaces(): string {
  return [...document.styleSheets]
    .flatMap((sheet) => [...sheet.cssRules])
    .filter((rule) => rule instanceof CSSFontFaceRule && rule.cssText.includes('Noto Emoji'))
    .map((rule) => rule.cssText.replace(KEYPAD, ''))
    .join('');
}

// The message as its reader sees it, with the slot marked. No script of it runs in the sandboxed frame; being of the same
// origin only lets this page scroll it to the slot.
const html = computed(() => {
  const page = new DOMParser().parseFromString(shown.value?.content ?? '', 'text/html');
  const slot = page.querySelector<HTMLElement>(`[data-slot="${CSS.escape(slotId)}"]`);
  // The frame does not know the variables of this page.
  const theme = getComputedStyle(document.documentElement);
  if (slot)
    slot.style.cssText += `;background:${theme.getPropertyValue('--artefact-mark')};outline:1.5px solid ${theme.getPropertyValue('--artefact-mark-edge')}`;
  slot?.setAttribute('id', 'slot');
  // Not every machine has a font for what shoppers type; ours is lent to the answers.
  const style = page.head.appendChild(page.createElement('style'));
  style.textContent = emojiFaces() + '[data-slot] { font-family: sans-serif, "Noto Emoji"; }';
  return page.documentElement.outerHTML;
});

const frame = useTemplateRef<HTMLIFrameElement>('frame');
const text = useTemplateRef<HTMLElement>('text');

function toSlot(): void {
  frame.value?.contentDocument?.getElementById('slot')?.scrollIntoView({ block: 'center' });
}

watch(
  [shown, () => slotId],
  async () => {
    await nextTick();
    const mark = text.value?.querySelector('mark');
    if (mark && text.value) text.value.scrollTop = mark.offsetTop - text.value.offsetTop - text.value.clientHeight / 2;
  },
  { immediate: true },
);

const lines = computed(() => {
  const marked = new Set(shown.value?.marked);
  return (shown.value?.content ?? '').split('\n').map((text, i) => ({ text, marked: marked.has(i) }));
});
</script>

<template>
  <div>
    <h2>
      {{ title }}
      <span class="parts">
        <button v-for="p in artefact" :key="p.name" class="act" :aria-pressed="p.name === part" @click="part = p.name">
          {{ faceOf(p) }}
        </button>
      </span>
    </h2>
    <p v-if="!shown" class="soft">Nothing was sent or served yet.</p>
    <iframe
      v-else-if="shown.form === 'html'"
      ref="frame"
      sandbox="allow-same-origin"
      title="The HTML part, with the slot marked"
      :srcdoc="html"
      @load="toSlot"
    ></iframe>
    <SheetView
      v-else-if="shown.form === 'sheets'"
      :content="shown.content"
      :spots="shown.spots"
      :others="shown.others ?? []"
      @pick="emit('pick', $event)"
    />
    <pre
      v-else
      ref="text"
      tabindex="0"
    ><template v-for="(line, i) in lines" :key="i"><mark v-if="line.marked">{{ line.text }}</mark><template v-else>{{ line.text }}</template>{{ '\n' }}</template></pre>
  </div>
</template>

<style scoped>
h2 {
  font-size: 15px;
  margin-bottom: 6px;
}
div {
  display: flex;
  flex-direction: column;
}
.parts {
  font: 12.5px var(--work);
  margin-left: 8px;
  display: inline-flex;
  gap: 10px;
}
[aria-pressed='true'] {
  text-decoration: none;
  font-weight: 650;
}
iframe,
pre {
  flex: 1;
  width: 100%;
  min-height: 150px;
  margin: 0;
  border: 1px solid var(--rule-strong);
  background: var(--artefact);
  color: var(--artefact-ink);
}
pre {
  padding: 8px 12px;
  overflow: auto;
  font:
    12px/1.5 var(--mono),
    var(--work);
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
mark {
  background: var(--artefact-mark);
  color: inherit;
}
</style>
