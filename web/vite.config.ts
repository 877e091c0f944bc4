import vue from '@vitejs/plugin-vue';
import { defineConfig, type Plugin } from 'vite';

const server = `http://127.0.0.1:${process.env.SEXTON_PORT ?? 5080}`;

// Pages have the addresses that the server gives them: /console/… is the console, every other page the shop.
const pageAddresses: Plugin = {
  name: 'page-addresses',
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
