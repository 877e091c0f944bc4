import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vite';

const server = `http://127.0.0.1:${process.env.SEXTON_PORT ?? 5080}`;

export default defineConfig({
  plugins: [vue()],
  appType: 'mpa',
  build: {
    rollupOptions: { input: { shop: 'shop/index.html', console: 'console/index.html' } },
    chunkSizeWarningLimit: 400,
  },
  server: {
    proxy: { '/api': server },
    // The pages' addresses are the server's: /console/… is the console, everything else the shop.
    port: 5173,
    strictPort: true,
  },
});
