import './theme/reset.css'
import './theme/fonts.css'
import 'vuetify/styles'
import './theme/base.css'
import './card/card.css'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { router } from './router'
import { makeVuetify } from './theme/vuetify'

createApp(App).use(createPinia()).use(router).use(makeVuetify()).mount('#app')
