import { createRouter, createWebHistory } from 'vue-router'
import { sheets } from './frame/sheets'
import { settle } from './lab/useLab'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/rack' },
    ...sheets.map((s) => ({
      path: s.tabs.length
        ? `${s.path}/:tab(${s.tabs
            .map((p) => p.path)
            .filter(Boolean)
            .join('|')})?`
        : s.path,
      component: s.view,
    })),
    { path: '/pull/:id', component: () => import('./sheets/cabling/PullSheet.vue') },
    { path: '/walk', component: () => import('./sheets/walk/WalkSheet.vue') },
    { path: '/:rest(.*)*', redirect: '/rack' },
  ],
})
router.afterEach((to, from) => {
  if (to.path !== from.path) settle()
})
