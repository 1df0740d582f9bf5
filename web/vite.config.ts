import { fileURLToPath } from 'node:url'

import vue from '@vitejs/plugin-vue'
import vuetify from 'vite-plugin-vuetify'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  base: '/static/',
  resolve: { alias: { '@': fileURLToPath(new URL('src', import.meta.url)) } },
  plugins: [vue(), vuetify()],
  build: { chunkSizeWarningLimit: 700 },
  test: { environment: 'happy-dom', include: ['src/**/*.test.ts'], server: { deps: { inline: ['vuetify'] } } },
})
