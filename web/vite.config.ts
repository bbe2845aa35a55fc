import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), tailwindcss()],
  resolve: { conditions: ['source', 'module', 'browser', 'development|production'] },
  worker: { format: 'es' },
  build: {
    target: 'es2023',
    assetsInlineLimit: 0,
    sourcemap: false,
    // What `npm run size` reads.
    manifest: true,
    rolldownOptions: { output: { codeSplitting: { groups: [{ name: 'drawing-of-charts', test: /node_modules\/zrender/ }] } } },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:4310' } },
});
