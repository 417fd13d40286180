import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: [react()],
  build: {
    target: 'es2022',
    chunkSizeWarningLimit: 20_000,
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
  },
  worker: {
    format: 'es',
    rollupOptions: {
      output: { entryFileNames: 'assets/[name]-[hash].js', chunkFileNames: 'assets/[name]-[hash].js' },
    },
  },
  test: { include: ['src/**/*.test.ts', 'demo/**/*.test.ts'], testTimeout: 120_000 },
});
