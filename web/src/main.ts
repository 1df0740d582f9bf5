import { VueQueryPlugin } from '@tanstack/vue-query'
import { createPinia } from 'pinia'
import { createApp } from 'vue'

import App from '@/app/App.vue'
import { exposeForMeasuring } from '@/app/measuring'
import { sayUncaught } from '@/app/uncaught'
import { router } from '@/app/router'
import { listPolicy } from '@/page/useLists'
import { vShown } from '@/page/shown'
import { vTip } from '@/page/tip'
import { vuetify } from '@/theme/vuetify'

const app = createApp(App).use(createPinia())
sayUncaught(app)
app
  .use(VueQueryPlugin, listPolicy)
  .use(router)
  .use(vuetify)
  .directive('tip', vTip)
  .directive('shown', vShown)
  .mount('#app')
exposeForMeasuring()
// The page itself opens without the server, once it has been here.
if (import.meta.env.PROD) void navigator.serviceWorker?.register('/sw.js').catch(() => undefined)
