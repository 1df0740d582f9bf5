import { fileURLToPath } from 'node:url'

import vue from '@vitejs/plugin-vue'
import { VitePWA, type VitePWAOptions } from 'vite-plugin-pwa'
import vuetify from 'vite-plugin-vuetify'
import { defineConfig } from 'vitest/config'

/** What the server, or a proxy before it, says while it is away: the page opens from the browser's own copy then. */
const asNoAnswer = {
  fetchDidSucceed: async ({ response }: { response: Response }) => {
    if ([502, 503, 504].includes(response.status)) throw new Error('the server is away')
    return response
  },
}
/** The page itself opens without the server: its shell, scripts, styles and fonts. What is the musician's is kept elsewhere. */
const worker: Partial<VitePWAOptions> = {
  manifest: false,
  injectRegister: null,
  registerType: 'autoUpdate',
  workbox: {
    inlineWorkboxRuntime: true,
    globPatterns: ['**/*.{js,css,html,woff2,svg}'],
    maximumFileSizeToCacheInBytes: 8_000_000,
    // It is served at the root, so that it may answer for every screen.
    manifestTransforms: [
      (entries) => ({ manifest: entries.map((one) => ({ ...one, url: `/static/${one.url}` })), warnings: [] }),
    ],
    navigateFallback: null,
    runtimeCaching: [
      {
        urlPattern: ({ request, url }) =>
          request.mode === 'navigate' && !/^\/(api|admin|static|account)\//.test(url.pathname),
        handler: 'NetworkOnly',
        options: { precacheFallback: { fallbackURL: '/static/index.html' }, plugins: [asNoAnswer] },
      },
    ],
  },
}

export default defineConfig({
  base: '/static/',
  resolve: { alias: { '@': fileURLToPath(new URL('src', import.meta.url)) } },
  plugins: [vue(), vuetify(), VitePWA(worker)],
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
    setupFiles: ['src/testingSetup.ts'],
    server: { deps: { inline: ['vuetify'] } },
    testTimeout: 120_000, // no test depends on how fast a machine is
    hookTimeout: 120_000,
  },
})
