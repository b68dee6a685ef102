import '@fontsource-variable/figtree/index.css'
import '@fontsource-variable/fraunces/wght.css'
import './theme/base.css'
import './theme/scheme'
import { VueQueryPlugin } from '@tanstack/vue-query'
import PrimeVue from 'primevue/config'
import { createApp } from 'vue'
import { createRouter, createWebHistory } from 'vue-router'
import { cache } from './api/queries'
import App from './App.vue'
import { DustyFern } from './theme/preset'

const router = createRouter({
  history: createWebHistory(),
  scrollBehavior: (_to, _from, saved) => saved ?? { top: 0 },
  routes: [
    { path: '/', component: () => import('./places/StudiosPlace.vue') },
    { path: '/s/:studio', redirect: (to) => `/s/${String(to.params.studio)}/bench` },
    { path: '/s/:studio/bench', name: 'bench', component: () => import('./places/BenchPlace.vue') },
    { path: '/s/:studio/hands', name: 'hands', component: () => import('./places/HandsPlace.vue') },
    { path: '/s/:studio/journal', name: 'journal', component: () => import('./places/JournalPlace.vue') },
    { path: '/s/:studio/line', name: 'line', component: () => import('./places/LinePlace.vue') },
    { path: '/s/:studio/week', name: 'week', component: () => import('./places/WeekPlace.vue') },
    { path: '/s/:studio/workload', name: 'workload', component: () => import('./places/WorkloadPlace.vue') },
    { path: '/s/:studio/sheet', name: 'sheet', component: () => import('./places/SheetPlace.vue') },
    { path: '/s/:studio/commissions', name: 'commissions', component: () => import('./places/CommissionsPlace.vue') },
    {
      path: '/s/:studio/commissions/new',
      name: 'newCommission',
      component: () => import('./places/NewCommissionPlace.vue'),
    },
    {
      path: '/s/:studio/commissions/:id(\\d+)/:stage?',
      name: 'commission',
      component: () => import('./places/CommissionPlace.vue'),
    },
    { path: '/s/:studio/pantry', name: 'pantry', component: () => import('./places/PantryPlace.vue') },
    {
      path: '/s/:studio/pantry/shopping',
      name: 'shopping',
      component: () => import('./places/PantryPlace.vue'),
    },
    { path: '/s/:studio/drawer', name: 'drawer', component: () => import('./places/DrawerPlace.vue') },
    { path: '/s/:studio/ways/:key?', name: 'ways', component: () => import('./places/WaysPlace.vue') },
    { path: '/s/:studio/first', name: 'first', component: () => import('./places/FirstPlace.vue') },
    { path: '/s/:studio/shelf', name: 'shelf', component: () => import('./places/ShelfPlace.vue') },
    { path: '/s/:studio/room', name: 'room', component: () => import('./places/RoomPlace.vue') },
    { path: '/s/:studio/rescue', name: 'rescue', component: () => import('./places/RescuePlace.vue') },
    { path: '/s/:studio/notebook', name: 'notebook', component: () => import('./places/NotebookPlace.vue') },
    { path: '/s/:studio/kitchen', name: 'kitchen', component: () => import('./places/KitchenPlace.vue') },
    { path: '/:rest(.*)*', component: () => import('./places/NowherePlace.vue') },
  ],
})
createApp(App)
  .use(router)
  .use(VueQueryPlugin, { queryClient: cache })
  .use(PrimeVue, {
    theme: {
      preset: DustyFern,
      options: { darkModeSelector: '.dim', cssLayer: { name: 'primevue', order: 'base, primevue' } },
    },
  })
  .mount('#app')
