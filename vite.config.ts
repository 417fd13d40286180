import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import react from '@vitejs/plugin-react';
import { VitePWA } from 'vite-plugin-pwa';
import { defineConfig } from 'vitest/config';
import { compressAll } from './scripts/build.mjs';

/** What the core is, with the packages it rests on, in a word: what was worked out by another is not what this one would say. */
const core = createHash('sha256').update(readFileSync('package-lock.json'));
for (const name of readdirSync('src/core', { recursive: true }).map(String).sort())
  if (/\.tsx?$/.test(name) && !/\.test\./.test(name)) core.update(readFileSync(join('src/core', name)));

export default defineConfig({
  define: { 'import.meta.env.CORE': JSON.stringify(core.digest('hex').slice(0, 16)) },
  plugins: [
    react(),
    VitePWA({
      // A new version waits until it is asked for: nothing is loaded anew under somebody's wet hands.
      registerType: 'prompt',
      injectRegister: false,
      manifest: {
        name: 'Wet Test',
        short_name: 'Wet Test',
        description: 'Plans, runs, measures and explains test pieces of transferred images.',
        start_url: '/w/mine',
        scope: '/',
        display: 'standalone',
        theme_color: '#0b5a66',
        background_color: '#f2f3ee',
        icons: [{ src: '/mark.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' }],
      },
      workbox: {
        globPatterns: ['**/*.{js,css,html,woff,woff2,svg,png}'],
        maximumFileSizeToCacheInBytes: 20_000_000,
        navigateFallback: '/index.html',
        navigateFallbackAllowlist: [/^\/w\//],
        // The bare address leads to the workshop or to the demo, as the server was started.
        directoryIndex: null,
        cleanupOutdatedCaches: true,
        importScripts: ['/on-notice.js'],
        globIgnores: ['on-notice.js'],
        sourcemap: false,
      },
    }),
    {
      // The kit puts its whole look together where it only offers the parts: whoever takes some of them gets only those.
      name: 'only-what-is-used',
      transform: (code, id) =>
        /@chakra-ui\/react\/dist\/esm\/theme\/index\.js$/.test(id)
          ? code.replace('= defineConfig(', '= /*#__PURE__*/ defineConfig(')
          : undefined,
    },
    {
      name: 'compressed-once',
      apply: 'build',
      closeBundle: { order: 'post', sequential: true, handler: () => compressAll('dist') },
    },
  ],
  build: {
    target: 'es2022',
    chunkSizeWarningLimit: 20_000,
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
    // What loads what, for the test that weighs it.
    manifest: true,
  },
  worker: {
    format: 'es',
    rollupOptions: {
      output: { entryFileNames: 'assets/[name]-[hash].js', chunkFileNames: 'assets/[name]-[hash].js' },
    },
  },
  // Two cores do it in half the time that the usual one less than there are would take.
  // The limits are there to end what hangs, not to time anything: a slow machine must not fail.
  test: {
    maxWorkers: 2,
    // Files share what they load: a quarter of the time was loading the same modules once more.
    isolate: false,
    unstubGlobals: true,
    include: ['src/**/*.test.{ts,tsx}', 'demo/**/*.test.ts'],
    // Whichever file is first to load the storage library in a worker, it finds a database.
    setupFiles: ['fake-indexeddb/auto', './src/app/testing/tidy.ts'],
    testTimeout: 240_000,
    hookTimeout: 240_000,
  },
});
