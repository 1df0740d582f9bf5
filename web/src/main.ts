import { createPinia } from 'pinia'
import { createApp } from 'vue'

import App from '@/app/App.vue'
import { exposeForMeasuring } from '@/app/measuring'
import { router } from '@/app/router'
import { vTip } from '@/page/tip'
import { vuetify } from '@/theme/vuetify'

createApp(App).use(createPinia()).use(router).use(vuetify).directive('tip', vTip).mount('#app')
exposeForMeasuring()
