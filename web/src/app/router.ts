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
    { path: '/clips', name: 'clips', component: () => import('@/clips/ClipsView.vue') },
    { path: '/:rest(.*)', redirect: '/' },
  ],
})
