// What a page loads, gzipped: the shopper's form by itself with all that it needs, and the first view of the console.
import vue from '@vitejs/plugin-vue';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { gzipSync } from 'node:zlib';
import { build } from 'vite';

const web = dirname(fileURLToPath(import.meta.url));
const tell = (what, chunks, goal) => {
  const size = chunks.reduce((sum, chunk) => sum + gzipSync(chunk.code).length, 0) / 1024;
  console.log(`  ${what}: ${size.toFixed(1)} kB gzipped; goal: at most ${goal}`);
};
const chunksOf = (result) => [result].flat().flatMap((bundle) => bundle.output.filter((file) => file.type === 'chunk'));

// As another shop's page would load it: mounted by Vue, which comes with it.
const page = 'virtual:page';
const form = await build({
  root: web,
  configFile: false,
  logLevel: 'error',
  plugins: [
    vue(),
    {
      name: 'page',
      resolveId: (id) => (id === page ? id : undefined),
      load: (id) =>
        id === page
          ? `export { createApp } from 'vue'; export { default as LineForm } from '${web}/entry/LineForm.vue'; export { default as UnitsToDrop } from '${web}/entry/UnitsToDrop.vue';`
          : undefined,
    },
  ],
  define: { 'process.env.NODE_ENV': '"production"' },
  build: { write: false, rollupOptions: { input: page, preserveEntrySignatures: 'strict' } },
});

// What the console's page names, what that imports, and the view itself, which is imported when it is needed.
const whole = chunksOf(await build({ root: web, configFile: join(web, 'vite.config.ts'), logLevel: 'error', build: { write: false } }));
const first = new Set();
const take = (chunk) => {
  if (!chunk || first.has(chunk)) return;
  first.add(chunk);
  chunk.imports.forEach((name) => take(whole.find((c) => c.fileName === name)));
};
take(whole.find((c) => c.facadeModuleId?.endsWith('console/index.html')));
take(whole.find((c) => c.facadeModuleId?.endsWith('FieldsPage.vue')));

console.log('\nWhat a page loads');
// What it imports only where it is shown, such as the table of many seats, is not loaded with it.
const loaded = new Set();
const load = (chunk) => {
  if (!chunk || loaded.has(chunk)) return;
  loaded.add(chunk);
  chunk.imports.forEach((name) => load(chunksOf(form).find((c) => c.fileName === name)));
};
load(chunksOf(form).find((c) => c.isEntry));
tell('the shopper’s form, with Vue', [...loaded], 40);
tell('the console’s first view', [...first], 200);
