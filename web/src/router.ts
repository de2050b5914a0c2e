import { createRouter, createWebHistory } from 'vue-router'
import RackSheet from './sheets/rack/RackSheet.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/rack' },
    { path: '/rack', component: RackSheet },
    { path: '/rundown', component: () => import('./sheets/rundown/RundownPage.vue') },
    { path: '/:rest(.*)*', redirect: '/rack' },
  ],
})
