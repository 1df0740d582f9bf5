import { createRouter, createWebHistory } from 'vue-router'

import { whenIdle } from '@/page/idle'
import ShelfView from '@/shelf/ShelfView.vue'

const screens = {
  lattice: () => import('@/lattice/LatticeView.vue'),
  field: () => import('@/field/FieldView.vue'),
  perform: () => import('@/perform/PerformView.vue'),
  order: () => import('@/order/OrderView.vue'),
  ports: () => import('@/ports/PortsView.vue'),
  takes: () => import('@/takes/TakesView.vue'),
  clips: () => import('@/clips/ClipsView.vue'),
  account: () => import('@/account/AccountView.vue'),
  clip: () => import('@/clips/editor/ClipEditor.vue'),
}

export const help = () => import('@/help/HelpDialog.vue')

/** `tab`: the screen that one is on, by the name of its tab. `called`: what a screen is, that shows no heading of its own. */
export const router = createRouter({
  history: createWebHistory('/'),
  routes: [
    { path: '/', name: 'shelf', component: ShelfView },
    {
      path: '/lattice/:id(\\d+)',
      name: 'lattice',
      component: screens.lattice,
      props: ({ params }) => ({ id: Number(params['id']) }),
      meta: { called: 'Lattice' },
    },
    {
      path: '/field/:id(\\d+)',
      name: 'field',
      component: screens.field,
      props: ({ params }) => ({ id: Number(params['id']) }),
      meta: { called: 'Field' },
    },
    {
      path: '/perform/:id(\\d+)',
      name: 'perform',
      component: screens.perform,
      props: ({ params }) => ({ id: Number(params['id']) }),
      meta: { tab: 'lattice', called: 'Perform' },
    },
    {
      path: '/order/:id(\\d+)',
      name: 'order',
      component: screens.order,
      props: ({ params }) => ({ id: Number(params['id']) }),
      meta: { called: 'Order' },
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
      meta: { called: 'Ports' },
    },
    { path: '/account', name: 'account', component: screens.account },
    { path: '/clips', name: 'clips', component: screens.clips },
    {
      path: '/clips/:id(\\d+)',
      name: 'clip',
      component: screens.clip,
      props: ({ params }) => ({ id: Number(params['id']) }),
      meta: { tab: 'clips', called: 'Notes of a clip' },
    },
    { path: '/:rest(.*)', redirect: '/' },
  ],
})

/** Fetch the other screens while nothing else is to be done: they are there then, also when the server is not. */
void router
  .isReady()
  .then(() =>
    whenIdle(
      () => [...Object.values(screens), help].forEach((fetch) => void fetch().catch(() => undefined)),
      5000,
    ),
  )
