import { readFileSync } from 'node:fs';
import vue from '@vitejs/plugin-vue';
import { defineConfig, type Plugin } from 'vite';

const inEnglish = (): string => {
  const sentences = JSON.parse(readFileSync('../src/Sexton.Core/Sentences/sentences.json', 'utf8')) as Record<string, { en: string }>;
  const said = Object.fromEntries(Object.entries(sentences).map(([key, { en }]) => [key, en]));
  return JSON.stringify({ shop: '', language: 'en', languages: [], sentences: said }).replaceAll('<', '\\u003c');
};

const server = `http://127.0.0.1:${process.env.SEXTON_PORT ?? 5080}`;

// Pages have the addresses that the server gives them: /console/… is the console, every other page the shop.
const pageAddresses: Plugin = {
  name: 'page-addresses',
  // The server puts what the pages say into those that it serves; while developing this does, in English.
  transformIndexHtml: (html, { server: developing }) => (developing ? html.replace('id="wording">', `$&${inEnglish()}`) : html),
  configureServer({ middlewares }) {
    middlewares.use((request, _response, next) => {
      const path = request.url ?? '/';
      if (request.headers.accept?.includes('text/html') && !path.startsWith('/api')) {
        request.url = path.startsWith('/console') ? '/console/index.html' : '/shop/index.html';
      }
      next();
    });
  },
};

export default defineConfig({
  plugins: [vue(), pageAddresses],
  appType: 'mpa',
  build: {
    rollupOptions: { input: { shop: 'shop/index.html', console: 'console/index.html' } },
    chunkSizeWarningLimit: 400,
  },
  server: {
    proxy: { '/api': server },
    port: 5173,
    strictPort: true,
  },
});
