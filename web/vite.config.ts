import { fileURLToPath } from 'node:url';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const core = (path: string) => fileURLToPath(new URL(`../core/src/${path}`, import.meta.url));
const server = `http://127.0.0.1:${process.env.ZAWN_API_PORT ?? 4621}`;

export default defineConfig({
  plugins: [react()],
  resolve: {
    alias: [
      { find: /^@zawn\/core$/, replacement: core('index.ts') },
      { find: /^@zawn\/core\/phone$/, replacement: core('phone.ts') },
      { find: /^@zawn\/core\/imports$/, replacement: core('imports.ts') },
    ],
  },
  worker: { format: 'es' },
  server: { proxy: { '/api': server } },
  // What a page needs is fetched from nearby: naming it ahead would weigh more than it wins.
  build: { target: 'es2022', chunkSizeWarningLimit: 1500, modulePreload: false },
});
