import { createRouter, createWebHistory } from 'vue-router'

import ShelfView from '@/shelf/ShelfView.vue'

export const router = createRouter({
  history: createWebHistory('/'),
  routes: [
    { path: '/', name: 'shelf', component: ShelfView },
    {
      path: '/lattice/:id(\\d+)',
      name: 'lattice',
      component: () => import('@/lattice/LatticeView.vue'),
      props: ({ params }) => ({ id: Number(params['id']) }),
    },
    {
      path: '/takes/:id(\\d+)?',
      name: 'takes',
      component: () => import('@/takes/TakesView.vue'),
      props: ({ params }) => ({ id: params['id'] ? Number(params['id']) : null }),
    },
    { path: '/clips', name: 'clips', component: () => import('@/clips/ClipsView.vue') },
    {
      path: '/clips/:id(\\d+)',
      name: 'clip',
      component: () => import('@/clips/editor/ClipEditor.vue'),
      props: ({ params }) => ({ id: Number(params['id']) }),
      meta: { tab: 'clips' },
    },
    { path: '/:rest(.*)', redirect: '/' },
  ],
})
