import { createRouter, createWebHistory } from 'vue-router'

import ShelfView from '@/shelf/ShelfView.vue'

const screens = {
  lattice: () => import('@/lattice/LatticeView.vue'),
  field: () => import('@/field/FieldView.vue'),
  perform: () => import('@/perform/PerformView.vue'),
  order: () => import('@/order/OrderView.vue'),
  ports: () => import('@/ports/PortsView.vue'),
  takes: () => import('@/takes/TakesView.vue'),
  clips: () => import('@/clips/ClipsView.vue'),
  clip: () => import('@/clips/editor/ClipEditor.vue'),
}

export const router = createRouter({
  history: createWebHistory('/'),
  routes: [
    { path: '/', name: 'shelf', component: ShelfView },
    {
      path: '/lattice/:id(\\d+)',
      name: 'lattice',
      component: screens.lattice,
      props: ({ params }) => ({ id: Number(params['id']) }),
    },
    {
      path: '/field/:id(\\d+)',
      name: 'field',
      component: screens.field,
      props: ({ params }) => ({ id: Number(params['id']) }),
    },
    {
      path: '/perform/:id(\\d+)',
      name: 'perform',
      component: screens.perform,
      props: ({ params }) => ({ id: Number(params['id']) }),
      meta: { tab: 'lattice' },
    },
    {
      path: '/order/:id(\\d+)',
      name: 'order',
      component: screens.order,
      props: ({ params }) => ({ id: Number(params['id']) }),
    },
    {
      path: '/takes/:id(\\d+)?',
      name: 'takes',
      component: screens.takes,
      props: ({ params }) => ({ id: params['id'] ? Number(params['id']) : null }),
    },
    {
      path: '/ports/:id(\\d+)?',
      name: 'ports',
      component: screens.ports,
      props: ({ params }) => ({ id: params['id'] ? Number(params['id']) : null }),
    },
    { path: '/clips', name: 'clips', component: screens.clips },
    {
      path: '/clips/:id(\\d+)',
      name: 'clip',
      component: screens.clip,
      props: ({ params }) => ({ id: Number(params['id']) }),
      meta: { tab: 'clips' },
    },
    { path: '/:rest(.*)', redirect: '/' },
  ],
})

/** Fetch the other screens while nothing else is to be done: they are there then, also when the server is not. */
void router.isReady().then(() => {
  const fetchAll = () => Object.values(screens).forEach((fetch) => void fetch().catch(() => undefined))
  // Not every browser knows when it is idle.
  if ('requestIdleCallback' in window) requestIdleCallback(fetchAll, { timeout: 5000 })
  else setTimeout(fetchAll, 3000)
})
