import './theme/reset.css'
import './theme/fonts.css'
import 'vuetify/styles/core'
import './theme/base.css'
import './card/card.css'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import { view } from './api/client'
import App from './App.vue'
import { read } from './lab/useLab'
import { router } from './router'
import { makeVuetify } from './theme/vuetify'

const app = createApp(App).use(createPinia()).use(router).use(makeVuetify())
// Which lab is looked at is in the address.
view.value = new URLSearchParams(location.search).get('view') ?? ''
// The lab is asked for while the scripts load (index.html), so that everything
// is drawn in one go; without an answer the page says so itself.
void Promise.all([read(), router.isReady()]).then(() => app.mount('#app'))
