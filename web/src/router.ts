import { createRouter, createWebHistory } from 'vue-router'
import RackSheet from './sheets/rack/RackSheet.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/rack' },
    { path: '/rack', component: RackSheet },
    { path: '/gear', component: () => import('./sheets/gear/GearSheet.vue') },
    { path: '/cabling', component: () => import('./sheets/cabling/CablingSheet.vue') },
    { path: '/pull/:id', component: () => import('./sheets/cabling/PullSheet.vue') },
    { path: '/walk', component: () => import('./sheets/walk/WalkSheet.vue') },
    { path: '/drafts', component: () => import('./sheets/drafts/DraftsSheet.vue') },
    { path: '/findings', component: () => import('./sheets/findings/FindingsSheet.vue') },
    { path: '/logbook', component: () => import('./sheets/logbook/LogbookSheet.vue') },
    { path: '/rundown', component: () => import('./sheets/rundown/RundownPage.vue') },
    { path: '/:rest(.*)*', redirect: '/rack' },
  ],
})
