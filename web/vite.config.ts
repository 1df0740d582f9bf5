import { fileURLToPath } from 'node:url'

import vue from '@vitejs/plugin-vue'
import vuetify from 'vite-plugin-vuetify'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  base: '/static/',
  resolve: { alias: { '@': fileURLToPath(new URL('src', import.meta.url)) } },
  plugins: [vue(), vuetify()],
  build: {
    chunkSizeWarningLimit: 700,
    rollupOptions: {
      input: ['index.html', 'src/theme/pages.css'],
      // The server's own pages name their style: it has the same name in every build.
      output: {
        assetFileNames: ({ names }) =>
          names[0] === 'pages.css' ? '[name][extname]' : 'assets/[name]-[hash][extname]',
      },
    },
  },
  test: {
    environment: 'happy-dom',
    isolate: false, // a page and its modules set up once for all files, not for each: half of the time
    include: ['src/**/*.test.ts'],
    setupFiles: ['src/testingTimers.ts'],
    server: { deps: { inline: ['vuetify'] } },
    testTimeout: 120_000, // no test depends on how fast a machine is
    hookTimeout: 120_000,
  },
})
